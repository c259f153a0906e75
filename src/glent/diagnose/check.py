"""Finding faults before a player does: each is shown by an input, and each mend was tried (law D2).

The rules look at a game as it begins, and suspect. Each suspicion is put to the proof: a game is made anew, the input
is fed that should show the fault, and only what shows is told. Then each change that might cure it is made in a game
of its own, and the same input is fed again.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING

from glent.core.errors import GlentError, near
from glent.diagnose.faults.gestures import gesture_faults
from glent.diagnose.faults.playing import playing_faults
from glent.diagnose.faults.pointing import pointing_faults
from glent.diagnose.faults.wires import wiring_faults
from glent.diagnose.findings import CODES, STRICT, Examination, Finding
from glent.diagnose.trial import Trial

if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Iterator, Sequence

    from glent.core.routing.router import Router
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene
    from glent.diagnose.findings import Mend, Suspicion

__all__ = ["check", "examine"]

OF_ONE = ("unseen-cover", "label-over", "background-in-front")
"""Codes that are about one node, however many that is in the way of."""


def check(
    build: Callable[[], Router],
    sizes: Sequence[tuple[float, float]] = (),
    codes: Iterable[str] | None = None,
) -> list[Finding]:
    """The faults of a game, each shown by an input, with a change that cures it where one was found.

    :param build: makes the game: its scene with all that is on it, and a router. It is called again and again, and is
        to make the same each time. :param sizes: of the window, pixels, at each of which to look; none: as it is.
    :param codes: only these of :data:`CODES`; None: all but those of :data:`STRICT`.
    :return: in the order of the codes, then of the scene; the same fault at several sizes is told once. What the scene
        suppresses is left out: :func:`examine` has it.
    :raises GlentError: there is no such code.
    """
    return list(examine(build, sizes, codes).findings)


def examine(
    build: Callable[[], Router],
    sizes: Sequence[tuple[float, float]] = (),
    codes: Iterable[str] | None = None,
) -> Examination:
    """The same, with what the scene suppresses. A suppression that nothing is found for is a finding itself.

    :raises GlentError: there is no such code.
    """
    wanted = frozenset(set(CODES).difference(STRICT) if codes is None else codes)
    unknown = sorted(wanted.difference(CODES))
    if unknown:
        raise GlentError(f"there is no code {unknown[0]!r}, the codes are {', '.join(CODES)}")
    found: dict[tuple[str, ...], Finding] = {}
    for size in sizes or (None,):
        game = Trial(build, size)
        window = game.scene.window
        for suspicion in tuple(_suspicions(game)):
            key = suspicion.code, *(suspicion.nodes[:1] if suspicion.code in OF_ONE else suspicion.nodes)
            if suspicion.code in wanted and key not in found:
                shown = suspicion.shown(game if suspicion.only_reads else Trial(build, size))
                if shown is not None:
                    mend = _read_mend(game, suspicion) if suspicion.only_reads else _mend(build, size, suspicion)
                    found[key] = Finding(suspicion.code, suspicion.nodes, suspicion.sentence, shown, mend, window)
    order = list(CODES)
    scene = game.scene
    told: list[Finding] = []
    suppressed: list[tuple[Finding, str]] = []
    unused = _suppressions(scene)
    for one in sorted(found.values(), key=lambda one: order.index(one.code)):
        where = _suppression_of(scene, one)
        if where is None:
            told.append(one)
        else:
            suppressed.append((one, where[1]))
            unused.pop((where[0], one.code), None)
    if "unused-suppression" in wanted:
        told += [_unused(path, code, scene.window) for path, code in unused if code in wanted or code not in CODES]
    return Examination(tuple(told), tuple(suppressed))


def _suppressions(scene: Scene) -> dict[tuple[str, str], str]:
    """All that a scene suppresses: the reason by node and code."""
    return {(node.path, code): reason for node in scene.walk() for code, reason in _suppressed_by(node).items()}


def _suppressed_by(node: Node) -> Mapping[str, str]:
    """What a node suppresses, by code."""
    told = (node.notes or {}).get("suppress")
    return told if isinstance(told, Mapping) else {}


def _suppression_of(scene: Scene, finding: Finding) -> tuple[str, str] | None:
    """The nearest node, at or above the faulty one, that suppresses a finding, and its reason."""
    if finding.nodes[0] not in scene:
        return None
    for node in reversed(scene[finding.nodes[0]].lineage()):
        reason = _suppressed_by(node).get(finding.code)
        if reason is not None:
            return node.path, reason
    return None


def _unused(path: str, code: str, window: tuple[float, float]) -> Finding:
    if code in CODES:
        shown = f"{code} was looked for, and nothing was found at {path} or in it"
    else:
        shown = f"there is no code {code!r}{near(code, CODES)}"
    return Finding("unused-suppression", (path,), f"{path} suppresses {code}, which is not there", shown, None, window)


def _suspicions(game: Trial) -> Iterator[Suspicion]:
    yield from pointing_faults(game)
    yield from playing_faults(game)
    yield from gesture_faults(game)
    yield from wiring_faults(game)


def _mend(build: Callable[[], Router], size: tuple[float, float] | None, suspicion: Suspicion) -> Mend | None:
    """The first change that cures a fault."""
    for mend in suspicion.mends:
        game = Trial(build, size)
        try:
            game.apply(mend)
            if suspicion.shown(game) is None:
                return mend
        except GlentError:
            continue  # it cannot be made
    return None


def _read_mend(game: Trial, suspicion: Suspicion) -> Mend | None:
    """The same of a fault that asking shows: the change is made and taken back."""
    for mend in suspicion.mends:
        node = game[mend.path]
        before = getattr(node, mend.name)
        setattr(node, mend.name, mend.value)
        cures = suspicion.shown(game) is None
        setattr(node, mend.name, before)
        if cures:
            return mend
    return None
