"""Handlers of a node, and the subscriptions that stop them (law R4)."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["PHASES", "Handler", "Subscription", "is_async", "of_primary"]

Handler = Callable[[Any], object]
"""Called with the event; what it returns is ignored."""

PHASES = ("capture", "bubble")
BUTTONS = ("primary", "any")


def of_primary(handler: Handler) -> Handler:
    """A handler that is called for the primary button alone, and for what no button caused (law P3)."""

    def heard(event: Any) -> object:
        return None if event.button else handler(event)  # the primary one is number 0

    heard.__wrapped__ = handler  # type: ignore[attr-defined]
    return heard


def is_async(handler: object) -> bool:
    """Whether calling a handler would make a coroutine or a generator, and run nothing of it."""
    while isinstance(handler, partial):
        handler = handler.func
    if not hasattr(handler, "__code__"):
        handler = getattr(handler, "__func__", None) or getattr(type(handler), "__call__", None)  # noqa: B004
    flags: int = getattr(getattr(handler, "__code__", None), "co_flags", 0)
    return bool(flags & _NOT_RUN)


_NOT_RUN = 0x20 | 0x80 | 0x200
"""Generator, coroutine, asynchronous generator: the flags of a function's code."""


class Subscription:
    """A handler at its place on a node; :meth:`stop` takes it away.

    :ivar for_now: whether it is a part of how things run, which copies of the node do not take along.
    """

    __slots__ = ("for_now", "handler", "kind", "node", "phase")

    def __init__(self, node: Node, kind: str, handler: Handler, phase: str, for_now: bool = False) -> None:
        self.node = node
        self.kind = kind
        self.handler = handler
        self.phase = phase
        self.for_now = for_now

    def stop(self) -> None:
        """Stop hearing. Calling it again does nothing. An event already on its way still arrives (law R4)."""
        self.node._unsubscribe(self)

    @property
    def name(self) -> str:
        """What the handler is called, as ``module.function``; of what has no name, its type."""
        handler: Any = getattr(self.handler, "__wrapped__", self.handler)
        while isinstance(handler, partial):
            handler = handler.func
        name = getattr(handler, "__qualname__", None) or type(handler).__qualname__
        return f"{getattr(handler, '__module__', None) or '?'}.{name}"

    def __repr__(self) -> str:
        return f"<Subscription {self.kind} at {self.node.path}, {self.phase}>"
