"""The draft of a layer: what has been declared of it, and how that becomes nodes when a frame is over (laws I1–I5)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, cast

from glent.controls.tooltip import Tooltip
from glent.core.arguments import is_number, listed
from glent.core.scene.flow import Flow
from glent.core.scene.layer import Layer
from glent.immediate import kinds, menus
from glent.immediate.errors import DeclarationError
from glent.immediate.frame import Frame, line_of
from glent.immediate.item import FIT, NOTHING, Declared, Item, Style, caption

if TYPE_CHECKING:
    from types import TracebackType

    from glent.core.geometry.affine import Box
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.router import Router
    from glent.core.scene.node import Node

__all__ = ["Draft"]


def _plain_measure(text: str) -> tuple[float, float]:
    return 8.0 * len(text), 16.0


class Draft:
    """What code declares of a layer, in each frame anew.

    ``with draft as now:`` begins a frame; when its block is over, and nothing in it has raised, the nodes of the layer
    become what was declared. A block that raises leaves them as they were (law I5).

    :param layer: where it all goes; it had better be the draft's alone.
    :param measure: width and height of a line of text, in pixels; without it a character is 8 wide and 16 high.
    :param places: where windows were, as :meth:`places` told it when the program ran last.
    :param pad: the room around a text. :param gap: the room between things.
    :raises DeclarationError: the layer is none, or a place is no box.
    """

    __slots__ = ("_frame", "_kept", "_layer", "_style", "_top")

    def __init__(
        self,
        layer: Layer,
        measure: Callable[[str], tuple[float, float]] = _plain_measure,
        places: Mapping[str, Box] | None = None,
        pad: float = 6.0,
        gap: float = 4.0,
    ) -> None:
        if not isinstance(layer, Layer) or layer.scene is None:
            raise DeclarationError(f"the layer is {layer!r}, expected a Layer of a scene")
        if not callable(measure):
            raise DeclarationError(f"measure is {measure!r}, expected something to call with a text")
        for key, box in (places or {}).items():
            numbers = listed(box)
            if numbers is None or len(numbers) != 4 or not all(map(is_number, numbers)):
                raise DeclarationError(f"the place of {key!r} is {box!r}, expected left, top, right and bottom")
        self._layer = layer
        self._style = Style(measure, pad, gap, measure("X")[1] + pad)
        self._top = Item(kinds.COLUMN, "", layer)
        self._kept = dict(places or {})
        self._frame: Frame | None = None

    def __enter__(self) -> Frame:
        if self._layer.scene is None:
            raise DeclarationError(f"{self._layer.path}: has been removed, so nothing can be declared in it")
        if self._frame is not None:
            raise DeclarationError(f"{self._layer.path}: a frame is under way already, expected one at a time")
        if self.in_handler():
            raise DeclarationError(
                f"{self._layer.path}: a handler cannot begin a frame, expected one between samples, once a frame"
            )
        self._frame = Frame(self, self._top)
        return self._frame

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        frame, self._frame = self._frame, None
        assert frame is not None
        frame.over = True
        if kind is None:
            self._check_free(frame.declared)
            self._lay(frame.declared)
            self._hold(self._top, frame.declared)

    # -- what it is asked ----------------------------------------------------------------------------------------------

    def places(self) -> dict[str, Box]:
        """Where the windows are, by their keys: to be kept, and given to the draft of the next run. Windows that are
        not declared now are where they were last."""
        for key, item in self._top.children.items():
            self._keep_place(key, item)
        return dict(self._kept)

    def _keep_place(self, key: str, item: Item) -> None:
        if item.kind is kinds.WINDOW and item.node.scene is not None:
            self._kept[key] = item.node.edges

    def kept_place(self, key: str) -> tuple[float, float, float, float] | None:
        """Left, top, width and height that a window had."""
        box = self._kept.get(key)
        return None if box is None else (box[0], box[1], box[2] - box[0], box[3] - box[1])

    def node(self, path: str) -> Node:
        """The node of what has these keys: ``tug-7/pause``.

        :raises DeclarationError: there is none.
        """
        item = self._top
        for key in path.split("/"):
            child = item.children.get(key)
            if child is None:
                known = ", ".join(item.children) or "nothing"
                raise DeclarationError(f"{path}: there is no {key!r} there, expected one of {known}")
            item = child
        return item.node

    def in_handler(self) -> bool:
        """Whether a handler is running."""
        dispatcher = self.dispatcher()
        return dispatcher is not None and dispatcher.running

    def dispatcher(self) -> Dispatcher | None:
        """Who runs the handlers of the scene."""
        scene = self._layer.scene
        router = scene.router if scene is not None else None
        return cast("Router", router)._state.dispatcher if router is not None else None

    # -- when a frame is over ------------------------------------------------------------------------------------------

    def _check_free(self, declared: Declared) -> None:
        """Check that the keys of what is new are not the names of nodes that others have added to the layer."""
        known = self._top.children
        for one in declared.children:
            if one.item is None and one.key in self._layer and one.key not in known:
                raise DeclarationError(
                    f"{line_of(one.at)}: the key {one.key!r} is the name of a node that is in {self._layer.path}"
                    " already; expected another, or a layer of the draft's own"
                )

    def _lay(self, declared: Declared) -> None:
        """Lay what stands in the layer itself in a column, below a bar of menus if there is one."""
        pad, barred = self._style.pad, any(one.kind is menus.BAR for one in declared.children)
        above = pad + self._style.line * barred
        flow = Flow("column", gap=self._style.gap, padding=(above, pad, pad, pad), align="start")
        if self._layer.flow != flow:
            self._layer.set_for_now(flow=flow)

    def _hold(self, item: Item, declared: Declared) -> None:
        """Have an item hold what was declared in it."""
        holder = item.holder
        for key, child in list(item.children.items()):
            now = declared.keys.get(key)
            if now is None or now.item is not child:
                self._keep_place(key, child)
                del item.children[key]
                child.remove()
        for one in declared.children:
            self._become(item, holder, one)
        order = [one.key for one in declared.children if one.kind.keeps_order]
        if order != item.order and holder.scene is not None:
            item.order = order
            holder.arrange_for_now(order)
        item.kind.after(item)

    def _become(self, above: Item, holder: Node, one: Declared) -> None:
        """Make or change an item as it was declared."""
        item, kind = one.item, one.kind
        if item is None:
            item = kind.add(holder, one.key, one.args, self._style)
            above.children[one.key] = item
            above.order = []
            kind.begin(item, above)
            kind.update(item, one.args, self._style)
            item.args = one.args
        elif item.args != one.args:
            kind.update(item, one.args, self._style)
            item.args = one.args
        if kind is kinds.WINDOW and not item.node.visible:
            item.node.set_for_now(visible=True)  # what is declared shows
        if one.value is not NOTHING:
            kind.set_value(item, one.value)
            item.given = one.value
        if one.tip != (item.tip[0] if item.tip is not None else None):
            self._tell(item, one.tip)
        if one.children or item.children:
            self._hold(item, one)

    def _tell(self, item: Item, text: str | None) -> None:
        """Give an item another tooltip, or none."""
        if item.tip is not None:
            item.tip[2].detach()
            item.tip[1].remove()
            item.tip = None
        if text is not None:
            name = "tip:" + "-".join(item.node.path.split("/")[1:])
            node = self._layer.add_for_now(name, order=2_000, role="tooltip")
            caption(node, text, self._style.size(text))
            node.place = FIT
            item.tip = (text, node, Tooltip(node, item.node))
