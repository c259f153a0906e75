"""Proof that the controls and wires of a scene file can be made: tried on a scene that is thrown away (law N4)."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from typing import TYPE_CHECKING

from glent.core.errors import ControlError, ValueRefusedError
from glent.wiring import Wiring, WiringError

if TYPE_CHECKING:
    from glent.core.errors import GlentError
    from glent.core.scene.scene import Scene
    from glent.formats import model
    from glent.formats.errors import Problem
    from glent.formats.patterns import Place

__all__ = ["proved", "refused"]

Trees = Sequence["model.LayerModel | model.PanelModel | model.ToldNode"]


def proved(checked: model.SceneModel, build: Callable[[model.SceneModel], Scene]) -> list[Problem]:
    """What is wrong with the controls and wires of a file, each with its place in the file and the node's path."""
    if not any(noted for _, _, noted in _walk(checked)):
        return []
    try:
        Wiring(build(checked)).detach()
    except WiringError as error:
        locs = {path: loc for path, loc, _ in _walk(checked)}
        return [(_where(checked, locs, problem.places[0], "wiring"), problem.sentence) for problem in error.problems]
    except (ControlError, ValueRefusedError) as error:
        return [refused(checked, error, "control")]
    return []


def refused(checked: model.SceneModel, error: GlentError, key: str = "") -> Problem:
    """What the core or a control refuses of a file, at the place of the node that it names first."""
    locs = {path: loc for path, loc, _ in _walk(checked)}
    path = str(error).partition(":")[0]
    while path and path not in locs:
        path = path.rpartition("/")[0]
    return (_where(checked, locs, path, key), str(error))


def _where(checked: model.SceneModel, locs: dict[str, Place], path: str, key: str) -> str:
    if path not in locs:
        return "layers"
    return f"{checked.place_of((*locs[path], key) if key else locs[path])} (node {path})"


def _walk(checked: model.SceneModel) -> Iterator[tuple[str, Place, bool]]:
    """Every node's path, its place in the document, and whether it has a control or wires."""
    for key, trees in (("layers", checked.layers), ("panels", checked.panels)):
        yield from _below(trees, "", (key,))


def _below(trees: Trees, above: str, loc: Place) -> Iterator[tuple[str, Place, bool]]:
    for number, one in enumerate(trees):
        path, here = above + one.name, (*loc, number)
        yield path, here, one.control is not None or one.wiring is not None
        yield from _below(one.children, f"{path}/", (*here, "children"))
