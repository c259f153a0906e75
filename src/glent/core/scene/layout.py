"""How large a node's content is, and where a flow lays its children (laws L1–L7).

Sizes of content are found from the leaves up, kept, and found anew only where something below has changed; places are
given from the root down. No width depends on a height. A height depends on a width only where a row wraps: there the
height of what is below is asked for at a width that is known by then, and kept for that width. So one pass each way is
all there is.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.scene.place import FIT, limited, resolved

if TYPE_CHECKING:
    from glent.core.geometry.affine import Box
    from glent.core.scene.flow import Flow
    from glent.core.scene.node import Node
    from glent.core.scene.place import Length, Place

__all__ = ["Natural", "fitted", "lay", "natural", "tall", "widest"]

X, Y = 0, 1
Span = tuple[float, float]


class _Lines:
    """What stands for a row that wraps, there or below: the last width that a height was asked for at.

    Two are never equal: a change of any of it may make another height.
    """

    __slots__ = ("height", "width")

    def __init__(self) -> None:
        self.width = -1.0
        self.height = 0.0


Natural = tuple[float, float, _Lines | None]
"""Width and height of content where nothing wraps, and whether something might."""


def natural(node: Node) -> Natural:
    """Width and height of a node's content, its padding included, were each row in one line (law L2). Cost: nothing
    once it is known."""
    known = node._natural
    if known is None:
        known = node._natural = _found(node)
    return known


def tall(node: Node, width: float) -> float:
    """The height of a node's content where its box is so wide (laws L2, L7)."""
    known = natural(node)
    lines = known[2]
    if lines is None:
        return known[1]
    if lines.width != width:
        lines.width, lines.height = width, _tall(node, width)
    return lines.height


def fitted(node: Node, width: float, height: float) -> Box:
    """The box, by its place, of a node that fits its content, in a parent of this size."""
    place, known = node._place, natural(node)
    box = place.edges(width, height, known[:2])
    if known[2] is None or place.height != FIT:
        return box
    return place.edges(width, height, (known[0], tall(node, box[2] - box[0])))


def widest(node: Node, width: float) -> float:
    """The width of a node's content, padding included, as it is laid in a box so wide."""
    flow = node._flow
    if flow is None or not flow.wraps:
        return natural(node)[0]
    lines = _lines(flow, _flowing(node), width)
    lengths = [sum(_basis(one, X, 0.0) for one in line) + (len(line) - 1) * flow.gap[1] for line in lines]
    return max(lengths, default=0.0) + sum(_pads(flow, X))


def lay(node: Node, width: float, height: float) -> list[Node]:
    """Give the children of a node of this size their boxes. Return those whose box has changed."""
    flow, children = node._flow, node._children
    if not children:
        return []
    boxes: dict[Node, Box] = {}
    if flow is not None:
        flowing = _flowing(node)
        xs, lines = _widths(flow, flowing, width)
        ys = _heights(flow, lines, xs, height)
        boxes = {one: (xs[one][0], ys[one][0], xs[one][1], ys[one][1]) for one in flowing}
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


def _basis(node: Node, axis: int, extent: float, width: float | None = None) -> float:
    """The size that a node has of itself, in a room of this extent; its height where it is so wide."""
    size, minimum, maximum = _size(node._place, axis)
    if size is not None and size != FIT:
        length = resolved(size, extent)
    else:
        wide, high, _ = natural(node)
        length = wide if axis == X else high if width is None else tall(node, width)
    return max(length, 0.0) if minimum is None and maximum is None else limited(length, minimum, maximum, extent)


# -- from the leaves up --------------------------------------------------------------------------------------------


def _found(node: Node) -> Natural:
    content = node._gesture_traits.content
    if content is not None:
        return (*content, None)
    flow = node._flow
    if flow is None:
        children = [one for one in (node._children or {}).values() if one._visible]
        return _reach(node, X), _reach(node, Y), _Lines() if _any_wraps(children) else None
    flowing = _flowing(node)
    if not flowing:
        return 0.0, 0.0, None
    sizes = ([_basis(one, X, 0.0) for one in flowing], [_basis(one, Y, 0.0) for one in flowing])
    if flow.kind == "grid":
        columns = flow.columns or 1
        rows = [max(sizes[Y][start : start + columns]) for start in range(0, len(flowing), columns)]
        wide = columns * max(sizes[X]) + (columns - 1) * flow.gap[1]
        high = sum(rows) + (len(rows) - 1) * flow.gap[0]
    else:
        gaps = (len(flowing) - 1) * flow.gap[flow.kind == "row"]
        wide, high = (
            (sum(sizes[X]) + gaps, max(sizes[Y])) if flow.kind == "row" else (max(sizes[X]), sum(sizes[Y]) + gaps)
        )
    lines = _Lines() if flow.wraps or _any_wraps(flowing) else None
    return wide + sum(_pads(flow, X)), high + sum(_pads(flow, Y)), lines


def _any_wraps(nodes: list[Node]) -> bool:
    return any(natural(one)[2] is not None for one in nodes)


def _tall(node: Node, width: float) -> float:
    """The height of content, found anew."""
    flow = node._flow
    if flow is None:
        return _reach(node, Y, width)
    flowing = _flowing(node)
    xs, lines = _widths(flow, flowing, width)
    highest = [max(_basis(one, Y, 0.0, xs[one][1] - xs[one][0]) for one in line) for line in lines]
    return sum(highest) + max(len(lines) - 1, 0) * flow.gap[0] + sum(_pads(flow, Y))


def _reach(node: Node, axis: int, width: float | None = None) -> float:
    """How far children placed by themselves need their parent to go; a percentage of that counts as nothing.

    :param width: where it is known, and something below wraps, how wide their parent is.
    """
    far = 0.0
    for child in (node._children or {}).values():
        if child._visible:
            place = child._place
            sides = (place.left, place.right) if axis == X else (place.top, place.bottom)
            own = None
            if width is not None:
                box = place.edges(width, 0.0, natural(child)[:2])
                own = box[2] - box[0]
            reach = _basis(child, axis, 0.0, own) + sum(resolved(side, 0.0) for side in sides if side is not None)
            far = max(far, reach)
    return far


# -- from the root down --------------------------------------------------------------------------------------------


def _widths(flow: Flow, flowing: list[Node], width: float) -> tuple[dict[Node, Span], list[list[Node]]]:
    """The span across of each child, and the lines that they lie in, from the top down."""
    if flow.kind == "column":
        return dict(zip(flowing, _across(flow, flowing, width), strict=True)), [[one] for one in flowing]
    if flow.kind == "grid":
        columns = flow.columns or 1
        start, end = _pads(flow, X)
        between = flow.gap[1]
        wide = max(width - start - end - between * (columns - 1), 0.0) / columns
        cells = _chain([wide] * columns, start, between, width - end)
        xs = {one: _within(one, X, cells[at % columns], flow.justify, True) for at, one in enumerate(flowing)}
        return xs, [flowing[at : at + columns] for at in range(0, len(flowing), columns)]
    lines = _lines(flow, flowing, width)
    spans = [span for line in lines for span in _along(flow, line, X, width)]
    return dict(zip(flowing, spans, strict=True)), lines


def _lines(flow: Flow, flowing: list[Node], width: float) -> list[list[Node]]:
    """The lines of a row: a new one begins with what would go over the end (law L7)."""
    if not flow.wraps:
        return [flowing] if flowing else []
    start, end = _pads(flow, X)
    room = max(width - start - end, 0.0)
    room += 1e-9 * (1.0 + room)  # what fits but for a rounding fits
    lines: list[list[Node]] = []
    far = 0.0
    for one in flowing:
        size = _basis(one, X, room)
        if lines and far + flow.gap[1] + size <= room:
            lines[-1].append(one)
            far += flow.gap[1] + size
        else:
            lines.append([one])
            far = size
    return lines


def _heights(flow: Flow, lines: list[list[Node]], xs: dict[Node, Span], height: float) -> dict[Node, Span]:
    """The span down of each child."""
    start, end = _pads(flow, Y)
    widths = {one: x1 - x0 for one, (x0, x1) in xs.items()}
    if flow.kind == "column":
        flowing = [line[0] for line in lines]
        return dict(zip(flowing, _along(flow, flowing, Y, height, widths), strict=True))
    if flow.kind == "row" and not flow.wraps:
        spans = [(start, max(height - end, start))] * len(lines)
    else:
        room = max(height - start - end, 0.0)
        sizes = [max(_basis(one, Y, room, widths[one]) for one in line) for line in lines]
        over = room - sum(sizes) - flow.gap[0] * (len(lines) - 1)
        if over > 0.0 and flow.kind == "grid":
            _grown(sizes, [max(one._place.grow for one in line) for line in lines], [None] * len(lines), over)
        spans = _chain(sizes, start, flow.gap[0], height - end)
    fills = flow.align == "stretch"
    return {
        one: _within(one, Y, span, flow.align, fills, widths[one])
        for line, span in zip(lines, spans, strict=True)
        for one in line
    }


def _along(
    flow: Flow, flowing: list[Node], axis: int, extent: float, widths: dict[Node, float] | None = None
) -> list[Span]:
    """The spans of children one after the other."""
    start, end = _pads(flow, axis)
    room = max(extent - start - end, 0.0)
    gap = flow.gap[axis == X]
    sizes = [_basis(one, axis, room, widths[one] if widths is not None else None) for one in flowing]
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


def _across(flow: Flow, flowing: list[Node], width: float) -> list[Span]:
    """The spans of a column's children across."""
    start, end = _pads(flow, X)
    room = (start, max(width - end, start))
    return [_within(one, X, room, flow.align, flow.align == "stretch") for one in flowing]


def _within(node: Node, axis: int, room: Span, align: str, fills: bool, width: float | None = None) -> Span:
    """The span of a child that has some room to itself; down, where it is so wide."""
    start, end = room
    size, minimum, maximum = _size(node._place, axis)
    if size is None and fills:
        length = limited(end - start, minimum, maximum, end - start)
        if length == end - start:
            return room
    else:
        length = _basis(node, axis, end - start, width)
    left = max(end - start - length, 0.0)
    if align == "end" and left > 0.0:
        return end - length, end
    start += left / 2 if align == "center" else 0.0
    return start, start + length
