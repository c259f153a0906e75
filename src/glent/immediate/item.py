"""What is kept of a declaration from frame to frame, and the declaration itself.

A frame of code makes a tree of :class:`Declared`, and reads its answers from the :class:`Item` of each key, which the
frame before has left. Only when the frame is over, and nothing in it has raised, the items are brought in line with
what was declared: those whose key is there again are kept, with node, control, hover, focus and place.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import TYPE_CHECKING, Any, cast

from glent.core.scene.place import Place

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from types import CodeType

    from glent.controls import Control
    from glent.core.routing.router import Router
    from glent.core.scene.node import Node

__all__ = ["Declared", "Item", "Kind", "Style"]

NOTHING: Any = object()
NO_KEYS: Mapping[str, Declared] = {}


class Style:
    """How large things are made.

    :ivar measure: width and height of a text, in pixels. :ivar pad: around a text in a button. :ivar gap: between
        things in a row or column. :ivar line: the least height of a thing.
    """

    __slots__ = ("gap", "line", "measure", "pad", "widths")

    def __init__(self, measure: Callable[[str], tuple[float, float]], pad: float, gap: float, line: float) -> None:
        self.measure, self.pad, self.gap, self.line = measure, pad, gap, line
        self.widths: dict[str, tuple[float, float]] = {}

    def size(self, text: str, more: float = 0.0) -> tuple[float, float]:
        """The size of a thing with a text on it."""
        known = self.widths.get(text)
        if known is None:
            wide = [self.measure(line) for line in text.split("\n")]
            known = max(one[0] for one in wide), sum(one[1] for one in wide)
            if len(self.widths) > 5_000:
                self.widths.clear()
            self.widths[text] = known
        return known[0] + 2.0 * self.pad + more, max(self.line, known[1] + self.pad)


class Declared:
    """One declaration of a frame."""

    __slots__ = ("args", "at", "children", "item", "key", "keys", "kind", "tip", "value")

    def __init__(
        self, kind: Kind, key: str, args: tuple[Any, ...], at: tuple[CodeType, int], item: Item | None
    ) -> None:
        self.kind, self.key, self.args, self.at, self.item = kind, key, args, at, item
        self.value: Any = NOTHING
        """What the program gave, if that is another than it was given last."""
        self.children: Sequence[Declared] = ()
        self.keys: Mapping[str, Declared] = NO_KEYS
        self.tip: str | None = None

    def hold(self) -> None:
        """Make it one that can hold others."""
        self.children, self.keys = [], {}

    def take_clicks(self) -> int:
        """The clicks on what it was in the frame before."""
        return self.item.take_clicks() if self.item is not None else 0


class Item:
    """What is kept of a declaration.

    :ivar node: its node. :ivar holder: the node that what it holds is added to. :ivar clicks: those that nobody has
        been told of. :ivar given: the value that the program was given last.
    """

    __slots__ = (
        "args",
        "children",
        "clicks",
        "control",
        "data",
        "given",
        "holder",
        "key",
        "kind",
        "node",
        "order",
        "parts",
        "tip",
    )

    def __init__(self, kind: Kind, key: str, node: Node) -> None:
        self.kind, self.key, self.node = kind, key, node
        self.holder = node
        self.parts: list[Node] = []
        """The nodes that it needs besides its own."""
        self.control: Control | None = None
        self.children: dict[str, Item] = {}
        self.order: list[str] = []
        self.args: tuple[Any, ...] = ()
        self.clicks = 0
        self.given: Any = NOTHING
        self.data: Any = None
        self.tip: tuple[str, Node, Control] | None = None

    @property
    def is_whole(self) -> bool:
        """Whether all its nodes are there: others may have removed some."""
        return self.node._scene is not None and (not self.parts or all(one._scene is not None for one in self.parts))

    def take_clicks(self) -> int:
        """The clicks since they were asked for last."""
        clicks, self.clicks = self.clicks, 0
        return clicks

    def count_click(self, *_: Any) -> None:
        """Count a click."""
        self.clicks += 1

    def is_unanswered(self) -> bool:
        """Whether it, or what it holds, was clicked and nobody has been told, or is in use."""
        scene = self.node.scene
        router = cast("Router | None", scene.router) if scene is not None else None
        return (
            self.clicks > 0
            or (router is not None and router.in_use(self.node))
            or any(child.is_unanswered() for child in self.children.values())
        )

    def remove(self) -> None:
        """Take it away, with all that it holds."""
        for child in self.children.values():
            child.remove()
        self.children.clear()
        if self.tip is not None:
            self.tip[2].detach()
            self.tip[1].remove()
            self.tip = None
        if self.control is not None:
            self.control.detach()
        if self.holder is not self.node:
            self.holder.remove()
        self.node.remove()


class Kind:
    """How declarations of one kind become nodes. Without a state of its own."""

    can_be_disabled = False
    """Whether the last of its arguments is ``enabled``."""
    keeps_order = True
    """Whether what it holds lies in the order of declaration."""

    def fits(self, item: Item, args: tuple[Any, ...]) -> bool:
        """Whether an item can become what is declared; one of another make is made anew."""
        return True

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        """Make an item, below the node that holds such."""
        return Item(self, key, parent.add_for_now(key))

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        """Bring an item in line with what was declared; called for a new one as well, and whenever that differs."""

    def begin(self, item: Item, above: Item) -> None:
        """Do what is left to do once it is known what a new item lies in."""

    def after(self, item: Item) -> None:
        """Do what is left to do once what it holds is as declared."""

    def value_of(self, item: Item) -> Any:
        """What the program is given."""
        return None

    def set_value(self, item: Item, value: Any) -> None:
        """Have the value that the program gave."""


def caption(node: Node, text: str, size: tuple[float, float]) -> None:
    """Write on a node, and have it as large as that needs."""
    node.facts["text"] = text
    node.content = size


def named(options: Iterable[str]) -> dict[str, str]:
    """Texts by the names that nodes can have."""
    return {text.replace("/", "\u2215"): text for text in options}


FIT = Place(width="fit-content", height="fit-content")
