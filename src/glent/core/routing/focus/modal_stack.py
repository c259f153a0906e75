"""The open modals of a seat in the order they opened, and where the focus was before each (laws M1, M3)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.focus.tab_order import Bookmark

if TYPE_CHECKING:
    from glent.core.routing.focus.focus import Focus
    from glent.core.scene.node import Node

__all__ = ["ModalStack"]


class _Open:
    """An open modal.

    :ivar own: whether it is this seat's. :ivar before: where the focus was when it opened.
    :ivar waits: whether the focus has found no stop in it yet, and since which layout of the scene; None: it has.
    """

    __slots__ = ("before", "modal", "own", "waits")

    def __init__(self, modal: Node, own: bool, before: Bookmark) -> None:
        self.modal = modal
        self.own = own
        self.before = before
        self.waits: int | None = None


class ModalStack:
    """The open modals. Closing one puts the focus back where it was before the lowest one now closed (law M3)."""

    __slots__ = ("_focus", "_open", "closings")

    def __init__(self, focus: Focus) -> None:
        self._focus = focus
        self._open: list[_Open] = []
        self.closings = 0
        """Counts the looks at which one had closed."""

    def newly_open(self) -> list[Node]:
        """The modals that have opened since the last update, back to front, and those that have become this seat's."""
        view = self._focus.view
        known = {(one.modal, one.own) for one in self._open}
        return [modal for modal in self._all() if (modal, view.whose(modal) == "own") not in known]

    def _all(self) -> list[Node]:
        """The open modals: first those that block just their panel, then the others back to front."""
        view = self._focus.view
        return [*view.held_panels.values(), *reversed(view.modals)]

    def update(self, new: list[Node], ring: bool, time: float) -> None:
        """Book what has opened and closed, and move the focus along."""
        focus, view = self._focus, self._focus.view
        now = {(modal, view.whose(modal) == "own") for modal in self._all()}
        kept: list[_Open] = []
        carried: Bookmark | None = None
        for one in self._open:
            if (one.modal, one.own) in now:
                if carried is not None:  # one that was opened from within the one that closed
                    one.before, carried = carried, None
                kept.append(one)
            elif carried is None:
                carried = one.before
        self.closings += len(kept) < len(self._open)
        self._open = kept
        before = carried
        if before is None:
            before = Bookmark(focus.node if focus.node is not None else focus.place, focus.ring)
        for modal in new:
            kept.append(_Open(modal, view.whose(modal) == "own", before))
            before = Bookmark(modal, ring)
        local = next(
            (one for one in new if focus.node is not None and view.held_panels.get(focus.node.root) is one), None
        )
        target = view.top if view.top is not None and view.top in new else local
        if target is not None and (focus.node is None or not (focus.is_fine and focus.node.is_within(target))):
            focus.first(ring, time, target)
            for one in kept:
                if one.modal is target and focus.node is None:
                    one.waits = view.scene._layout
        elif target is not None:
            return  # whoever has opened it has moved the focus into it already: there it stays
        elif carried is not None and not focus.is_fine:
            # A handler that has closed it may have moved focus already: then it stays there.
            focus.go(carried.at(view), carried.ring, time)
        else:
            self._look_again(ring, time)

    def _look_again(self, ring: bool, time: float) -> None:
        """Move the focus to the first stop of a modal that had none when it opened: it was still sliding in, or its
        stops were disabled (law M1)."""
        focus, view = self._focus, self._focus.view
        for one in self._open:
            if one.waits is None or one.waits == view.scene._layout:
                continue
            one.waits = None if focus.node is not None else view.scene._layout
            if focus.node is None and (one.modal is view.top or view.held_panels.get(one.modal.root) is one.modal):
                focus.first(ring, time, one.modal)

    def forget(self) -> None:
        """Forget all modals: they are of a scene that the router has left."""
        self._open.clear()

    def removing(self, gone: Node) -> None:
        """Keep the remembered places true while a node is removed with all below it."""
        for one in self._open:
            one.before.removing(self._focus.view, gone)
