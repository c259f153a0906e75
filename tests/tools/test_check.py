"""Faults found before a player does: each shown by an input, each mend tried (law D2)."""

from __future__ import annotations

import json
import random
from functools import partial
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from click.testing import CliRunner
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from glent import Bindings, GlentError, Place, Router, Scene
from glent.cli import main
from glent.cli.terminal import shown_file
from glent.demo import SCENES
from glent.demo.worlds import world_for
from glent.diagnose import CODES, STRICT, Finding, check, examine, why_node
from glent.formats import FileError, Recording, read_scene, scene_document, write_scene
from glent.review import compare
from glent.testing import Hand
from glent.wiring import Rehearsal
from glent.wiring.wiring import wiring_of

BROKEN = sorted((Path(__file__).parents[1] / "broken").glob("*.yaml"))
BY_CODE = ("enter-without-leave", "gesture-loses", "gesture-only", "popup-gap", "key-twice", "unbound-name",
           "gone-target", "facts-schema", "claimed-twice")  # fmt: skip
"""Those of handlers, which no file can have."""
WITHOUT_MEND = (
    "copied-wiring",
    "doubled-name",
    "focus-trap",
    "no-key-reaches",
    "off-screen",
    "same-name",
    "unused-suppression",
)


def code_of(path: Path) -> str:
    return path.stem.partition("--")[0]


def played(path: Path) -> Router:
    router = Router(read_scene(path), on_error=lambda error, event: None)
    Rehearsal(router)
    return router


def found_in(path: Path, *more: str) -> list[Finding]:
    return check(lambda: played(path), codes=[code for code in CODES if code not in STRICT or code in more])


def test_there_is_a_broken_scene_for_every_code() -> None:
    assert {code_of(path) for path in BROKEN} | set(BY_CODE) == set(CODES)
    page = (Path(__file__).parents[2] / "docs/findings.md").read_text()
    assert [line[4:] for line in page.splitlines() if line.startswith("### ")] == list(CODES)
    for code, sentence in CODES.items():
        assert sentence[:30].lower() in page.lower(), code


@pytest.mark.parametrize("path", BROKEN, ids=lambda path: path.stem)
def test_d2_each_broken_scene_is_caught_by_its_code_alone_and_its_mend_cures_it(path: Path, tmp_path: Path) -> None:
    code = code_of(path)
    found = found_in(path, code)
    assert {one.code for one in found} == {code}
    assert all(one.shown and one.sentence for one in found)
    if code in WITHOUT_MEND or path.stem == "small-target--high-only":  # no reach can go where another control is
        assert all(one.mend is None for one in found)
        return
    assert all(one.mend is not None for one in found)
    copy = tmp_path / path.name
    copy.write_text(path.read_text())
    told = CliRunner().invoke(main, ["check", str(copy), "--code", code, "--mend"])
    assert told.exit_code == 1, told.output
    assert found_in(copy, code) == []
    # The mend is all that has changed.
    before, after = (scene_document(read_scene(one)) for one in (path, copy))
    assert before != after
    changed = {tuple(one.mend.path.split("/")) for one in found if one.mend is not None}
    assert set(differences(before, after)) <= changed


@pytest.mark.parametrize("path", BROKEN, ids=lambda path: path.stem)
def test_d2_a_mend_changes_nothing_but_what_the_finding_is_about(path: Path) -> None:
    """As players notice it: all over the window is clicked, in the game as it was and in the mended one."""
    found = [one for one in found_in(path, code_of(path)) if one.mend is not None]
    about = {node for one in found for node in (*one.nodes, one.mend.path if one.mend is not None else "")}

    def mended(recording: object) -> Router:
        router = played(path)
        for one in found:
            if one.mend is not None:
                setattr(router.scene[one.mend.path], one.mend.name, one.mend.value)
        router.settle()
        return router

    router = played(path)
    width, height = router.scene.window
    recording = Recording((width, height))
    hand = Hand(router, tap=recording.add)
    for number in range(96):
        hand.click((width * (number % 12 + 0.5) / 12, height * (number // 12 + 0.5) / 8))
        hand.pause(1.0)
    for change in compare(lambda recording: played(path), mended, recording).changes:
        paths = {change.was.to, change.now.to, *(one for _, *ends in change.receivers for one in ends if one)}
        assert any(one == node or one.startswith(f"{node}/") for one in paths for node in about), change


def differences(before: dict[str, Any], after: dict[str, Any], path: tuple[str, ...] = ()) -> set[tuple[str, ...]]:
    """The paths of the nodes that are otherwise."""
    found = set()
    for key in ("layers", "children"):
        for old, new in zip(before.get(key, ()), after.get(key, ()), strict=True):
            here = (*path, old["name"])
            found |= differences(old, new, here)
            own = [
                {name: value for name, value in one.items() if name not in ("layers", "children")} for one in (old, new)
            ]
            if own[0] != own[1]:
                found.add(here)
    return found


@pytest.mark.parametrize("name", sorted(SCENES))
def test_d2_the_shipped_scenes_have_no_fault(name: str) -> None:
    assert check(lambda: world_for(SCENES[name], lambda error, event: None)[0]) == []


def test_d2_faults_of_handlers_are_shown_too() -> None:
    def half_heard() -> Router:
        scene = Scene((400, 300))
        node = scene.layer("desk").add("lamp", role="button", label="lamp", place=Place(20, 20, width=80, height=60))
        node.on("enter", lambda event: None)
        return Router(scene)

    (one,) = check(half_heard)
    assert (one.code, one.nodes, one.mend) == ("enter-without-leave", ("desk/lamp",), None)

    def never_dragged() -> Router:
        scene = Scene((400, 300))
        card = scene.layer("desk").add("card", solidity="solid", place=Place(20, 20, width=200, height=200))
        card.on("drag", lambda event: None)
        card.on("click", lambda event: None)
        grip = card.add("grip", place=Place(0, 0), solidity="solid", carries=[])
        grip.on("drag", lambda event: None)
        return Router(scene)

    def never_held(kind: str) -> Router:
        scene = Scene((400, 300))
        card = scene.layer("desk").add("card", solidity="solid", place=Place(20, 20, width=200, height=200))
        card.on(kind, lambda event: None)
        card.on("click", lambda event: None)
        grip = card.add("grip", place=Place(0, 0), solidity="solid", carries=["click"])
        grip.on(kind, lambda event: None)
        return Router(scene)

    for kind in ("hold", "swipe"):
        (one,) = check(partial(never_held, kind))
        assert (one.code, one.nodes) == ("gesture-loses", ("desk/card",))
        assert one.shown == f"{kind}s from 3 points of it were tried: {kind} desk/card/grip came of it"
    (one,) = check(never_dragged)
    assert (one.code, one.nodes) == ("gesture-loses", ("desk/card",))
    assert one.shown == "drags from 3 points of it were tried: drag_start desk/card/grip came of it"


def codes_of(build: Any) -> list[tuple[str, tuple[str, ...]]]:
    return [(one.code, one.nodes) for one in check(build)]


def test_d2_gestures_have_another_way_popups_are_reached_and_shortcuts_are_heard() -> None:
    def gestures(click: bool, around: bool) -> Router:
        scene = Scene((400, 300))
        shelf = scene.layer("desk").add("shelf", place=Place(10, 10, width=300, height=200), solidity="solid")
        crate = shelf.add("crate", place=Place(20, 20, width=80, height=80))
        crate.on("drag", lambda event: event.take())
        if click:
            (shelf if around else crate).on("click", lambda event: None)
        return Router(scene)

    assert codes_of(lambda: gestures(False, False)) == [("gesture-only", ("desk/shelf/crate",))]
    assert codes_of(lambda: gestures(True, False)) == codes_of(lambda: gestures(True, True)) == []

    def menu(gap: float, delay: float) -> Router:
        scene = Scene((400, 300))
        desk = scene.layer("desk")
        opener = desk.add("orders", role="button", label="Orders", place=Place(20, 20, width=90, height=40))
        shown = desk.add("list", place=Place(20, 60 + gap, width=90, height=100), solidity="solid", visible=False)
        router = Router(scene)
        due: list[Any] = []

        def show(event: object) -> None:
            shown.visible = True
            while due:
                due.pop().stop()

        def hide(event: object) -> None:
            due.append(router.at(router.now + delay, lambda time: setattr(shown, "visible", False)))

        for node in (opener, shown):
            node.on("enter", show)
            node.on("leave", hide)
        return router

    assert codes_of(lambda: menu(30.0, 0.0)) == [("popup-gap", ("desk/orders",))]
    assert codes_of(lambda: menu(0.0, 0.0)) == codes_of(lambda: menu(30.0, 2.0)) == []

    def shortcuts(*names: str) -> Router:
        scene = Scene((400, 300))
        desk = scene.layer("desk")
        for number, name in enumerate(names):
            node = desk.add(
                f"node-{number}",
                role="button",
                label=f"n{number}",
                place=Place(10 + 120 * number, 10, width=90, height=60),
            )
            node.on(name, lambda event: event.take())
        router = Router(scene)
        router.seat().bindings = Bindings({"harbour:horn": ["KeyH"], "harbour:bell": ["KeyB"], "harbour:none": []})
        return router

    assert codes_of(lambda: shortcuts("harbour:horn", "harbour:bell", "harbour:horn")) == [
        ("key-twice", ("desk/node-0", "desk/node-2"))
    ]
    assert codes_of(lambda: shortcuts("harbour:horn", "harbour:bell", "harbour:none", "harbour:none")) == []


@pytest.mark.parametrize("channel", ["keys", "pad"])
def test_d2_a_layer_that_waits_for_what_one_in_front_claims_is_told(channel: str) -> None:
    def build(front: bool, hears: bool = True) -> Router:
        scene = Scene((400, 300))
        for order, name in enumerate(("helm", "menu")):
            layer = scene.layer(name, order=order, claims=[channel], visible=name == "helm" or front)
            if hears:
                layer.on("key_down", lambda event: event.take())
        return Router(scene)

    assert codes_of(lambda: build(True)) == [("claimed-twice", ("helm", "menu"))]
    assert codes_of(lambda: build(False)) == codes_of(lambda: build(True, False)) == []


def test_d2_names_that_nobody_binds_targets_that_are_gone_and_facts_that_are_wrong(tmp_path: Path) -> None:
    file = tmp_path / "desk.yaml"
    file.write_text(WIRED_DESK)

    def build(names: tuple[str, ...], remove: bool = False, depth: Any = 3) -> Router:
        router = Router(read_scene(file))
        wiring = wiring_of(router.scene)
        for name in names:
            wiring.on(name, lambda: None)
        if remove:
            router.scene["desk/chart"].remove()
        router.scene["desk/horn"].facts["depth"] = depth
        return router

    assert codes_of(lambda: build(("sound-horn",))) == codes_of(lambda: build(())) == []
    found = check(lambda: build(("sound-hron",)))
    assert [one.code for one in found] == ["unbound-name", "unbound-name"]
    assert "near is sound-horn" in found[1].sentence
    assert codes_of(lambda: build(("sound-horn",), remove=True)) == [("gone-target", ("desk/show",))]
    (wrong,) = check(lambda: build(("sound-horn",), depth="deep"))
    assert (wrong.code, wrong.nodes) == ("facts-schema", ("desk/horn",))
    assert "depth" in wrong.shown


WIRED_DESK = """
glent: scene
version: 2
size: [400, 300]
facts_schema: {properties: {depth: {type: number}}}
layers:
- name: desk
  children:
  - name: horn
    label: Horn
    place: {left: 20, top: 20, width: 90, height: 60}
    control: {kind: button}
    wiring: {tells: {act: sound-horn}}
  - name: show
    label: Show
    place: {left: 120, top: 20, width: 90, height: 60}
    control: {kind: button}
    wiring: {does: [{on: act, act: toggle, node: desk/chart}]}
  - {name: chart, place: {left: 20, top: 100, width: 90, height: 60}}
"""

SUPPRESSED = """
glent: scene
version: 2
size: [400, 300]
layers:
- name: desk
  suppress: {no-name: Names come with the next drop.}
  children:
  - {name: horn, place: {left: 20, top: 20, width: 90, height: 60}, control: {kind: button}}
  - name: lamp
    suppress: {label-over: The fog is a lesson., ghots: a slip}
    label: Lamp
    place: {left: 150, top: 20, width: 90, height: 60}
    control: {kind: button}
- name: weather
  order: 5
  children:
  - name: fog
    solidity: solid
    suppress: {same-name: once}
    place: {left: 140, top: 0, right: 0, bottom: 0}
    facts: {picture: fog.png}
"""


def test_d2_what_is_meant_is_suppressed_with_a_reason_and_what_is_not_needed_is_told(tmp_path: Path) -> None:
    file = tmp_path / "desk.yaml"
    file.write_text(SUPPRESSED.replace("label-over", "covered"))
    found = examine(lambda: played(file))
    assert [one.code for one in found.findings] == ["label-over", *["unused-suppression"] * 3]
    assert [one.nodes for one in found.findings[1:]] == [("desk/lamp",), ("desk/lamp",), ("weather/fog",)]
    assert "near is ghost" in found.findings[2].shown
    assert [(one.code, one.nodes, why) for one, why in found.suppressed] == [
        ("no-name", ("desk/horn",), "Names come with the next drop.")
    ]
    # Codes that are not looked for leave their suppressions alone.
    assert examine(lambda: played(file), codes=["ghost", "covered"]).findings == ()
    file.write_text(SUPPRESSED.replace("weather\n", "weather\n  suppress: {label-over: The fog is a lesson.}\n"))
    assert {one.code for one in check(lambda: played(file))} == {"unused-suppression"}  # by the layer of the faulty one
    scene = read_scene(file)
    write_scene(scene, tmp_path / "again.yaml")
    assert read_scene(tmp_path / "again.yaml")["desk"].notes == scene["desk"].notes
    for wrong in ("{}", "{Covered: x}", "{covered: ''}", "{covered: 3}", "covered"):
        file.write_text(SUPPRESSED.replace("{same-name: once}", wrong))
        with pytest.raises(FileError, match="suppress"):
            read_scene(file)


def test_findings_are_sarif_by_the_schema_of_oasis(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    schema = json.loads((Path(__file__).parent / "sarif-2.1.0.json").read_text())  # as OASIS has it, without blanks
    monkeypatch.chdir(tmp_path)
    Path("desk.yaml").write_text(SUPPRESSED)
    words = ["check", "desk.yaml", *map(str, BROKEN), "glent.demo.games:quay", "--format", "sarif"]
    told = CliRunner().invoke(main, words)
    assert told.exit_code == 1
    log = json.loads(told.stdout)
    jsonschema.validate(log, schema)
    (run,) = log["runs"]
    assert [rule["id"] for rule in run["tool"]["driver"]["rules"]] == list(CODES)
    assert {one["ruleId"] for one in run["results"]} >= set(CODES) - set(BY_CODE) - set(STRICT)
    suppressed = [one for one in run["results"] if "suppressions" in one]
    said = [one["suppressions"][0]["justification"] for one in suppressed]
    assert (said[0], len(said)) == ("Names come with the next drop.", 4)  # the quay has three
    place = suppressed[0]["locations"][0]["physicalLocation"]
    assert place["artifactLocation"] == {"uri": "desk.yaml", "uriBaseId": "ROOT"}
    assert place["region"] == {"startLine": 9, "startColumn": 5}
    marks = [one["partialFingerprints"]["codeAndNodes/v1"] for one in run["results"]]
    assert len(set(marks)) == len(marks)
    assert CliRunner().invoke(main, ["check", "desk.yaml", "--format", "json"]).stdout == (
        CliRunner().invoke(main, ["check", "desk.yaml", "--json"]).stdout
    )


def test_sizes_codes_and_what_is_wrong_with_them() -> None:
    def build() -> Router:
        scene = Scene((800, 600), fit="none")
        scene.layer("desk").add("horn", role="button", label="horn", place=Place(500, 20, width=100, height=60))
        return Router(scene)

    assert check(build) == []
    (one,) = check(build, sizes=[(800, 600), (390, 844)])
    assert (one.code, one.size) == ("off-screen", (390.0, 844.0))
    assert check(build, sizes=[(390, 844)], codes=["covered"]) == []
    with pytest.raises(GlentError, match="there is no code 'coverd', the codes are unseen-cover"):
        check(build, codes=["coverd"])


def test_the_command_tells_place_proof_and_mend(tmp_path: Path) -> None:
    path = next(one for one in BROKEN if one.stem == "covered--by-a-fog")
    told = CliRunner().invoke(main, ["check", str(path)])
    assert told.exit_code == 1
    assert told.output.splitlines() == [
        f"{shown_file(path)}:7:5: covered: desk/horn lies under weather/fog at every point",
        "    shown: a press at 100, 70: the press landed on weather/fog, which is solid",
        "    mend: make weather/fog glass",
        "1 finding in covered--by-a-fog",
    ]
    (row,) = json.loads(CliRunner().invoke(main, ["check", str(path), "--json"]).output)
    assert (row["line"], row["column"]) == (7, 5)
    assert row["change"] == {"path": "weather/fog", "name": "solidity", "value": "glass"}
    clean = tmp_path / "clean.yaml"
    clean.write_text(path.read_text().replace("solidity: solid, ", ""))
    told = CliRunner().invoke(main, ["check", str(clean), "--sizes", "800x600,1280x720"])
    assert (told.exit_code, told.output) == (0, "no findings in clean\n")
    assert CliRunner().invoke(main, ["check", str(clean), "--sizes", "wide"]).exit_code == 2
    assert CliRunner().invoke(main, ["check", str(clean), "--code", "fog"]).exit_code == 2
    told = CliRunner().invoke(main, ["check", "glent.demo.worlds:manned", "--mend"])
    assert told.exit_code == 2


# -- why -------------------------------------------------------------------------------------------------------------

POINTED = ("unseen-cover", "label-over", "background-in-front", "covered", "hollow", "ghost", "no-size", "clipped",
           "disabled-above", "off-screen")  # fmt: skip


@pytest.mark.parametrize("path", [one for one in BROKEN if code_of(one) in POINTED], ids=lambda path: path.stem)
def test_d2_why_a_node_gets_no_press_with_the_change_that_lets_it(path: Path) -> None:
    if path.stem == "unseen-cover--over-the-world":
        return  # there the world gets none
    told = why_node(lambda: played(path), "desk/horn" if "above" not in path.stem and "clip" not in path.stem else next(
        node.path for node in read_scene(path).walk() if node.name == "horn"))  # fmt: skip
    assert not told.gets_it
    assert told.shown
    if code_of(path) == "off-screen":
        assert told.mends == ()
        return
    router = played(path)
    (mend,) = told.mends
    setattr(router.scene[mend.path], mend.name, mend.value)
    assert why_node(lambda: router, told.path).gets_it


def test_d2_why_hidden_disabled_and_sound_nodes_do_or_do_not() -> None:
    def build() -> Router:
        scene = Scene((400, 300))
        desk = scene.layer("desk")
        desk.add("horn", role="button", place=Place(10, 10, width=60, height=60))
        desk.add("flare", role="button", place=Place(110, 10, width=60, height=60), enabled=False)
        desk.add("log", visible=False).add(
            "close", role="button", place=Place(10, 100, width=60, height=60), enabled=False
        )
        return Router(scene)

    horn, flare, close = (why_node(build, f"desk/{name}") for name in ("horn", "flare", "log/close"))
    assert (horn.gets_it, horn.sentence, horn.mends) == (True, "desk/horn gets the press", ())
    assert flare.sentence == "desk/flare is hit and gets nothing: it is disabled"
    assert [mend.sentence for mend in flare.mends] == ["enable desk/flare"]
    assert close.sentence == "desk/log/close is not there: desk/log is not visible"
    assert [mend.sentence for mend in close.mends] == ["show desk/log", "enable desk/log/close"]
    with pytest.raises(GlentError, match="no node at 'desk/hron'"):
        why_node(build, "desk/hron")


@settings(max_examples=30, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.integers(0, 2**32), st.integers(0, 200))
def test_d2_why_agrees_with_the_router(seed: int, number: int) -> None:
    router = sound(seed)
    nodes = [node for node in router.scene.walk() if node.is_control]
    node = nodes[number % len(nodes)]
    told = why_node(lambda: sound(seed), node.path)
    assert told.gets_it == (node.is_visible and node.is_enabled)
    assert (told.mends == ()) == told.gets_it


def test_why_of_a_sample_of_a_recording_tells_its_story() -> None:
    run = lambda *words: CliRunner().invoke(main, ["why", *words])  # noqa: E731
    told = run("harbour", "--recording", "night-shift", "--at", "2.6")
    assert told.exit_code == 0, told.output
    assert "PointerSample(2.628, 'press', 900.0, 28.0, 'mouse'" in told.output
    for sentence in ("before it: mouse hovers hud/toolbar", "hud/toolbar is hit and may have the input",
                     "the press landed on hud/toolbar, which is solid; the world does not get it",
                     "press was told to hud/toolbar"):  # fmt: skip
        assert sentence in told.output
    row = json.loads(run("harbour", "--recording", "night-shift", "--at", "2.6", "--json").output)
    assert row["sample"]["action"] == "press"
    assert row["nodes"][0]["sentence"]
    keys = run("bridge", "--recording", "menu", "--at", "1.0").output
    assert "before it:" in keys
    assert run("harbour", "--recording", "night-shift", "--at", "1e6").exit_code == 2
    assert run("harbour", "1", "2", "--node", "hud").exit_code == 2
    told = run("harbour", "--node", "hud/toolbar/flares")
    assert (told.exit_code, told.output.splitlines()[-1]) == (1, "    what would let it: enable hud/toolbar/flares")
    assert json.loads(run("harbour", "--node", "hud/toolbar/horn", "--json").output)["gets_it"] is True
    assert run("bridge", "--key", "Tab").output.splitlines()[:3] == [
        "nothing has the focus",
        "Tab is bound to next, which moves the focus",
        "so the Tab key moves the focus to helm/bar/cargo; the world does not get it",
    ]
    assert json.loads(run("bridge", "--key", "KeyW", "--json").output)["world"] is True
    assert run("bridge", "--key", "KeyW", "--node", "helm").exit_code == 2


# -- no false alarm --------------------------------------------------------------------------------------------------


def sound(seed: int) -> Router:
    """A scene in which every control can be reached: panels side by side, rows of controls, words that are ghosts."""
    choose = random.Random(seed)
    scene = Scene((1280, 800))
    for number in range(choose.randint(1, 3)):
        layer = scene.layer(f"layer-{number}", order=number)
        for column in range(choose.randint(1, 3)):
            panel = layer.add(
                f"panel-{column}",
                place=Place(20 + 420 * column, 20 + 260 * number, width=400, height=240, turn=choose.choice([0, 0, 3])),
                solidity=choose.choice(["solid", "solid", "hollow"]),
                facts=choose.choice([{}, {"picture": "panel.png"}]),
            )
            panel.add("word", place=Place(10, 4, width=200, height=24), solidity="ghost", facts={"text": "Kelp"})
            for row in range(choose.randint(1, 3)):
                for place in range(choose.randint(1, 3)):
                    name = f"control-{row}-{place}"
                    node = panel.add(
                        name,
                        role=choose.choice(["button", "checkbox", "switch", "textbox", "slider"]),
                        label=f"{name} of {number} {column}",
                        place=Place(
                            10 + 128 * place,
                            36 + 66 * row,
                            width=choose.randint(48, 120),
                            height=choose.randint(44, 60),
                        ),
                        enabled=choose.random() > 0.1,
                        visible=choose.random() > 0.1,
                        solidity=choose.choice([None, None, "solid"]),
                    )
                    if choose.random() < 0.3:
                        node.add("icon", place=Place(4, 4, width=20, height=20), facts={"picture": "icon.png"})
    if choose.random() < 0.5:
        haze = scene.layer("haze", order=9).add("haze", solidity=choose.choice(["glass", "ghost", "hollow"]))
        haze.facts["picture"] = "haze.png"
    return Router(scene)


@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.integers(0, 2**32))
def test_d2_sound_scenes_give_no_finding(seed: int) -> None:
    assert check(lambda: sound(seed), codes=[code for code in CODES if not code.startswith("small")]) == []
