"""How large a node's content is, and where a flow lays its children (laws L1–L6).

Sizes of content are found from the leaves up, kept, and found anew only where something below has changed; places are
given from the root down. Neither axis depends on the other, so one pass each way is all there is.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.scene.place import FIT, limited, resolved

if TYPE_CHECKING:
    from glent.core.geometry.affine import Box
    from glent.core.scene.flow import Flow
    from glent.core.scene.node import Node
    from glent.core.scene.place import Length, Place

__all__ = ["lay", "natural"]

X, Y = 0, 1
Span = tuple[float, float]


def natural(node: Node) -> tuple[float, float]:
    """Width and height of a node's content, its padding included (law L2). Cost: nothing once it is known."""
    known = node._natural
    if known is None:
        known = node._natural = _found(node)
    return known


def lay(node: Node, width: float, height: float) -> list[Node]:
    """Give the children of a node of this size their boxes. Return those whose box has changed."""
    flow, children = node._flow, node._children
    if not children:
        return []
    boxes: dict[Node, Box] = {}
    if flow is not None:
        flowing = _flowing(node)
        if flow.kind == "grid":
            boxes = _grid(flow, flowing, width, height)
        elif flow.kind == "row":
            spans = _along(flow, flowing, X, width)
            across = _across(flow, flowing, Y, height)
            boxes = {c: (a[0], b[0], a[1], b[1]) for c, a, b in zip(flowing, spans, across, strict=True)}
        else:
            spans = _along(flow, flowing, Y, height)
            across = _across(flow, flowing, X, width)
            boxes = {c: (b[0], a[0], b[1], a[1]) for c, a, b in zip(flowing, spans, across, strict=True)}
    moved = []
    for child in children.values():
        box = boxes.get(child)
        if box != child._slot:
            child._slot = box
            moved.append(child)
    return moved


def _flowing(node: Node) -> list[Node]:
    children = node._children
    return [one for one in children.values() if one._visible and not one._place.is_pinned] if children else []


def _pads(flow: Flow, axis: int) -> tuple[float, float]:
    top, right, bottom, left = flow.padding
    return (left, right) if axis == X else (top, bottom)


def _size(place: Place, axis: int) -> tuple[Length | None, Length | None, Length | None]:
    """The size that a place gives on one axis, with its minimum and maximum."""
    if axis == X:
        return place.width, place.min_width, place.max_width
    return place.height, place.min_height, place.max_height


def _basis(node: Node, axis: int, extent: float) -> float:
    """The size that a node has of itself, in a room of this extent."""
    size, minimum, maximum = _size(node._place, axis)
    length = natural(node)[axis] if size is None or size == FIT else resolved(size, extent)
    return max(length, 0.0) if minimum is None and maximum is None else limited(length, minimum, maximum, extent)


# -- from the leaves up --------------------------------------------------------------------------------------------


def _found(node: Node) -> tuple[float, float]:
    content = node._gesture_traits.content
    if content is not None:
        return content
    flow = node._flow
    if flow is None:
        return _reach(node, X), _reach(node, Y)
    flowing = _flowing(node)
    if not flowing:
        return 0.0, 0.0
    sizes = ([_basis(one, X, 0.0) for one in flowing], [_basis(one, Y, 0.0) for one in flowing])
    if flow.kind == "grid":
        columns = flow.columns or 1
        rows = [max(sizes[Y][start : start + columns]) for start in range(0, len(flowing), columns)]
        wide = columns * max(sizes[X]) + (columns - 1) * flow.gap[1]
        tall = sum(rows) + (len(rows) - 1) * flow.gap[0]
    else:
        gaps = (len(flowing) - 1) * flow.gap[0]
        wide, tall = (
            (sum(sizes[X]) + gaps, max(sizes[Y])) if flow.kind == "row" else (max(sizes[X]), sum(sizes[Y]) + gaps)
        )
    return wide + sum(_pads(flow, X)), tall + sum(_pads(flow, Y))


def _reach(node: Node, axis: int) -> float:
    """How far children placed by themselves need their parent to go; a percentage of that counts as nothing."""
    far = 0.0
    for child in (node._children or {}).values():
        if child._visible:
            place = child._place
            sides = (place.left, place.right) if axis == X else (place.top, place.bottom)
            reach = _basis(child, axis, 0.0) + sum(resolved(side, 0.0) for side in sides if side is not None)
            far = max(far, reach)
    return far


# -- from the root down --------------------------------------------------------------------------------------------


def _along(flow: Flow, flowing: list[Node], axis: int, extent: float) -> list[Span]:
    """The spans of children one after the other."""
    start, end = _pads(flow, axis)
    room = max(extent - start - end, 0.0)
    gap = flow.gap[0]
    sizes = [_basis(one, axis, room) for one in flowing]
    left = room - sum(sizes) - gap * (len(flowing) - 1)
    if left > 0.0:
        left = _grown(sizes, [one._place.grow for one in flowing], [_maximum(one, axis, room) for one in flowing], left)
    if left > 0.0:  # where things do not fit they begin at the start, so that scrolling reaches all of them
        if flow.justify == "space-between" and len(flowing) > 1:
            gap += left / (len(flowing) - 1)
        elif flow.justify in ("center", "end"):
            start += left / 2 if flow.justify == "center" else left
    return _chain(sizes, start, gap, extent - end)


def _chain(sizes: list[float], start: float, gap: float, end: float) -> list[Span]:
    """Spans of these sizes; each begins at the very number where the one before ended (law H2)."""
    spans = []
    for size in sizes:
        stop = start + size
        spans.append((start, stop))
        start = stop + gap
    if spans and abs(spans[-1][1] - end) <= 1e-9 * (1.0 + abs(end)):
        spans[-1] = (spans[-1][0], max(spans[-1][0], end))  # so do the last and what is beside the parent
    return spans


def _grown(sizes: list[float], grows: list[float], maxima: list[float | None], left: float) -> float:
    """Share out what is left over; those that come to their limit leave the rest to the others. Return what remains."""
    growing = [index for index, grow in enumerate(grows) if grow > 0.0]
    while growing and left > 0.0:
        total = sum(grows[index] for index in growing)
        full = []
        for index in growing:
            maximum = maxima[index]
            if maximum is not None and sizes[index] + left * grows[index] / total >= maximum:
                full.append((index, maximum))
        if not full:
            for index in growing:
                sizes[index] += left * grows[index] / total
            return 0.0
        for index, maximum in full:
            left -= max(maximum - sizes[index], 0.0)
            sizes[index] = max(maximum, sizes[index])
            growing.remove(index)
    return left


def _maximum(node: Node, axis: int, extent: float) -> float | None:
    maximum = _size(node._place, axis)[2]
    return None if maximum is None else resolved(maximum, extent)


def _across(flow: Flow, flowing: list[Node], axis: int, extent: float) -> list[Span]:
    """The spans of children across the direction they follow each other in."""
    start, end = _pads(flow, axis)
    room = (start, max(extent - end, start))
    return [_within(one, axis, room, flow.align, flow.align == "stretch") for one in flowing]


def _within(node: Node, axis: int, room: Span, align: str, fills: bool) -> Span:
    """The span of a child that has some room to itself."""
    start, end = room
    size, minimum, maximum = _size(node._place, axis)
    if size is None and fills:
        length = limited(end - start, minimum, maximum, end - start)
        if length == end - start:
            return room
    else:
        length = _basis(node, axis, end - start)
    left = max(end - start - length, 0.0)
    if align == "end" and left > 0.0:
        return end - length, end
    start += left / 2 if align == "center" else 0.0
    return start, start + length


def _grid(flow: Flow, flowing: list[Node], width: float, height: float) -> dict[Node, Box]:
    columns = flow.columns or 1
    (left, right), (top, bottom) = _pads(flow, X), _pads(flow, Y)
    between_rows, between_columns = flow.gap
    wide = max(width - left - right - between_columns * (columns - 1), 0.0) / columns
    xs = _chain([wide] * columns, left, between_columns, width - right)
    room = max(height - top - bottom, 0.0)
    rows = [flowing[start : start + columns] for start in range(0, len(flowing), columns)]
    sizes = [max(_basis(one, Y, room) for one in row) for row in rows]
    over = room - sum(sizes) - between_rows * (len(rows) - 1)
    if over > 0.0:
        _grown(sizes, [max(one._place.grow for one in row) for row in rows], [None] * len(rows), over)
    boxes = {}
    for row, span in zip(rows, _chain(sizes, top, between_rows, height - bottom), strict=True):
        for one, cell in zip(row, xs, strict=False):
            x0, x1 = _within(one, X, cell, flow.justify, True)
            y0, y1 = _within(one, Y, span, flow.align, flow.align == "stretch")
            boxes[one] = (x0, y0, x1, y1)
    return boxes
