"""Proof that the controls and wires of a scene file can be made: tried on a scene that is thrown away (law N4)."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import TYPE_CHECKING

from glent.core.errors import ControlError, ValueRefusedError
from glent.formats.errors import place_of
from glent.wiring import Wiring, WiringError

if TYPE_CHECKING:
    from glent.core.errors import GlentError
    from glent.core.scene.scene import Scene
    from glent.formats import model
    from glent.formats.errors import Problem

__all__ = ["proved", "refused"]

Trees = Sequence["model.LayerModel | model.PanelModel | model.ToldNode"]


def proved(checked: model.SceneModel, build: Callable[[model.SceneModel], Scene]) -> list[Problem]:
    """What is wrong with the controls and wires of a file, each with its place in the file and the node's path."""
    if not any(noted for _, _, noted in _walk(checked)):
        return []
    try:
        Wiring(build(checked)).detach()
    except WiringError as error:
        places = {path: place for path, place, _ in _walk(checked)}
        return [(_where(places, problem.places[0], "wiring"), problem.sentence) for problem in error.problems]
    except (ControlError, ValueRefusedError) as error:
        return [refused(checked, error, "control")]
    return []


def refused(checked: model.SceneModel, error: GlentError, key: str = "") -> Problem:
    """What the core or a control refuses of a file, at the place of the node that it names first."""
    places = {path: place for path, place, _ in _walk(checked)}
    path = str(error).partition(":")[0]
    while path and path not in places:
        path = path.rpartition("/")[0]
    return (_where(places, path, key), str(error))


def _where(places: dict[str, str], path: str, key: str) -> str:
    if path not in places:
        return "layers"
    return f"{places[path]}{f'.{key}' if key else ''} (node {path})"


def _walk(checked: model.SceneModel) -> Iterator[tuple[str, str, bool]]:
    """Every node's path, its place in the file, and whether it has a control or wires."""
    for key, trees in (("layers", checked.layers), ("panels", checked.panels)):
        yield from _below(trees, "", (key,))


def _below(trees: Trees, above: str, loc: tuple[int | str, ...]) -> Iterator[tuple[str, str, bool]]:
    for number, one in enumerate(trees):
        path, here = above + one.name, (*loc, number)
        yield path, place_of(here), one.control is not None or one.wiring is not None
        yield from _below(one.children, f"{path}/", (*here, "children"))
