"""The live view in the game's own window: its switch, its edits and its panels, by the public calls alone."""

from __future__ import annotations

import difflib
import json
import random
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from glent import (
    KeySample,
    PadSample,
    Place,
    PointerSample,
    Reason,
    Router,
    SampleError,
    Scene,
    SceneError,
    TickSample,
    WheelSample,
    WindowSample,
)
from glent.controls import control_of
from glent.demo import SCENES
from glent.demo.worlds import world_for
from glent.formats import (
    EventLog,
    FileError,
    Recording,
    file_of,
    keep_all,
    log_rows,
    read_scene,
    replay,
    scene_document,
    scene_from,
    source_of,
    write_scene,
)
from glent.formats.recording import sample_fields
from glent.live import Attribute, Editor, EditorError, Edits, Overlay, attributes_of, beneath, read_attribute
from glent.testing import Hand

DESK = """\
glent: scene
version: 2
size: [1280, 800]
layers:
- name: desk
  children:
  - name: dock
    place: {left: 60, top: 560, width: 520, height: 160}
    solidity: solid
    children:
    - {name: cast-off, role: button, place: {left: 20, top: 30, width: 220, height: 90}, reach: 12}
- name: weather
  order: 10
  children:
  # the fog is painted over the harbour
  - {name: fog, solidity: solid, place: {left: 0, top: 400, right: 0, bottom: 0}}
  - {name: picture, place: {left: 0, top: 500, right: 0, bottom: 0}}
  - {name: gull, solidity: ghost, place: {left: 100, top: 560, width: 80, height: 60}}
  - {name: sleeping, visible: false, role: button, place: {left: 90, top: 580, width: 80, height: 60}}
"""


class Player:
    """Who plays in a window with an overlay: a hand whose samples all go through that."""

    def __init__(self, overlay: Overlay) -> None:
        self.overlay = overlay
        self.time = 1.0

    def feed(self, kind: type, *rest: Any, **more: Any) -> Any:
        self.time += 0.02
        return self.overlay.feed(kind(self.time, *rest, **more))

    def frames(self, many: int = 2) -> None:
        for _ in range(many):
            self.feed(TickSample)

    def key(self, code: str, *held: str) -> Any:
        for one in held:
            self.feed(KeySample, "down", one)
        verdict = self.feed(KeySample, "down", code)
        self.feed(KeySample, "up", code)
        for one in held:
            self.feed(KeySample, "up", one)
        self.frames()
        return verdict

    def click(self, x: float, y: float) -> Any:
        self.feed(PointerSample, "move", x, y)
        self.feed(PointerSample, "press", x, y)
        verdict = self.feed(PointerSample, "release", x, y)
        self.frames()
        return verdict

    def click_on(self, path: str) -> None:
        corners = self.overlay.scene[f"live/look/in/{path}"].screen_corners()
        self.click(*(sum(one[axis] for one in corners) / 4 for axis in (0, 1)))

    def fields(self) -> str:
        (made,) = (one.name for one in self.overlay.scene["live/look/in"].children if one.name.startswith("fields"))
        return made

    def type_in(self, name: str, text: str, *, enter: bool = True) -> None:
        path = f"{self.fields()}/row {name}/{name}"
        self.click_on(path)
        control_of(self.overlay.scene[f"live/look/in/{path}"]).value.current = text
        if enter:
            self.key("Enter")

    def said(self) -> str:
        return str(self.overlay.scene["live/look/in/said"].facts["text"]).replace("\n", " ").strip()


@pytest.fixture
def file(tmp_path: Path) -> Path:
    made = tmp_path / "desk.yaml"
    made.write_text(DESK)
    return made


@pytest.fixture
def player(file: Path) -> Player:
    return Player(Overlay(Router(read_scene(file)), editor=Editor("true {file}:{line}")))


def test_a_covered_button_is_found_its_cover_made_glass_and_that_kept(player: Player, file: Path) -> None:
    overlay, clicked = player.overlay, []
    overlay.game.scene["desk/dock/cast-off"].on("click", clicked.append)
    assert player.click(150, 600).owner.path == "weather/fog"
    player.key("F8")
    player.click(150, 600)
    found = {one.node.path: (one.mark, one.by.path) for one in overlay.inspection.found}
    assert list(found) == ["weather/sleeping", "weather/gull", "weather/picture", "weather/fog", "desk/dock/cast-off",
                           "desk/dock"]  # fmt: skip
    assert found["weather/sleeping"] == ("hidden", "weather/sleeping")
    assert found["weather/gull"][0] == "ghost"
    assert found["weather/picture"][0] == "only drawn"
    assert found["weather/fog"][0] == "hit"
    assert found["desk/dock/cast-off"] == ("covered", "weather/fog")
    assert overlay.chosen is overlay.game.scene["weather/fog"]
    assert not clicked
    player.click_on(f"{player.fields()}/solidity/options/glass")
    assert overlay.chosen.solidity == "glass"
    assert overlay.edits.changed == ((overlay.chosen, "solidity"),)
    assert [one.mark for one in overlay.inspection.found][4] == "hit"
    assert str(overlay.scene[f"live/look/in/{player.fields()}/solidity/text"].facts["text"]).startswith("* solidity")
    player.click_on("do/keep")
    assert player.said() == "kept in the file: weather/fog: solidity is 'glass'"
    assert not overlay.edits.changed
    changed = [
        line
        for line in difflib.unified_diff(DESK.splitlines(), file.read_text().splitlines(), n=0, lineterm="")
        if line[0] in "+-" and line[:3] not in ("+++", "---")
    ]
    assert changed == [
        "-  - {name: fog, solidity: solid, place: {left: 0, top: 400, right: 0, bottom: 0}}",
        "+  - {name: fog, solidity: glass, place: {left: 0, top: 400, right: 0, bottom: 0}}",
    ]
    player.key("F8")
    player.click(150, 600)
    assert len(clicked) == 1
    assert not overlay.shown


def test_keys_and_wheel_walk_the_list_and_the_tree(player: Player) -> None:
    overlay = player.overlay
    player.key("F8")
    player.feed(PointerSample, "move", 150, 600)
    player.frames()
    assert len(overlay.inspection.found) == 6
    assert overlay.chosen is None
    walk = [("ArrowDown", "weather/sleeping"), ("ArrowDown", "weather/gull"), ("ArrowUp", "weather/sleeping"),
            ("PageUp", "weather/gull"), ("ArrowLeft", "weather"), ("PageUp", "weather"), ("PageDown", "desk"),
            ("ArrowRight", "desk/dock"), ("ArrowRight", "desk/dock/cast-off"),
            ("ArrowRight", "desk/dock/cast-off")]  # fmt: skip
    for key, path in walk:
        player.key(key)
        assert overlay.chosen.path == path, key
    player.feed(WheelSample, 150, 600, 0, 1)
    assert overlay.chosen.path == "desk/dock"
    player.feed(WheelSample, 150, 600, 0, -1, "line")
    assert overlay.chosen.path == "desk/dock/cast-off"
    kinds = [one.kind for one in overlay.outlines]
    assert kinds == ["box", "shape", "reach"]
    box, reach = overlay.outlines[0].lines, overlay.outlines[2].lines
    assert min(x for x, *_ in box) == 80
    assert min(x for x, *_ in reach) == 68
    player.click(150, 600)
    player.feed(PointerSample, "move", 20, 20)
    assert len(overlay.inspection.found) == 6
    assert overlay.inspection.is_pinned
    player.key("Escape")
    player.feed(PointerSample, "move", 20, 20)
    assert overlay.inspection.found == []


def test_what_is_typed_counts_when_it_is_entered_or_left_and_what_is_wrong_is_said(player: Player) -> None:
    overlay = player.overlay
    player.key("F8")
    player.click(150, 600)
    fog = overlay.chosen
    player.type_in("order", "12", enter=False)
    player.frames()
    assert fog.order == 0
    player.key("Enter")
    assert fog.order == 12
    player.type_in("place.left", "50% - 600", enter=False)
    player.click_on("said")
    player.click_on(f"{player.fields()}/row order/order")  # the focus goes elsewhere
    assert fog.place == Place("50% - 600", 400, 0, 0)
    player.type_in("order", "high")
    assert fog.order == 12
    assert player.said() == "order is 'high', expected a number"
    player.type_in("place.left", "banana")
    assert "left is 'banana', expected terms like" in player.said()
    assert fog.place.left == "50% - 600"
    player.key("KeyZ", "ControlLeft")
    player.click_on("do/undo")
    assert fog.place.left == 0
    player.click_on("do/redo")
    assert fog.place.left == "50% - 600"
    player.click_on("do/revert")
    assert fog.place.left == 0
    assert fog.order == 0
    assert player.said() == "2 taken back"
    player.click_on("do/undo")
    assert fog.order == 12
    assert len(overlay.edits.changed) == 2
    player.click_on("do/open")
    assert player.said().endswith("desk.yaml:16:5")


def test_w3_p11_what_the_world_holds_is_lifted_and_nothing_sticks(player: Player) -> None:
    overlay = player.overlay
    assert player.feed(KeySample, "down", "KeyW").world
    assert player.feed(PointerSample, "press", 20, 20).world
    opened = player.feed(KeySample, "down", "F8")
    assert set(opened.lifts) == {"keys/KeyW", "mouse/primary"}
    assert opened.reason is Reason.WITHHELD
    assert opened.why == "the live view has all input now, so the window is withheld from the game"
    for _ in range(3):
        assert not player.feed(KeySample, "down", "KeyW", repeat=True).world
    player.feed(KeySample, "up", "F8")
    assert not player.feed(KeySample, "up", "KeyW").world
    assert not player.feed(PointerSample, "release", 20, 20).world
    assert not player.feed(KeySample, "down", "KeyA").world
    player.key("F8")
    assert not player.feed(KeySample, "down", "KeyA", repeat=True).world  # what went down meanwhile is the tool's
    assert not player.feed(KeySample, "up", "KeyA").world
    assert not overlay.shown
    assert player.feed(KeySample, "down", "KeyA").world
    assert player.feed(KeySample, "down", "KeyW").world
    assert player.click(20, 20).world


def test_w3_what_went_up_unseen_or_with_its_device_does_not_stay_the_tools(player: Player) -> None:
    player.key("F8")
    player.feed(KeySample, "down", "KeyA")
    player.feed(PadSample, "right_cluster_bottom", 1.0)
    player.feed(PointerSample, "press", 20, 20)
    player.key("F8")
    assert not player.feed(PointerSample, "move", 30, 20, buttons=1).world
    assert not player.feed(PadSample, "right_cluster_bottom", 0.9).world
    assert player.feed(KeySample, "down", "KeyA").world
    assert player.feed(PointerSample, "press", 20, 20).world
    player.feed(WindowSample, "device_gone", pointer="pad0")
    assert player.feed(PadSample, "right_cluster_bottom", 1.0).world


def test_g8_a_paused_game_goes_on_where_it_stood_and_one_that_is_not_goes_on(player: Player) -> None:
    overlay = player.overlay
    told: list[float] = []
    player.frames(1)
    overlay.game.at(player.time + 1.0, told.append)
    due = player.time + 1.0
    player.key("F8")
    assert overlay.is_paused
    stood = overlay.game.now
    player.time += 10.0
    player.frames()
    assert overlay.game.now == stood
    assert not told
    player.key("F8")
    sample = TickSample(player.time)
    assert overlay.at_game_time(sample).time < player.time - 9.0
    player.time += 1.2
    player.frames()
    assert told == [due]
    player.key("F8")
    overlay.pauses = False
    before = overlay.game.now
    player.time += 3.0
    player.frames(1)
    assert overlay.game.now == pytest.approx(before + 3.0, abs=0.1)
    assert not overlay.is_paused
    player.click_on("do/pause")
    assert overlay.pauses
    assert overlay.is_paused
    with pytest.raises(SampleError):
        player.overlay.feed(TickSample(0.0))
    with pytest.raises(SampleError):
        player.overlay.feed(PointerSample(player.time, "jump", 1, 1))
    player.key("F8")
    assert player.click(150, 600).owner.path == "weather/fog"


# -- any sequence --------------------------------------------------------------------------------------------------

CODES = ("KeyW", "KeyA", "Space", "F8", "F8", "ArrowDown", "ControlLeft", "Enter")


@st.composite
def acts(draw: st.DrawFn) -> tuple[Any, ...]:
    kind = draw(st.sampled_from(["key", "key", "pointer", "pointer", "pad", "tick", "wheel", "window"]))
    if kind == "key":
        return (KeySample, draw(st.sampled_from(["down", "up"])), draw(st.sampled_from(CODES)))
    if kind == "pointer":
        name = draw(st.sampled_from(["mouse", "finger"]))
        action = draw(st.sampled_from(["move", "press", "release", "cancel"]))
        x, y = draw(st.sampled_from([(20, 20), (150, 600), (900, 80), (860, 480), (1000, 120), (400, 770)]))
        return (PointerSample, action, x, y, name, "touch" if name == "finger" else "mouse")
    if kind == "pad":
        return (
            PadSample,
            draw(st.sampled_from(["right_cluster_bottom", "left_stick_x"])),
            draw(st.sampled_from([0.0, 0.1, 0.9])),
        )
    if kind == "wheel":
        return (WheelSample, 150, 600, 0, draw(st.sampled_from([-30, 30])))
    if kind == "window":
        return (WindowSample, draw(st.sampled_from(["focus_lost", "focus_gained"])))
    return (TickSample,)


class World:
    """A game that knows nothing but verdicts: what it holds has been given to it, and not been lifted."""

    def __init__(self) -> None:
        self.held: set[str] = set()

    def take(self, sample: Any, verdict: Any) -> None:
        name, down = None, True
        if isinstance(sample, KeySample):
            name, down = f"keys/{sample.code}", sample.action == "down"
        elif isinstance(sample, PointerSample) and sample.action != "move":
            name, down = f"{sample.pointer}/primary", sample.action == "press"
        elif isinstance(sample, PadSample):
            name, down = f"pad0/{sample.control}", abs(sample.value) > 0.5
        if name is not None and verdict.world and down:
            self.held.add(name)
        elif name is not None and not down:
            self.held.discard(name)
        self.held.difference_update(verdict.lifts)


@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(st.lists(acts(), min_size=5, max_size=60), st.booleans())
def test_w3_the_world_holds_nothing_while_the_live_view_has_the_input(
    script: list[tuple[Any, ...]], pauses: bool
) -> None:
    scene = scene_from(DOCUMENT)
    overlay = Overlay(Router(scene), pauses=pauses)
    recording = Recording(scene.window)
    recording.follow(overlay.game)
    steps: list[Any] = []
    overlay.game.watch(lambda sample, verdict: steps.append((sample, verdict)))
    player, world, told = Player(overlay), World(), []
    scene["desk/dock/cast-off"].on("click", told.append)
    player.frames(1)
    for kind, *rest in script:
        was = overlay.shown
        before = len(told)
        verdict = player.feed(kind, *rest)
        world.take(kind(player.time, *rest), verdict)
        if was and overlay.shown:
            assert not verdict.world or kind is TickSample
            assert len(told) == before
        if overlay.shown:
            assert not world.held
        assert overlay.is_paused == (overlay.shown and pauses)
    # The game's recording knows nothing of the live view, and replays the same.
    again = Router(scene_from(DOCUMENT))
    again.scene["desk/dock/cast-off"].on("click", lambda event: None)
    rows = EventLog(None, log_rows(replay(again, recording))).lines()
    kept = [pair for pair in steps if not isinstance(pair[0], TickSample) or pair[1].events]
    assert [sample_fields(sample) for sample, _ in kept] == list(map(sample_fields, recording.samples))
    events = [(event.kind, event.node.path, event.time) for _, verdict in kept for event in verdict.events]
    replayed = [json.loads(row) for row in rows[1:]]
    assert events == [(row["event"], row["node"], row["event_time"]) for row in replayed if row["event"]]


DOCUMENT: dict[str, Any] = scene_document(scene_from({
    "glent": "scene", "version": 2, "size": [1280, 800],
    "layers": [
        {"name": "desk", "children": [
            {"name": "dock", "place": {"left": 60, "top": 560, "width": 520, "height": 160}, "children": [
                {"name": "cast-off", "role": "button", "place": {"left": 20, "top": 10, "width": 220, "height": 90}},
            ]},
            {"name": "log", "role": "textbox", "place": {"left": 10, "top": 10, "width": 200, "height": 30}},
        ]},
    ],
}))  # fmt: skip


# -- changes -------------------------------------------------------------------------------------------------------


def values(one: Attribute) -> list[Any]:
    """Plain values to try for an attribute, and some that it cannot have."""
    some = {
        "flag": [True, False, None],
        "choice": [*one.options, "none of these"],
        "number": [-50, 3, 0.5, 1e300, "x", None],
        "length": [None, -5, 0, 300, "50%", "10% - 4", "fit-content", "x"],
        "text": [None, "tug", "Ölpier", "desk", ""],
    }
    return some.get(one.kind) or [
        None, 3, [], ["click"], ["main"], {"touch": 8}, {"colour": "#334455", "n": [1, {"a": None}]}, [0, 12], 0.5,
        {"hold_delay": 0.4},
    ]  # fmt: skip


@pytest.mark.parametrize("name", sorted(SCENES))
@settings(max_examples=1, deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_d3_any_fifty_changes_undone_give_back_what_was_written(name: str, data: st.DataObject, tmp_path: Path) -> None:
    router, _ = world_for(SCENES[name])
    scene = router.scene
    edits = Edits(scene)
    before, after, later = (tmp_path / f"{one}.yaml" for one in ("before", "after", "later"))
    write_scene(scene, before)
    nodes = list(scene.walk())
    seed = data.draw(st.integers(0, 2**32))
    choose = random.Random(seed)
    changes = 0
    while changes < 50:
        node = choose.choice(nodes)
        one = choose.choice(attributes_of(node))
        version, was = edits.version, read_attribute(node, one.name)
        try:
            edits.set(node, one.name, choose.choice(values(one)))
        except (SceneError, ValueError):
            assert edits.version == version
            assert read_attribute(node, one.name) == was
            continue
        changes += edits.version != version
        if changes % 10 == 0:
            router.settle()
    write_scene(scene, later)
    changed = edits.changed
    assert [edits.undo() for _ in range(51)] == [True] * 50 + [False]
    assert not edits.changed
    write_scene(scene, after)
    assert after.read_bytes() == before.read_bytes()
    assert [edits.redo() for _ in range(51)] == [True] * 50 + [False]
    write_scene(scene, after)
    assert after.read_bytes() == later.read_bytes()
    assert edits.changed == changed
    assert edits.revert() == len(changed)
    write_scene(scene, after)
    assert after.read_bytes() == before.read_bytes()


def test_d3_several_changes_are_kept_together_or_not_at_all(file: Path) -> None:
    scene = read_scene(file)
    edits = Edits(scene)
    assert file_of(scene) == file
    assert edits.keep() == ()
    edits.set(scene["weather/fog"], "order", -1)
    edits.set(scene["desk/dock/cast-off"], "place.left", 30)
    edits.set(scene["desk/dock/cast-off"], "label", "Cast off")
    added = scene["desk"].add("code", role="button")
    edits.set(added, "order", 3)
    with pytest.raises(FileError, match="has no node desk/code"):
        edits.keep()
    assert file.read_text() == DESK
    assert len(edits.changed) == 4
    edits.undo()
    assert len(edits.keep()) == 3
    assert not edits.changed
    lines = [line for line in difflib.ndiff(DESK.splitlines(), file.read_text().splitlines()) if line[0] in "+-"]
    assert len(lines) == 4
    assert "label: Cast off" in lines[1]
    assert "order: -1" in lines[3]
    assert scene_document(read_scene(file))["layers"][0] == scene_document(scene)["layers"][0] | {
        "children": scene_document(scene)["layers"][0]["children"][:1]
    }
    edits.undo()
    assert [(node.path, name) for node, name in edits.changed] == [("desk/dock/cast-off", "label")]
    added.remove()
    edits.set(scene["desk/dock"], "visible", False)
    scene["desk/dock"].remove()
    edits.undo()
    with pytest.raises(SceneError, match="not in this scene"):
        edits.set(added, "order", 1)
    with pytest.raises(SceneError, match="no attribute that can be changed.*near is order"):
        edits.set(scene["weather/fog"], "ordr", 1)
    with pytest.raises(SceneError, match="no attribute that can be changed"):
        edits.set(scene["weather"], "place.left", 1)
    with pytest.raises(SceneError, match="was not read from a file"):
        Edits(Scene((10, 10))).keep()
    keep_all(file, {})


def test_where_a_node_stands_in_its_file(tmp_path: Path, file: Path) -> None:
    for name, path in SCENES.items():
        scene, lines = read_scene(path), path.read_text().splitlines()
        for node in list(scene.walk())[::6]:
            source = source_of(node)
            assert source is not None
            assert source.file == path
            rest = lines[source.line - 1][source.column - 1 :]
            assert (
                rest.lstrip("{ ").startswith(f"name: {node.name}") or "use:" in rest or "patterns" in path.read_text()
            ), name
    scene = read_scene(file)
    as_json = tmp_path / "desk.json"
    write_scene(scene, as_json)
    source = source_of(read_scene(as_json)["desk/dock"])
    assert as_json.read_text().splitlines()[source.line - 1][source.column - 1] == "{"
    assert source_of(Scene((10, 10)).layer("desk")) is None
    made = Editor("true -g {file}:{line}:{column}")
    assert made.words(source)[1:] == ["-g", f"{as_json}:{source.line}:{source.column}"]
    assert Editor("true").words(source) == ["true", str(as_json)]
    for command, why in (("", "is empty"), ("'", "cannot be read"), ("no-such-editor {file}", "no such program")):
        with pytest.raises(EditorError, match=why):
            Editor(command)
    with pytest.raises(EditorError, match="stands in no file"):
        made.open(Scene((10, 10)).layer("desk"))


def test_d1_what_lies_beneath_is_what_is_hit_in_every_shipped_scene() -> None:
    for path in SCENES.values():
        router, _ = world_for(path)
        width, height = router.scene.window
        for x in range(20, int(width), 170):
            for y in range(20, int(height), 130):
                hits = [(hit.node.path, hit.offered) for hit in router.hits(x, y)]
                found = [
                    (one.node.path, one.mark.startswith(("hit", "within"))) for one in beneath(router, x, y) if one.hit
                ]
                assert found == hits


def test_attributes_read_as_they_were_set() -> None:
    scene = Scene((100, 100))
    node = scene.layer("desk").add("tug")
    edits = Edits(scene)
    for name, value in (("carries", ["click"]), ("tags", ["a", "b"]), ("reach", {"touch": 4}),
                        ("facts", {"a": [1, {}]}),
                        ("place.width", "50%"), ("place.scale", [1.0, 2.0]), ("place.turn", 30), ("focusable", True),
                        ("scroll", [0.0, 4.0]), ("label", "Tug")):  # fmt: skip
        edits.set(node, name, value)
        assert read_attribute(node, name) == value
    assert len(edits.changed) == 8  # those of the place are one


def test_the_overlay_can_be_opened_and_closed_by_code_and_be_recorded_itself() -> None:
    router = Router(scene_from(DOCUMENT))
    overlay = Overlay(router, "Backquote")
    own = Recording(overlay.scene.window)
    own.follow(overlay.router)
    hand = Hand(router)
    hand.click("desk/dock/cast-off")
    assert overlay.open().reason is Reason.WITHHELD
    assert overlay.shown
    assert overlay.cursor == "shown"
    assert overlay.open().lifts == ()
    player = Player(overlay)
    player.frames()
    corners = overlay.scene["live/look/title/close"].screen_corners()
    player.click(*(sum(one[axis] for one in corners) / 4 for axis in (0, 1)))
    assert not overlay.shown
    assert overlay.close().reason is Reason.WITHHELD
    assert own.samples
    assert overlay.outlines == []
    assert [what for what, _ in overlay.verdicts] == []  # the hand acted by the game's router
