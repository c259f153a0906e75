"""Controls by declaration, and those of a game's own: one constructor says what code, files and docs may (law C12)."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from importlib.metadata import EntryPoint
from pathlib import Path
from typing import Any, Literal

import jsonschema
import pytest
import yaml

import glent
import option_table
from glent import controls
from glent.controls import registry
from glent.controls.options import options_of
from glent.controls.slider import Slider
from glent.formats import FileError, read_scene
from glent.formats.scene_file import scene_from
from glent.formats.schema import scene_schema
from glent.wiring import Wiring


class Gauge(controls.Control):
    """A depth gauge of the game's own, with an option of each sort."""

    roles = ("meter",)
    value_type = "number"
    __slots__ = ("given", "value")

    def __init__(
        self,
        node: glent.Node,
        deepest: controls.Positive,
        marks: Sequence[float] = (),
        unit: Literal["metres", "fathoms"] = "metres",
        beside: glent.Node | None = None,
        reads: Slider | None = None,
        names: Mapping[str, str] | None = None,
        ends: tuple[float, float] = (0.0, 1.0),
        draw: Callable[[float], None] | None = None,
        painter: SomethingOfTheGame | None = None,  # type: ignore[name-defined]  # noqa: F821
    ) -> None:
        super().__init__(node)
        self.given = (deepest, list(marks), unit, beside, reads, names, list(ends), draw, painter)
        self.value = glent.Value(0.0, name=node.path, low=0, high=deepest)


SOUNDING = """
glent: scene
version: 2
size: [800, 600]
layers:
- name: desk
  children:
  - {name: tide, control: {kind: slider}}
  - name: gauge
    control: {kind: sounding-gauge, deepest: 20, marks: [5, 10],
              beside: desk, reads: desk/tide, names: {a: b}, ends: [1, 2]}
"""


@pytest.fixture
def gauges(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(registry, "_classes", dict(registry._classes))
    controls.register("sounding-gauge", Gauge)


def test_c12_a_control_of_ones_own_stands_in_files_and_in_the_schema(gauges: None, tmp_path: Path) -> None:
    file = tmp_path / "desk.yaml"
    file.write_text(SOUNDING)
    wiring = Wiring(read_scene(file))
    made = wiring.controls.of(Gauge, "desk/gauge")
    beside, reads = wiring.controls._scene["desk"], wiring.controls["desk/tide"]
    assert made.given == (20, [5, 10], "metres", beside, reads, {"a": "b"}, [1, 2], None, None)
    jsonschema.validate(yaml.safe_load(SOUNDING), scene_schema())
    assert list(options_of(Gauge)) == ["deepest", "marks", "unit", "beside", "reads", "names", "ends"]


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ("deepest: 20, ", "", "control.deepest (node desk/gauge): is missing"),
        ("deepest: 20", "deepest: 0", "found 0; expected greater than 0"),
        ("marks: [5, 10]", "marks: [5, a]", "control.marks[1] (node desk/gauge): found 'a'"),
        ("marks: [5, 10]", "unit: miles", "found 'miles'; expected 'metres' or 'fathoms'"),
        ("marks: [5, 10]", "mark: [5, 10]", "near is marks"),
        ("ends: [1, 2]", "ends: [1]", "at least 2"),
        ("reads: desk/tide", "reads: desk", "reads is desk, expected a node with a control of kind slider"),
        (
            "beside: desk",
            "beside: deck",
            "control.beside (node desk/gauge): found 'deck'; expected the path of a node of this file",
        ),
        ("marks: [5, 10]", "draw: loud", "found an unknown key with 'loud'"),
    ],
)
def test_c12_what_a_file_says_wrongly_of_it_is_refused(gauges: None, old: str, new: str, words: str) -> None:
    with pytest.raises(FileError) as caught:
        scene_from(yaml.safe_load(SOUNDING.replace(old, new)))
    assert words in str(caught.value)


@pytest.mark.parametrize(
    ("name", "cls", "words"),
    [
        ("slider", Gauge, "already, expected another one"),
        ("Sounding Gauge", Gauge, "lower-case words with hyphens"),
        ("gauge", int, "expected a subclass of Control"),
        ("gauge", "glent.controls:Gauge", "expected a subclass of Control"),
    ],
)
def test_c12_what_cannot_be_registered_is_refused(gauges: None, name: str, cls: Any, words: str) -> None:
    def attempt() -> None:
        controls.register(name, cls)
        registry.class_of(name)

    with pytest.raises(glent.ControlError, match=words):
        attempt()


def test_c12_an_installed_package_brings_its_own(gauges: None, monkeypatch: pytest.MonkeyPatch) -> None:
    point = EntryPoint("tide-clock", f"{__name__}:Gauge", "glent.controls")
    monkeypatch.setattr(
        "importlib.metadata.entry_points", lambda group, name: [point] if point.matches(name=name) else []
    )
    assert registry.class_of("tide-clock").__name__ == "Gauge"
    with pytest.raises(glent.ControlError, match="near is slider"):
        registry.class_of("slidr")


def test_c12_the_table_of_options_is_what_the_constructors_say() -> None:
    assert option_table.PAGE.read_text(encoding="utf-8") == option_table.page(), "run tests/oracles/option_table.py"
