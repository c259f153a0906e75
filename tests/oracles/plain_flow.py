"""The plain slow model of flow: every box found anew from laws L1–L6, without a memory. The judge of the real one."""

from __future__ import annotations

from glent import Node, Place

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


def wished(node: Node, axis: int, extent: float) -> float:
    size = getattr(node.place, AXES[axis][2])
    own = content(node)[axis] if size in (None, "fit-content") else length(size, extent)
    return bounded(node.place, axis, own, extent)


def content(node: Node) -> tuple[float, float]:
    """L2: how large a node's content is."""
    if node.content is not None:
        return node.content
    return _needed(node, 0), _needed(node, 1)


def _needed(node: Node, axis: int) -> float:
    flow = node.flow
    if flow is None:
        sums = [0.0]
        for one in node.children:
            if one.visible:
                sides = [getattr(one.place, side) for side in AXES[axis][:2]]
                sums.append(wished(one, axis, 0.0) + sum(length(side, 0.0) for side in sides if side is not None))
        return max(sums)
    children = laid(node)
    if not children:
        return 0.0
    pads = flow.padding[3] + flow.padding[1] if axis == 0 else flow.padding[0] + flow.padding[2]
    sizes = [wished(one, axis, 0.0) for one in children]
    if flow.kind != "grid":
        goes = axis == (flow.kind == "column")
        return pads + (sum(sizes) + flow.gap[0] * (len(sizes) - 1) if goes else max(sizes))
    if axis == 0:
        return pads + flow.columns * max(sizes) + flow.gap[1] * (flow.columns - 1)
    rows = [max(sizes[at : at + flow.columns]) for at in range(0, len(sizes), flow.columns)]
    return pads + sum(rows) + flow.gap[0] * (len(rows) - 1)


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
    spans = []
    for axis in (0, 1):
        near, far, own = (getattr(node.place, word) for word in AXES[axis])
        extent = size[axis]
        between = max(0.0, extent - length(near or 0, extent) - length(far or 0, extent))
        whole = wished(node, axis, extent) if own is not None else bounded(node.place, axis, between, extent)
        hangs = near is None and far is not None and (own is not None or whole != between)
        if hangs:
            spans.append((extent - length(far, extent) - whole, extent - length(far, extent)))
        else:
            spans.append((length(near or 0, extent), length(near or 0, extent) + whole))
    return spans[0][0], spans[1][0], spans[0][1], spans[1][1]


def _in_flow(parent: Node, node: Node, size: tuple[float, float]) -> tuple[float, ...]:
    flow, children = parent.flow, laid(parent)
    top, right, bottom, left = flow.padding
    rooms = [(left, max(left, size[0] - right)), (top, max(top, size[1] - bottom))]
    at = children.index(node)
    if flow.kind == "grid":
        rows = [children[start : start + flow.columns] for start in range(0, len(children), flow.columns)]
        wide = max(0.0, rooms[0][1] - left - flow.gap[1] * (flow.columns - 1)) / flow.columns
        start = left + at % flow.columns * (wide + flow.gap[1])
        inner = rooms[1][1] - top
        tall = _shared(
            [max(wished(one, 1, inner) for one in row) for row in rows],
            [max(one.place.grow for one in row) for row in rows],
            [float("inf")] * len(rows),
            inner - flow.gap[0] * (len(rows) - 1),
        )
        begin = top + sum(tall[: at // flow.columns]) + flow.gap[0] * (at // flow.columns)
        across = _aside(node, 0, (start, start + wide), flow.justify, True)
        down = _aside(node, 1, (begin, begin + tall[at // flow.columns]), flow.align, flow.align == "stretch")
        return across[0], down[0], across[1], down[1]
    main = int(flow.kind == "column")
    low, high = rooms[main]
    most = [getattr(one.place, f"max_{AXES[main][2]}") for one in children]
    room = high - low - flow.gap[0] * (len(children) - 1)
    sizes = _shared(
        [wished(one, main, high - low) for one in children],
        [one.place.grow for one in children],
        [float("inf") if limit is None else length(limit, high - low) for limit in most],
        room,
    )
    left_over, gap = max(0.0, room - sum(sizes)), flow.gap[0]
    if flow.justify == "space-between" and len(children) > 1:
        gap += left_over / (len(children) - 1)
    low += left_over * {"center": 0.5, "end": 1.0}.get(flow.justify, 0.0)
    low += sum(sizes[:at]) + gap * at
    spans = [(low, low + sizes[at]), _aside(node, 1 - main, rooms[1 - main], flow.align, flow.align == "stretch")]
    across, down = spans if main == 0 else reversed(spans)
    return across[0], down[0], across[1], down[1]


def _shared(sizes: list[float], grows: list[float], mosts: list[float], room: float) -> list[float]:
    """L4, by a search for the one level of growth that uses up the room: no rounds of shares at all."""

    def grown(level: float) -> list[float]:
        return [max(s, min(s + level * g, most)) for s, g, most in zip(sizes, grows, mosts, strict=True)]

    low, high = 0.0, 1e7
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if sum(grown(middle)) <= room else (low, middle)
    return grown(low)


def _aside(node: Node, axis: int, room: tuple[float, float], align: str, fills: bool) -> tuple[float, float]:
    extent = room[1] - room[0]
    own = wished(node, axis, extent)
    if fills and getattr(node.place, AXES[axis][2]) is None:
        own = bounded(node.place, axis, extent, extent)
    start = room[0] + max(0.0, extent - own) * {"center": 0.5, "end": 1.0}.get(align, 0.0)
    return start, start + own
