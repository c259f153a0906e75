"""The pytest plugin: careful users, reports of failed tests, event logs as tests, and strategies of users' acts."""

from __future__ import annotations

import json
import re
from contextlib import suppress
from pathlib import Path

import pytest
from click.testing import CliRunner
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from glent import Node, Place, Router, SampleError, Scene
from glent.cli import main
from glent.demo import RECORDINGS, games
from glent.demo.worlds import manned_gallery, manned_tower
from glent.formats import FileError, counts_of, read_log, read_recording, replay, write_recording
from glent.testing import CarefulHand, CarefulWand, OutOfReachError
from glent.testing.strategies import DEVICES, UserActs, user_acts
from strategies import scenes

DESK = """
glent: scene
version: 2
size: [400, 300]
layers:
- name: desk
  children:
  - {name: horn, label: horn, place: {left: 20, top: 20, width: 90, height: 60}, control: {kind: button}}
  - {name: lamp, label: lamp, place: {left: 150, top: 20, width: 90, height: 60}, control: {kind: button}}
- name: weather
  order: 5
  children:
  - {name: fog, solidity: solid, place: {left: 140, top: 0, right: 0, bottom: 0}}
"""


# -- careful users ---------------------------------------------------------------------------------------------------


@given(scenes(most=15), st.data())
@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_a_careful_hand_presses_what_the_press_comes_to_and_refuses_the_rest(scene: Scene, data: st.DataObject) -> None:
    nodes: list[Node] = [node for node in scene.walk() if node.parent is not None]
    node = data.draw(st.sampled_from(nodes))
    if data.draw(st.booleans()):
        scene.layers[data.draw(st.integers(0, len(scene.layers) - 1))].modal = True
    router = Router(scene)
    hand = CarefulHand(router, kind=data.draw(st.sampled_from(["mouse", "touch"])))
    x, y = hand.point(node)
    assume(0.0 <= x < scene.window[0] and 0.0 <= y < scene.window[1])
    try:
        verdict = hand.click(node)
    except OutOfReachError:
        assert hand.verdicts == []  # nothing was fed
        hand.pos = (x, y)
        owner = hand.press().owner
        assert owner is None or not owner.is_within(node)
    else:
        assert verdict.owner is not None
        assert verdict.owner.is_within(node)


def test_who_is_in_the_way_is_said() -> None:
    scene = Scene((400, 300))
    desk = scene.layer("desk")
    horn = desk.add("horn", role="button", place=Place(10, 10, width=60, height=60))
    desk.add("flare", role="button", enabled=False, place=Place(110, 10, width=60, height=60))
    desk.add("log", visible=False, role="button", place=Place(210, 10, width=60, height=60))
    desk.add("far", role="button", place=Place(410, 10, width=60, height=60))
    hand = CarefulHand(Router(scene))
    said = {}
    for name in ("flare", "log", "far"):
        with pytest.raises(OutOfReachError) as refused:
            hand.drag(f"desk/{name}", (5, 5))
        said[name] = str(refused.value)
    assert said["flare"] == "desk/flare cannot be pressed at 140, 40: desk/flare is disabled"
    assert said["log"] == "desk/log cannot be pressed at 240, 40: desk/log is not there: desk/log is not visible"
    assert "outside of the window, which is 400 by 300" in said["far"]
    scene.layer("ask", order=1, modal=True)
    with pytest.raises(OutOfReachError, match="ask, which is modal"):
        hand.click(horn)
    hand.click((40, 40))  # a bare point is pressed, whatever is there
    assert isinstance(OutOfReachError("x"), AssertionError)


def test_a_careful_wand_asks_its_ray() -> None:
    router = manned_tower()[0]
    wand = CarefulWand(router, (0.0, 1.6, 0.4))
    controls = [node for node in router.scene.walk() if node.root._in_world and node.is_control and node.is_enabled]
    reached = 0
    for node in controls:
        with suppress(OutOfReachError):
            owner = wand.click(node).owner
            assert owner is not None
            assert owner.is_within(node)
            reached += 1
    assert reached
    with pytest.raises(OutOfReachError, match="by this ray"):
        CarefulWand(router, (0.0, -50.0, 0.0)).drag(controls[0], (0.0, 0.0, -1.0))


# -- within pytest -----------------------------------------------------------------------------------------------------


def test_a_failed_test_tells_of_its_game_and_leaves_files_that_replay(pytester: pytest.Pytester) -> None:
    pytester.path.joinpath("desk.yaml").write_text(DESK)
    pytester.makepyfile(
        """
        import pytest
        from hypothesis import Phase, given, settings
        from glent.review.game import game_named
        from glent.testing.strategies import user_acts

        pytestmark = pytest.mark.glent("desk.yaml")

        def test_horn(hand):
            assert hand.click("desk/horn").owner.path == "desk/horn"

        def test_lamp(hand):
            hand.click("desk/horn")
            hand.click("desk/lamp")

        def test_broken_handler(hand, router):
            router.scene["desk/horn"].on("click", lambda event: 1 / 0)
            hand.click("desk/horn")

        @given(user_acts(game_named("desk.yaml").scene))
        @settings(max_examples=100, deadline=None, database=None, derandomize=True,
                  phases=[Phase.generate, Phase.shrink])
        def test_the_fog_is_never_clicked(acts):
            heard = []
            router = game_named("desk.yaml")
            router.scene["weather/fog"].on("click", heard.append)
            acts.play(router)
            assert not heard

        def test_wand(wand):
            assert wand.router.scene["desk/horn"]
        """
    )
    done = pytester.runpytest_inprocess("-p", "no:cacheprovider", "-p", "no:xdist", "--glent-out", "left")
    done.assert_outcomes(passed=3, failed=2, errors=1)
    text = done.stdout.str()
    assert "desk/lamp cannot be pressed at 195, 50: weather/fog is in front, and is solid" in text
    assert "the release is its own\n      release at desk/horn\n      click at desk/horn" in text
    assert "  desk/horn is hit and may have the input\nHow things stand:\n  the focus is on desk/horn" in text
    assert "handlers raised while the game was played:\na handler of desk/horn" in text
    assert re.search(r"<UserActs: (click|tap) [^;]*>", text)  # one act is the fewest there are
    left = sorted(pytester.path.joinpath("left").iterdir())
    assert len(left) == 3
    for folder in left:
        assert {path.name for path in folder.iterdir()} == {"recording.jsonl", "state.json", "map.png"}
        assert json.loads((folder / "state.json").read_text())["nodes"]
        run = CliRunner().invoke(main, ["replay", str(pytester.path / "desk.yaml"), str(folder / "recording.jsonl")])
        assert run.exit_code == 0, run.output
    (minimal,) = (folder for folder in left if "fog" in folder.name)
    assert len(read_recording(minimal / "recording.jsonl").samples) <= 3


def test_scenes_come_from_markers_the_ini_file_and_fixtures(pytester: pytest.Pytester) -> None:
    pytester.path.joinpath("desk.yaml").write_text(DESK)
    pytester.makefile(".ini", pytest="[pytest]\nglent_scene = desk.yaml\n")
    pytester.makepyfile(
        test_ini="def test_it(hand):\n    hand.click('desk/horn')\n",
        test_own="""
        import glent, pytest

        @pytest.fixture
        def scene():
            made = glent.Scene((200, 100))
            made.layer("desk").add("tide", place=glent.Place(0, 0, width=90, height=20))
            made["desk/tide"].notes = {"control": {"kind": "slider", "low": 0, "high": 4}}
            return made

        def test_it(hand, scene):
            hand.click("desk/tide")
            assert scene["desk/tide"].role == "slider"
        """,
        test_callable="""
        import pytest

        @pytest.mark.glent("glent.demo.games:quay")
        def test_it(router, scene):
            assert router.scene is scene and "quay/manifest" in scene
        """,
    )
    assert pytester.runpytest_inprocess("-p", "no:xdist").parseoutcomes() == {"passed": 3}
    pytester.makefile(".ini", pytest="[pytest]\n")
    done = pytester.runpytest_inprocess("-p", "no:xdist", "test_ini.py")
    done.assert_outcomes(errors=1)
    done.stdout.fnmatch_lines(["*this test has no scene: give it @pytest.mark.glent*"])


@pytest.mark.parametrize(
    ("scene", "recording"), [("quay", "rope"), ("bridge", "pilots"), ("gallery", "orders"), ("desk.yaml", "clicks")]
)
def test_a_recording_becomes_a_test_in_one_command(pytester: pytest.Pytester, scene: str, recording: str) -> None:
    file = pytester.path / "desk.yaml"
    file.write_text(DESK)
    if recording == "clicks":
        acts = read_recording(RECORDINGS["rope"])
        acts.scene = None  # it was of another one
        write_recording(acts, pytester.path / "clicks.jsonl")
        recording = "clicks.jsonl"
    run = CliRunner().invoke(main, ["replay", scene, recording, "--as-test", "cases/test_this.py"])
    assert run.exit_code == 0, run.output
    assert "the test is in cases/test_this.py, with this.jsonl and this.events.jsonl beside it" in run.output
    assert pytester.runpytest_inprocess("-p", "no:xdist", "cases").parseoutcomes() == {"passed": 1}
    if scene != "desk.yaml":
        return
    file.write_text(DESK.replace("left: 140, top: 0", "left: 390, top: 0"))
    done = pytester.runpytest_inprocess("-p", "no:xdist", "cases")
    done.assert_outcomes(failed=1)
    assert "this.jsonl comes out otherwise than this.events.jsonl says, at" in done.stdout.str()
    assert "- enter weather/fog" in done.stdout.str()
    done = pytester.runpytest_inprocess("-p", "no:xdist", "cases", "--glent-update")
    assert done.parseoutcomes() == {"passed": 1}
    assert pytester.runpytest_inprocess("-p", "no:xdist", "cases").parseoutcomes() == {"passed": 1}
    assert CliRunner().invoke(main, ["replay", scene, recording, "--as-test", "this.py"]).exit_code == 2


def test_a_log_that_is_none_is_refused_with_its_place(tmp_path: Path) -> None:
    log = tmp_path / "rope.events.jsonl"
    run = CliRunner().invoke(main, ["replay", "quay", "rope", "--log", str(log)])
    assert run.exit_code == 0
    assert read_log(log).lines() == log.read_text().removesuffix("\n").split("\n")
    lines = log.read_text().split("\n")
    for broken in ('{"sample": 1}', "kelp", lines[1].replace('"count": 0', '"count": "many"')):
        log.write_text("\n".join([lines[0], broken, *lines[2:]]))
        with pytest.raises(FileError, match="line 2"):
            read_log(log)


# -- what users may do -----------------------------------------------------------------------------------------------


@given(acts=user_acts(games.gallery().scene))
@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_what_users_may_do_can_be_played_written_and_read(acts: UserActs) -> None:
    verdicts = acts.play(manned_gallery()[0])
    assert len(verdicts) == len(acts.samples)
    assert repr(acts).startswith("<UserActs: ")
    file = Path("acts.jsonl")
    with pytest.MonkeyPatch.context() as patch:
        from tempfile import mkdtemp

        patch.chdir(mkdtemp())
        write_recording(acts, file)
        again = list(replay(manned_gallery()[0], read_recording(file)))
    assert [step.verdict.why for step in again] == [verdict.why for verdict in verdicts]
    assert counts_of(again)["events"] == sum(len(verdict.events) for verdict in verdicts)


def test_devices_and_targets_of_acts_can_be_chosen() -> None:
    scene = games.gallery().scene
    for wrong in (["mice"], []):
        with pytest.raises(SampleError, match="expected some of mouse"):
            user_acts(scene, devices=wrong)
    seen: set[str] = set()

    @given(user_acts(scene, most=3, devices=["touch"], where=lambda path: path == "desk/orders/ask-pilot"))
    @settings(max_examples=50, database=None, derandomize=True)
    def drawn(acts: UserActs) -> None:
        seen.update(type(sample).__name__ for sample in acts.samples)
        assert len(acts._told) <= 3
        assert all("desk/" not in one or "desk/orders/ask-pilot" in one for one in acts._told)

    drawn()
    assert seen == {"PointerSample"}
    assert set(DEVICES) == {"mouse", "touch", "keys", "pad", "window"}


def test_the_page_on_testing_shows_what_runs(pytester: pytest.Pytester) -> None:
    page = (Path(__file__).parents[2] / "docs/testing.md").read_text()
    (scene,) = re.findall(r"^```yaml\n(.*?)^```", page, flags=re.M | re.S)
    pytester.path.joinpath("desk.yaml").write_text(scene)
    blocks = re.findall(r"^```python\n(.*?)^```", page, flags=re.M | re.S)
    pytester.makepyfile("\n".join(blocks))
    assert pytester.runpytest_inprocess("-p", "no:xdist", "-p", "no:cacheprovider").parseoutcomes() == {"passed": 3}
