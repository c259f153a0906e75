"""A question that has to be answered before all else (ARIA: dialog, alertdialog; law C10)."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Generator, Mapping, Sequence
from functools import partial
from typing import TYPE_CHECKING, ClassVar

from glent.controls.control import Control
from glent.core.arguments import is_choice, listed
from glent.core.errors import ControlError
from glent.core.input.samples import PointerButton
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Answer", "Dialog"]


class Answer:
    """The answer to a question, which may be yet to come. It can be awaited under asyncio.

    :ivar message: what was asked. :ivar choices: what could be answered.
    :ivar choice: the choice; None as long as there is none, and also if the dialog was taken away.
    :ivar done: whether it has been answered, or never will be.
    """

    __slots__ = ("_then", "cancel", "choice", "choices", "default", "done", "message", "seat")

    def __init__(
        self, message: str, choices: tuple[str, ...], cancel: str | None, default: str | None, seat: str
    ) -> None:
        self.message = message
        self.choices = choices
        self.cancel = cancel
        self.default = default
        self.seat = seat
        self.choice: str | None = None
        self.done = False
        self._then: list[Callable[[str | None], object]] = []

    def then(self, call: Callable[[str | None], object]) -> Answer:
        """Call with the choice once there is one; at once if there is; with None if there will be none."""
        if self.done:
            call(self.choice)
        else:
            self._then.append(call)
        return self

    def _settle(self, choice: str | None) -> None:
        self.choice, self.done = choice, True
        waiting, self._then = self._then, []
        for call in waiting:
            call(choice)

    def __await__(self) -> Generator[object, None, str | None]:
        import asyncio

        loop = asyncio.get_running_loop()
        future: asyncio.Future[str | None] = loop.create_future()
        self.then(lambda choice: None if future.done() else future.set_result(choice))
        return future.__await__()

    def __repr__(self) -> str:
        return f"<Answer to {self.message!r}: {self.choice if self.done else 'not yet'}>"


class Dialog(Control):
    """A modal node that asks one question after the other, each with its own message and choices.

    Its choices are buttons below its part ``choices``, named ``choice-0``, ``choice-1``, …; what stands on them is in
    :attr:`labels`. In a ``choices`` with a flow they share what room it has; in one without, equal parts of its width.

    It acts: ``ask``, as a question shows, and ``answer``, each with the :class:`Answer`.

    Its node may be a backdrop, with the panel that has the choices anywhere below it; or it has one beside it.

    :param backdrop: another node, shown and hidden with it.

    :ivar asked: the question that shows, or None.
    """

    roles = ("dialog", "alertdialog")
    own_acts: ClassVar[Mapping[str, str]] = {"ask": "any", "answer": "any"}
    __slots__ = ("_backdrop", "_row", "_waiting", "asked")

    def __init__(self, node: Node, backdrop: Node | None = None) -> None:
        super().__init__(node)
        self._backdrop = backdrop
        self.asked: Answer | None = None
        self._waiting: deque[Answer] = deque()
        self._row = next((one for one in node.walk() if one.name == "choices"), None) or self.part("choices")
        node.set_for_now(modal=True)
        self._show(False)
        if node.solidity is None:
            node.set_for_now(solidity="solid")
        self.hear("back", self._back)
        self.on_settle(self._look)

    @property
    def message(self) -> str:
        """What is asked now; empty if nothing is."""
        return self.asked.message if self.asked is not None else ""

    @property
    def labels(self) -> dict[str, str]:
        """What stands on the buttons, by their paths below the node."""
        choices = self.asked.choices if self.asked is not None else ()
        return {f"{self._below}/choice-{number}": choice for number, choice in enumerate(choices)}

    @property
    def _below(self) -> str:
        """The path of the choices, below the node."""
        return self._row.path[len(self.node.path) + 1 :]

    def _show(self, on: bool) -> None:
        if self._backdrop is not None:
            self._backdrop.set_for_now(visible=on)
        self.node.set_for_now(visible=on)

    def ask(
        self,
        message: str,
        choices: Sequence[str],
        then: Callable[[str | None], object] | None = None,
        cancel: str | None = None,
        default: str | None = None,
        seat: str = "main",
    ) -> Answer:
        """Ask a question; while another is open it waits for its turn.

        :param then: called with the choice. The answer can be awaited instead.
        :param cancel: the choice that back stands for; None: it cannot be left by back.
        :param default: the choice that has the focus at first; None: the first.
        :raises ControlError: there is no choice, one is twice, ``cancel`` or ``default`` is none of them, or the dialog
            lies in something that is hidden, so that nobody could answer.
        """
        hidden = next((one for one in self.node.lineage()[:-1] if not one.visible and one is not self._backdrop), None)
        if hidden is not None:
            raise ControlError(f"{self.node.path}: cannot ask, {hidden.path} is hidden; show it first")
        given = listed(choices)
        if not given or not all(isinstance(one, str) for one in given) or len(set(given)) < len(given):
            raise ControlError(f"{self.node.path}: the choices are {choices!r}, expected some, each once")
        for name, choice in (("cancel", cancel), ("default", default)):
            if choice is not None and not is_choice(choice, given):
                raise ControlError(f"{self.node.path}: {name} is {choice!r}, expected one of {', '.join(given)}")
        answer = Answer(message, given, cancel, default, seat)
        if then is not None:
            answer.then(then)
        self._waiting.append(answer)
        if self.asked is None:
            self._next()
        return answer

    def _next(self) -> None:
        if not self._waiting:
            return
        answer = self.asked = self._waiting.popleft()
        node, row = self.node, self._row
        for child in row.children:
            child.remove()
        share = 1.0 / len(answer.choices)
        for number, choice in enumerate(answer.choices):
            place = Place(grow=1) if row.flow else Place(left=(number * share, 0), width=(share, 0))
            button = row.add_for_now(f"choice-{number}", role="button", place=place)
            button.on_for_now("click", partial(self._clicked, choice))
        first = answer.choices.index(answer.default) if answer.default is not None else 0
        node.set_for_now(entry=f"{self._below}/choice-{first}")
        node.set_for_now(closed_by="back" if answer.cancel is not None else "none")
        self._show(True)
        self.tell_change(message=answer.message, choices=answer.choices)
        self.say("ask", answer)

    def _clicked(self, choice: str, event: Event) -> None:
        if event.button is PointerButton.PRIMARY:
            self._answer(choice)

    def _answer(self, choice: str | None) -> None:
        answer, self.asked = self.asked, None
        if answer is None:
            return
        self._show(False)
        try:
            answer._settle(choice)
            self.say("answer", answer)
        finally:
            if self.asked is None:
                self._next()

    def _back(self, event: Event) -> None:
        if event.node is self.node and self.asked is not None:
            event.take()
            self._answer(self.asked.cancel)

    def _look(self) -> None:
        if self.asked is not None and not self.node.visible:
            self._answer(self.asked.cancel)  # code has hidden it

    def detach(self) -> None:
        """Stop asking: what is not answered never will be."""
        waiting, self._waiting = list(self._waiting), deque()
        asked, self.asked = self.asked, None
        self._show(False)
        super().detach()
        for answer in [*([asked] if asked is not None else []), *waiting]:
            answer._settle(None)
