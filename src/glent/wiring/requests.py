"""Requests: acts of the UI that a server or another player has to allow, and refusals (laws Q1–Q3)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from glent.controls.control import Control
    from glent.core.routing.router import Router
    from glent.core.routing.timers import Timer

__all__ = ["Message", "Request", "Requests"]

Message = Mapping[str, Any]
"""Plain values: ``{"request": 7, "seat": "main", "name": "send-tug", "data": "anchovy"}`` out, and in
``{"answer": 7, "accepted": false, "reason": "the tug is at sea"}``."""

Then = Callable[["Request"], object]


class Request:
    """One request and what has become of it.

    :ivar number: of the request, from 1. :ivar seat: whose it is. :ivar name: what is asked for.
    :ivar data: what goes with it, plain values. :ivar control: the control that it came from, or None.
    :ivar state: ``pending``, ``accepted``, ``refused`` or ``lost``: no answer came in time.
    :ivar reason: why it was refused, in words.
    """

    __slots__ = ("_then", "_timer", "control", "data", "name", "number", "reason", "seat", "state")

    def __init__(self, number: int, seat: str, name: str, data: Any, control: Control | None) -> None:
        self.number = number
        self.seat = seat
        self.name = name
        self.data = data
        self.control = control
        self.state = "pending"
        self.reason = ""
        self._then: list[Then] = []
        self._timer: Timer | None = None

    @property
    def message(self) -> dict[str, Any]:
        """It as a plain message."""
        return {"request": self.number, "seat": self.seat, "name": self.name, "data": self.data}

    def then(self, call: Then) -> Request:
        """Call with the request once it is decided; at once if it is."""
        if self.state != "pending":
            call(self)
        else:
            self._then.append(call)
        return self

    def __repr__(self) -> str:
        return f"<Request {self.number} {self.name}: {self.state}>"


class Requests:
    """Sends requests, and takes the answers.

    As long as a request of a control is pending, that has the mark ``pending`` and sends no other; one that is refused
    or lost has the mark ``refused``, and its ``reason``, until it asks again.

    :param router: by whose time answers are late.
    :param send: called with the message of each request, plain values.
    :param timeout: how long to wait for an answer, in seconds of sample time.

    :ivar pending: the requests that are not decided, by number.
    """

    __slots__ = ("_made", "_router", "_send", "_timeout", "pending")

    def __init__(self, router: Router, send: Callable[[Message], object], timeout: float = 5.0) -> None:
        self._router = router
        self._send = send
        self._timeout = timeout
        self._made = 0
        self.pending: dict[int, Request] = {}

    def ask(
        self, name: str, data: Any = None, seat: str = "main", control: Control | None = None, then: Then | None = None
    ) -> Request:
        """Send a request; of a control whose last one is pending, that one is given back and nothing is sent.

        :param then: called with the request once it is decided.
        """
        if control is not None:
            for request in self.pending.values():
                if request.control is control:
                    return request
        self._made += 1
        request = Request(self._made, seat, name, data, control)
        if then is not None:
            request.then(then)
        self.pending[request.number] = request
        request._timer = self._router.at(
            max(self._router.now, 0.0) + self._timeout, lambda due: self._decide(request, "lost", "no answer came")
        )
        if control is not None:
            control.reason = ""
            control.mark("refused", False)
            control.mark("pending")
        self._send(request.message)
        return request

    def receive(self, answer: Message) -> bool:
        """Take an answer; whether it decided anything. One that is late, comes twice or is none is ignored."""
        number = answer.get("answer")
        request = self.pending.get(number) if isinstance(number, int) else None
        accepted = answer.get("accepted")
        if request is None or not isinstance(accepted, bool):
            return False
        reason = answer.get("reason")
        self._decide(request, "accepted" if accepted else "refused", str(reason) if reason else "")
        return True

    def give_up(self) -> None:
        """Take all that is pending for lost: the connection is gone."""
        for request in list(self.pending.values()):
            self._decide(request, "lost", "the connection is gone")

    def _decide(self, request: Request, state: str, reason: str) -> None:
        if self.pending.pop(request.number, None) is None:
            return
        if request._timer is not None:
            request._timer.stop()
        request.state = state
        request.reason = "" if state == "accepted" else reason or "it was refused without a reason"
        control = request.control
        if control is not None:
            control.reason = request.reason
            control.mark("pending", False)
            control.mark("refused", state != "accepted")
        waiting, request._then = request._then, []
        for call in waiting:
            call(request)
