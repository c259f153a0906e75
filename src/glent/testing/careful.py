"""Scripted users who refuse what a player could not do, and say what is in the way."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.geometry.world.vectors import minus
from glent.core.input.samples import PointerButton
from glent.testing.hand import Hand
from glent.testing.reach import check_point, check_ray
from glent.testing.wand import Wand

if TYPE_CHECKING:
    from glent.core.routing.verdict import Verdict
    from glent.testing.hand import Target
    from glent.testing.wand import Goal

__all__ = ["CarefulHand", "CarefulWand"]

Fractions = tuple[float, float]
MIDDLE: Fractions = (0.5, 0.5)


class CarefulHand(Hand):
    """A :class:`Hand` that clicks and drags a node only where a press would come to it: not through what covers it, not
    behind a modal, not while it is disabled, hidden or outside of the window. At a bare point it presses what is there.
    """

    def click(
        self,
        target: Target,
        button: PointerButton | str = PointerButton.PRIMARY,
        steps: int = 1,
        at: Fractions = MIDDLE,
    ) -> Verdict:
        """Go to a target, press and release; the verdict of the press.

        :raises OutOfReachError: a press there would not come to the node; nothing has been fed.
        """
        __tracebackhide__ = True
        self._check(target, at)
        return super().click(target, button, steps, at)

    def drag(
        self, start: Target, end: Target, steps: int = 8, button: PointerButton | str = PointerButton.PRIMARY
    ) -> Verdict:
        """Press at one target, go to another, release; the verdict of the press.

        :raises OutOfReachError: a press at the start would not come to the node; nothing has been fed.
        """
        __tracebackhide__ = True
        self._check(start, MIDDLE)
        return super().drag(start, end, steps, button)

    def _check(self, target: Target, at: Fractions) -> None:
        __tracebackhide__ = True
        if not isinstance(target, tuple):
            node = self.router.scene[target] if isinstance(target, str) else target
            check_point(self.router, node, *self.point(target, at), self.kind)


class CarefulWand(Wand):
    """The same of a :class:`Wand`: it clicks and drags only what its ray comes to."""

    def click(self, goal: Goal, at: Fractions = MIDDLE) -> Verdict:
        """Turn to a goal, press and release; the verdict of the press.

        :raises OutOfReachError: a press there would not come to the node; nothing has been fed.
        """
        __tracebackhide__ = True
        self._check(goal, at)
        return super().click(goal, at)

    def drag(self, start: Goal, end: Goal, steps: int = 8) -> Verdict:
        """Press at one goal, turn to another, release; the verdict of the press.

        :raises OutOfReachError: a press at the start would not come to the node; nothing has been fed.
        """
        __tracebackhide__ = True
        self._check(start, MIDDLE)
        return super().drag(start, end, steps)

    def _check(self, goal: Goal, at: Fractions) -> None:
        __tracebackhide__ = True
        if not isinstance(goal, tuple):
            node = self.router.scene[goal] if isinstance(goal, str) else goal
            check_ray(self.router, node, self.origin, minus(self.point(goal, at), self.origin))
