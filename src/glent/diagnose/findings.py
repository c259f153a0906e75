"""What a check finds: faults with their codes, each with the input that shows it, and the change that cures it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.diagnose.trial import Trial

__all__ = ["CODES", "STRICT", "Examination", "Finding", "Mend", "Suspicion"]

CODES = {
    "unseen-cover": "a solid node that shows nothing takes presses from what lies under it",
    "label-over": "a label or a picture takes the press from the control that it lies on",
    "background-in-front": "a background is painted over what it is the background of",
    "covered": "a control or a handler lies under others at every point",
    "hollow": "a control or a handler is on a node that is hollow, which is never hit",
    "ghost": "a control or a handler is on or in a ghost, which is passed over",
    "no-size": "a control or a handler is on a node without a size",
    "off-screen": "a control or a handler lies outside the window",
    "clipped": "a control or a handler is cut off wholly by what clips it",
    "disabled-above": "an enabled control is in something disabled",
    "enter-without-leave": "a handler hears that a pointer comes, and none that it goes",
    "same-order": "two that can be pressed overlap, and only their place in the list says which is in front",
    "modal-without-way-out": "a modal that is open cannot be closed, and nothing in it can be activated",
    "no-cursor": "a layer claims the pointer, and the cursor is not shown",
    "only-itself-shows": "a hidden node can be shown by nothing but itself",
    "copied-wiring": "two nodes are wired alike in all, so that one is a copy that still does what the other does",
    "doubled-name": "two nodes tell or take the same name without saying that they share it",
    "small-target": "a target is smaller than 24 by 24 pixels, or another one is too near (WCAG 2.5.8)",
    "small-for-touch": "a target is smaller than 44 by 44 pixels with its reach (WCAG 2.5.5)",
    "no-name": "nothing tells what a control is called",
    "same-name": "two controls side by side are called the same",
    "no-key-reaches": "focus stops at a node that no direction leads to",
    "focus-trap": "focus stops at a node that no direction leads away from",
    "gesture-loses": "a handler for a drag, hold or swipe never gets one, another gesture always wins",
    "gesture-only": "a handler hears a gesture, and nothing there can be done by single presses (WCAG 2.5.7)",
    "popup-gap": "what shows as a node is pointed at is gone before the pointer is there",
    "key-twice": "two nodes wait for the same shortcut, and only the one in front hears it",
    "claimed-twice": "two layers claim the same channel at the beginning, and only the one in front hears it",
    "wide-button": "a button takes presses far away from what is seen of it",
    "unbound-name": "a name is told by the UI and bound by nothing, or bound by the game and told by nothing",
    "gone-target": "a node is to do something to one that is not there",
    "facts-schema": "facts that code has changed are not what the schema of the scene's file allows",
    "unused-suppression": "a finding is suppressed that is not there, or has no such code",
}
"""Each code, with the fault in a sentence."""

STRICT = ("small-for-touch",)
"""Codes that are looked for where they are asked for, and not by default."""


@dataclass(frozen=True, slots=True)
class Mend:
    """A change of one attribute.

    :ivar path: the node. :ivar name: its attribute. :ivar value: what that is to be. :ivar sentence: the same in words.
    """

    path: str
    name: str
    value: Any
    sentence: str


@dataclass(frozen=True, slots=True)
class Suspicion:
    """A fault that may be there.

    :ivar code: which one. :ivar nodes: the paths of the nodes it is about, the faulty one first. :ivar sentence: what
        it is, of these. :ivar shown: feeds input to a game that is as new and returns what that showed, in a sentence;
        None: the fault does not show. :ivar mends: changes that may cure it, the best first. :ivar only_reads: whether
        the proof asks and changes nothing, so that no game has to be made anew for it.
    """

    code: str
    nodes: tuple[str, ...]
    sentence: str
    shown: Callable[[Trial], str | None]
    mends: tuple[Mend, ...] = ()
    only_reads: bool = False


@dataclass(frozen=True, slots=True)
class Finding:
    """A fault that input has shown.

    :ivar code: which one, a key of :data:`CODES`.
    :ivar nodes: the paths of the nodes it is about, the faulty one first. :ivar sentence: what is wrong.
    :ivar shown: what the input showed.
    :ivar mend: a change that was tried, and cures it; None: none of those tried does.
    :ivar size: the size of the window at which it shows.
    """

    code: str
    nodes: tuple[str, ...]
    sentence: str
    shown: str
    mend: Mend | None
    size: tuple[float, float]


@dataclass(frozen=True, slots=True)
class Examination:
    """What a check has looked at, and found.

    :ivar findings: the faults, in the order of the codes, then of the scene. :ivar suppressed: those that the scene
        says are meant, each with its reason: ``suppress={"covered": "…"}`` in the notes of the node, or above it.
    """

    findings: tuple[Finding, ...]
    suppressed: tuple[tuple[Finding, str], ...]
