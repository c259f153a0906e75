"""The answer for one sample: does the game world get it, who has it, and why."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import NotSealedError
from glent.core.routing.reasons import Reason

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.routing.event import Event
    from glent.core.routing.hit.point import Hit
    from glent.core.scene.node import Node

__all__ = ["Drop", "Verdict"]


class Drop:
    """A payload that was let go over the world, where no node of the UI lies (law G3).

    :ivar payload: what ``drag_start`` gave. :ivar source: the node it was dragged from.
    :ivar point: where, in window pixels. :ivar pointer: by which pointer.
    """

    __slots__ = ("payload", "point", "pointer", "source")

    def __init__(self, payload: object, source: Node, point: tuple[float, float], pointer: str) -> None:
        self.payload = payload
        self.source = source
        self.point = point
        self.pointer = pointer

    def __repr__(self) -> str:
        return f"<Drop {self.payload!r} from {self.source.path} at ({self.point[0]:g}, {self.point[1]:g})>"


def _path_of(node: Node) -> str:
    return node.path


Outcome = tuple[str | None, tuple[tuple[str, "Node"], ...], "Drop | None"]
"""The gesture that has the pointer, who competes for a press, and what fell to the world: mostly nothing of it."""

NOTHING: Outcome = (None, (), None)


class Verdict:
    """The answer for one sample. It is sealed when ``feed`` returns it and never changes again; equal answers to idle
    moves may be one shared verdict.

    A verdict of a sample that was fed from inside a handler is sealed before the outermost ``feed`` returns; reading
    it earlier raises :class:`NotSealedError` (law R6).
    """

    __slots__ = (
        "_about",
        "_action",
        "_answer",
        "_events",
        "_inner",
        "_lifts",
        "_outcome",
        "_owner",
        "_reason",
        "_seat",
        "_spot",
        "_what",
        "_world",
    )

    def __init__(
        self,
        reason: Reason | None,
        what: str = "",
        world: bool = False,
        owner: Node | None = None,
        about: str | Node | None = None,
        events: tuple[Event, ...] = (),
    ) -> None:
        self._reason = reason
        self._what = what
        self._world = world
        self._owner = owner
        self._about = about
        self._events = events
        self._lifts: tuple[str, ...] = ()
        self._inner: tuple[Verdict, ...] = ()
        self._outcome = NOTHING
        self._seat = "main"
        self._spot: Hit | None = None
        self._action: str | None = None
        self._answer: str | None = None

    @classmethod
    def withheld(cls, what: str, by: str, after: Verdict | None = None) -> Verdict:
        """The verdict of a sample that a tool keeps from the game.

        :param what: what the sample is. :param by: what the tool is called. :param after: of a sample that told the
            game of it, whose events and lifts are told by this one.
        """
        made = cls(Reason.WITHHELD, what, about=by, events=after.events if after is not None else ())
        if after is not None:
            made._lifts, made._seat = after.lifts, after.seat
        return made

    def _seal(self, other: Verdict) -> None:
        for name in Verdict.__slots__:
            setattr(self, name, getattr(other, name))

    def _sealed(self) -> Reason:
        if self._reason is None:
            raise NotSealedError(
                "this verdict is for a sample fed from inside a handler, which is routed after the running sample;"
                " read it once the outermost feed has returned"
            )
        return self._reason

    @property
    def sealed(self) -> bool:
        """Whether the sample has been routed."""
        return self._reason is not None

    @property
    def world(self) -> bool:
        """Whether the game world gets the sample."""
        self._sealed()
        return self._world

    @property
    def owner(self) -> Node | None:
        """The node that has it; None if the world or nobody does."""
        self._sealed()
        return self._owner

    @property
    def to(self) -> str:
        """Who has it, as a word: ``world``, ``nobody``, or the path of :attr:`owner`."""
        self._sealed()
        return "world" if self._world else self._owner.path if self._owner is not None else "nobody"

    @property
    def reason(self) -> Reason:
        """The reason, as a value to compare."""
        return self._sealed()

    @property
    def why(self) -> str:
        """The reason as a sentence, made when it is read. Nodes stand in it by their paths."""
        return self._said(_path_of)

    @property
    def why_named(self) -> str:
        """The same, with nodes by what people call them (:attr:`Node.accessible_name`), and their paths after it."""
        from glent.core.scene.accessible import called  # seldom wanted

        return self._said(called)

    def _said(self, name_of: Callable[[Node], str]) -> str:
        about = self._about if self._about is not None else self._owner
        about_text = about or "" if about is None or isinstance(about, str) else name_of(about)
        owner = name_of(self._owner) if self._owner is not None else "nobody"
        return self._sealed().value.format(what=self._what, owner=owner, about=about_text)

    @property
    def seat(self) -> str:
        """The name of the seat whose input it was (law T1)."""
        self._sealed()
        return self._seat

    @property
    def action(self) -> str | None:
        """The action that a key or a pad's button going down is bound to, so that the world need not know keys (law
        F5)."""
        self._sealed()
        return self._action

    @property
    def answer(self) -> str | None:
        """What became of a drag that was asked for: ``dropped``, ``returned`` (refused there), ``done`` (no payload),
        or ``refused`` by its source; None for other samples (law G9)."""
        self._sealed()
        return self._answer

    @property
    def events(self) -> tuple[Event, ...]:
        """The events that were routed for it, in order; also those between the sample before and this one."""
        self._sealed()
        return self._events

    @property
    def lifts(self) -> tuple[str, ...]:
        """What the world held and must now believe to be up, such as ``mouse/primary`` (laws P11, W3)."""
        self._sealed()
        return self._lifts

    @property
    def spot(self) -> Hit | None:
        """The spot of the world it points at, with ``point``, ``normal``, ``distance``, ``snap`` and ``tags``; None if
        it points at none, or something of the UI lies in front (laws X1, X5)."""
        self._sealed()
        return self._spot

    @property
    def drop(self) -> Drop | None:
        """The payload that this release let fall to the world, and where; None for other samples (law G3)."""
        self._sealed()
        return self._outcome[2]

    @property
    def gesture(self) -> str | None:
        """The gesture that :attr:`owner` has the pointer for, once one has won: ``drag``, ``scroll``, … (law G5)."""
        self._sealed()
        return self._outcome[0]

    @property
    def contest(self) -> tuple[tuple[str, str], ...]:
        """The gestures that compete for a press, with node paths, inner to outer; empty if it can only be a tap."""
        self._sealed()
        return tuple((name, node.path) for name, node in self._outcome[1])

    @property
    def inner(self) -> tuple[Verdict, ...]:
        """The verdicts of samples that handlers fed while this one was routed, in order (law R6)."""
        self._sealed()
        return self._inner

    def __repr__(self) -> str:
        if self._reason is None:
            return "<Verdict, not sealed yet>"
        return f"<Verdict {'world' if self._world else 'not the world'}: {self.why}>"
