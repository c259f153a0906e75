"""The plain slow model of flow: every box found anew from laws L1–L7, without a memory. The judge of the real one."""

from __future__ import annotations

from glent import Flow, Node, Place

AXES = (("left", "right", "width"), ("top", "bottom", "height"))


def length(value: float | str | tuple[float, float], extent: float) -> float:
    """Text here is "N%" alone."""
    if isinstance(value, tuple):
        return value[0] * extent + value[1]
    return float(value[:-1]) / 100 * extent if isinstance(value, str) else value


def bounded(place: Place, axis: int, size: float, extent: float) -> float:
    word = AXES[axis][2]
    least, most = getattr(place, f"min_{word}"), getattr(place, f"max_{word}")
    size = size if most is None else min(size, length(most, extent))
    return max(0.0, size if least is None else max(size, length(least, extent)))


def laid(node: Node) -> list[Node]:
    """L1: the visible children that name no side."""
    sides = ("left", "right", "top", "bottom")
    return [one for one in node.children if one.visible and all(getattr(one.place, side) is None for side in sides)]


def wished(node: Node, axis: int, extent: float, width: float | None = None) -> float:
    """What it has of itself; its height at a width, or as if nothing wrapped."""
    size = getattr(node.place, AXES[axis][2])
    own = content(node, width)[axis] if size in (None, "fit-content") else length(size, extent)
    return bounded(node.place, axis, own, extent)


def content(node: Node, width: float | None = None) -> tuple[float, float]:
    """L2: how large a node's content is; L7: as high as it is at a width."""
    if node.content is not None:
        return node.content
    return _needed(node, 0, None), _needed(node, 1, width)


def _needed(node: Node, axis: int, width: float | None) -> float:
    flow = node.flow
    if flow is None:
        sums = [0.0]
        for one in node.children:
            if one.visible:
                sides = [getattr(one.place, side) for side in AXES[axis][:2]]
                wide = None if width is None else _long(_span(one, 0, width))
                sums.append(wished(one, axis, 0.0, wide) + sum(length(side, 0.0) for side in sides if side is not None))
        return max(sums)
    children = laid(node)
    if not children:
        return 0.0
    pads = flow.padding[3] + flow.padding[1] if axis == 0 else flow.padding[0] + flow.padding[2]
    if axis == 0:
        sizes = [wished(one, 0, 0.0) for one in children]
        if flow.kind == "grid":
            return pads + flow.columns * max(sizes) + flow.gap[1] * (flow.columns - 1)
        return pads + (sum(sizes) + flow.gap[1] * (len(sizes) - 1) if flow.kind == "row" else max(sizes))
    lines = [children] if width is None and flow.kind == "row" else _lines(node, width)
    wide = {one: None if width is None else _long(_in_flow_x(node, one, width)) for one in children}
    highest = [max(wished(one, 1, 0.0, wide[one]) for one in line) for line in lines]
    return pads + sum(highest) + flow.gap[0] * (len(lines) - 1)


def _lines(node: Node, width: float) -> list[list[Node]]:
    """L6, L7: what lies side by side, from the top down."""
    flow, children = node.flow, laid(node)
    if flow.kind == "column":
        return [[one] for one in children]
    if flow.kind == "grid":
        return [children[start : start + flow.columns] for start in range(0, len(children), flow.columns)]
    if not flow.wraps:
        return [children]
    room = max(0.0, width - flow.padding[1] - flow.padding[3])
    sizes = {one: wished(one, 0, room) for one in children}
    lines: list[list[Node]] = [[]]
    for one in children:
        if lines[-1] and sum(sizes[each] for each in lines[-1]) + sizes[one] + flow.gap[1] * len(
            lines[-1]
        ) > room + 1e-9 * (1 + room):
            lines.append([])
        lines[-1].append(one)
    return lines


def _long(span: tuple[float, float]) -> float:
    return span[1] - span[0]


def boxes(node: Node, width: float, height: float) -> dict[str, tuple[float, ...]]:
    """The edges of all below a node of this size, by path."""
    found = {}
    for one in node.children:
        edges = _anchored(one, (width, height))
        if node.flow is not None and one in laid(node):
            edges = _in_flow(node, one, (width, height))
        found[one.path] = edges
        found |= boxes(one, edges[2] - edges[0], edges[3] - edges[1])
    return found


def _anchored(node: Node, size: tuple[float, float]) -> tuple[float, ...]:
    across = _span(node, 0, size[0])
    down = _span(node, 1, size[1], _long(across))
    return across[0], down[0], across[1], down[1]


def _span(node: Node, axis: int, extent: float, width: float | None = None) -> tuple[float, float]:
    near, far, own = (getattr(node.place, word) for word in AXES[axis])
    between = max(0.0, extent - length(near or 0, extent) - length(far or 0, extent))
    whole = wished(node, axis, extent, width) if own is not None else bounded(node.place, axis, between, extent)
    if near is None and far is not None and (own is not None or whole != between):
        return extent - length(far, extent) - whole, extent - length(far, extent)
    return length(near or 0, extent), length(near or 0, extent) + whole


def _in_flow(parent: Node, node: Node, size: tuple[float, float]) -> tuple[float, ...]:
    across = _in_flow_x(parent, node, size[0])
    down = _in_flow_y(parent, node, size)
    return across[0], down[0], across[1], down[1]


def _in_flow_x(parent: Node, node: Node, width: float) -> tuple[float, float]:
    flow = parent.flow
    room = (flow.padding[3], max(flow.padding[3], width - flow.padding[1]))
    if flow.kind == "column":
        return _aside(node, 0, room, flow.align, flow.align == "stretch")
    if flow.kind == "row":
        line = next(line for line in _lines(parent, width) if node in line)
        return _one_after_the_other(flow, line, 0, room, {})[line.index(node)]
    wide = max(0.0, _long(room) - flow.gap[1] * (flow.columns - 1)) / flow.columns
    start = room[0] + laid(parent).index(node) % flow.columns * (wide + flow.gap[1])
    return _aside(node, 0, (start, start + wide), flow.justify, True)


def _in_flow_y(parent: Node, node: Node, size: tuple[float, float]) -> tuple[float, float]:
    flow, children = parent.flow, laid(parent)
    room = (flow.padding[0], max(flow.padding[0], size[1] - flow.padding[2]))
    wide = {one: _long(_in_flow_x(parent, one, size[0])) for one in children}
    if flow.kind == "column":
        return _one_after_the_other(flow, children, 1, room, wide)[children.index(node)]
    if flow.kind == "grid" or flow.wraps:
        lines = _lines(parent, size[0])
        at = next(number for number, line in enumerate(lines) if node in line)
        inner = _long(room)
        tall = [max(wished(one, 1, inner, wide[one]) for one in line) for line in lines]
        if flow.kind == "grid":
            grows = [max(one.place.grow for one in line) for line in lines]
            tall = _shared(tall, grows, [float("inf")] * len(lines), inner - flow.gap[0] * (len(lines) - 1))
        begin = room[0] + sum(tall[:at]) + flow.gap[0] * at
        room = (begin, begin + tall[at])
    return _aside(node, 1, room, flow.align, flow.align == "stretch", wide[node])


def _one_after_the_other(
    flow: Flow, children: list[Node], axis: int, room: tuple[float, float], wide: dict[Node, float]
) -> list[tuple[float, float]]:
    inner = _long(room)
    gap = flow.gap[1 - axis]
    most = [getattr(one.place, f"max_{AXES[axis][2]}") for one in children]
    left_over = inner - gap * (len(children) - 1)
    sizes = _shared(
        [wished(one, axis, inner, wide.get(one)) for one in children],
        [one.place.grow for one in children],
        [float("inf") if limit is None else length(limit, inner) for limit in most],
        left_over,
    )
    left_over = max(0.0, left_over - sum(sizes))
    if flow.justify == "space-between" and len(children) > 1:
        gap += left_over / (len(children) - 1)
    low = room[0] + left_over * {"center": 0.5, "end": 1.0}.get(flow.justify, 0.0)
    starts = [low + sum(sizes[:at]) + gap * at for at in range(len(sizes))]
    return [(start, start + size) for start, size in zip(starts, sizes, strict=True)]


def _shared(sizes: list[float], grows: list[float], mosts: list[float], room: float) -> list[float]:
    """L4, by a search for the one level of growth that uses up the room: no rounds of shares at all."""

    def grown(level: float) -> list[float]:
        return [max(s, min(s + level * g, most)) for s, g, most in zip(sizes, grows, mosts, strict=True)]

    low, high = 0.0, 1e7
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if sum(grown(middle)) <= room else (low, middle)
    return grown(low)


def _aside(
    node: Node, axis: int, room: tuple[float, float], align: str, fills: bool, width: float | None = None
) -> tuple[float, float]:
    extent = room[1] - room[0]
    own = wished(node, axis, extent, width)
    if fills and getattr(node.place, AXES[axis][2]) is None:
        own = bounded(node.place, axis, extent, extent)
    start = room[0] + max(0.0, extent - own) * {"center": 0.5, "end": 1.0}.get(align, 0.0)
    return start, start + own
