"""Faults between the UI and the game: copied and doubled names, names nobody binds, targets that are gone, facts."""

from __future__ import annotations

import sys
from functools import partial
from typing import TYPE_CHECKING, Any

from glent.diagnose.findings import Mend, Suspicion
from glent.wiring.wiring import wiring_of

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping

    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene
    from glent.diagnose.trial import Trial

__all__ = ["wiring_faults"]

WIRED = {"copied along": "copied-wiring", "doubled": "doubled-name"}
BOUND = {"unbound": "unbound-name", "unknown": "unbound-name", "wrong type": "unbound-name"}
"""Kinds of problem that are told where the game has bound something: else it runs without its game."""
SHOWS = ("show", "toggle", "open")


def wiring_faults(game: Trial) -> Iterator[Suspicion]:
    """Suspicions about wires and facts."""
    scene = game.scene
    yield from _wiring_faults(scene)
    yield from _gone_targets(scene)
    yield from _facts_faults(scene)


def _wiring_faults(scene: Scene) -> Iterator[Suspicion]:
    wiring = wiring_of(scene)
    kinds = WIRED | BOUND if wiring.is_bound else WIRED
    for problem in wiring.problems():
        code = kinds.get(problem.kind)
        if code is not None:
            yield Suspicion(
                code, problem.places, problem.sentence, partial(_still_wired, problem.kind, problem.name), (), True
            )
    for layer in scene.layers:
        for node in layer.walk():
            if not node.visible and node.parent is not None:
                yield from _shown_by_itself(node)


def _still_wired(kind: str, name: str, game: Trial) -> str | None:
    problems = wiring_of(game.scene).problems()
    if not any(one.kind == kind and one.name == name for one in problems):
        return None
    if kind in WIRED:
        return f"whoever listens for {name} hears both of them"
    return f"{name} was looked up in what the game has bound"


def _does(node: Node) -> list[Mapping[str, Any]]:
    wiring = (node.notes or {}).get("wiring") or {}
    return list(wiring.get("does", ())) if hasattr(wiring, "get") else []


def _shown_by_itself(hidden: Node) -> Iterator[Suspicion]:
    scene = hidden.scene
    if scene is None:
        return
    showers = [
        node
        for layer in scene.layers
        for node in layer.walk()
        for action in _does(node)
        if action.get("act") in SHOWS and action.get("node") == hidden.path
    ]
    commands = ((hidden.notes or {}).get("wiring") or {}).get("commands") or {}
    if not showers or any(not one.is_within(hidden) for one in showers) or any(one in commands for one in SHOWS):
        return
    path = hidden.path
    by = showers[0].path

    def shown(game: Trial) -> str | None:
        here = game[path]
        if here.is_visible:
            return None
        verdict = game.router.activate(game[by])
        if game[path].is_visible:
            return None
        return f"{by} was asked to act: {verdict.why}"

    mend = Mend(path, "visible", True, f"show {path} at the beginning")
    sentence = f"{path} is hidden, and only {by}, which lies in it, shows it"
    yield Suspicion("only-itself-shows", (path, by), sentence, shown, (mend,))


def _gone_targets(scene: Scene) -> Iterator[Suspicion]:
    """Actions of nodes whose target is not there."""
    for layer in scene.layers:
        for node in layer.walk():
            for action in _does(node):
                target = action.get("node")
                if isinstance(target, str) and target not in scene:
                    yield _gone_target(node.path, target, str(action.get("act")))


def _gone_target(path: str, target: str, act: str) -> Suspicion:
    def shown(game: Trial) -> str | None:
        if target in game.scene:
            return None
        return f"there is no node at {target} in the scene as it runs"

    sentence = f"{path} is to {act} {target}, which is not there"
    return Suspicion("gone-target", (path,), sentence, shown, (), True)


def _facts_faults(scene: Scene) -> Iterator[Suspicion]:
    """Facts that the schema of the scene's file does not allow. A file that is read has none; code may change them."""
    if "glent.formats" not in sys.modules:
        return  # no file was read, so there is no schema
    from glent.formats import facts_problems

    for path, what in facts_problems(scene):
        sentence = f"{path} has facts that the schema of its file does not allow"
        yield Suspicion("facts-schema", (path,), sentence, partial(_still_wrong, path, what), (), True)


def _still_wrong(path: str, what: str, game: Trial) -> str | None:
    from glent.formats import facts_problems

    return what if (path, what) in facts_problems(game.scene) else None
