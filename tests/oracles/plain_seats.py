"""The plain slow model of what a seat sees and where its focus may be: straight from the laws M1, T1, W2, F1–F3."""

from __future__ import annotations

from collections.abc import Iterator

import plain_hits as plain
from glent import Layer, Node, Panel, Scene

COMPOSITES = {"grid", "listbox", "menu", "menubar", "radiogroup", "tablist", "toolbar", "tree", "treegrid"}


def whose(node: Node, seat: str) -> str:
    """``own``, or what the outermost node that is for others only says of them."""
    for one in node.lineage():
        if one.seats is not None and seat not in one.seats:
            return one.for_others
    return "own"


def shown(node: Node) -> bool:
    return node.scene is not None and all(one.visible for one in node.lineage())


def there(*roots: Node) -> Iterator[Node]:
    """All nodes that show and are no ghosts, back to front: what hides a node, or makes it a ghost, does so to all of
    its subtree."""
    stack = list(reversed(roots))
    while stack:
        node = stack.pop()
        if node.visible and node.solidity != "ghost":
            yield node
            stack.extend(reversed(node.children_painted()))


def modals(scene: Scene, seat: str) -> list[Node]:
    """The open modals, back to front."""
    return [
        node
        for node in there(*scene.in_world, *reversed(scene.layers))
        if node.modal and whose(node, seat) != "through" and (node.blocks_all or isinstance(node.lineage()[0], Layer))
    ]


def claimed(scene: Scene, seat: str, open_modals: list[Node] | None = None) -> set[str]:
    """The channels that are kept from the world."""
    if modals(scene, seat) if open_modals is None else open_modals:
        return {"pointer", "keys", "pad", "text"}
    layers = [layer for layer in scene.layers if layer.visible and whose(layer, seat) != "through"]
    return {channel for layer in layers for channel in layer.claims}


def cursor(scene: Scene, seat: str) -> str:
    for layer in scene.layers:
        if layer.visible and layer.cursor and whose(layer, seat) == "own":
            return layer.cursor
    return "shown"


def offers(
    scene: Scene, seat: str, x: float, y: float, open_modals: list[Node] | None = None
) -> tuple[list[Node], bool]:
    """The offers at a point, and whether what they leave is kept from the world.

    In paint order all of a modal's subtree and all in front of it come after the modal, and nothing else does.
    """
    painted = {node: number for number, node in enumerate(scene.walk())}
    open_modals = modals(scene, seat) if open_modals is None else open_modals
    floor = painted[open_modals[-1]] if open_modals else -1
    in_transition = [
        one
        for one in scene.layers
        if one.visible and one.transition is not None and one.solidity != "ghost" and whose(one, seat) != "through"
    ]
    found: list[Node] = []
    for seen in plain.hits(scene, x, y):
        node = seen.node
        if whose(node, seat) == "through":
            continue
        layer = node.lineage()[0]
        if any(scene.layers.index(layer) >= scene.layers.index(one) for one in in_transition):  # type: ignore[arg-type]
            return found, True
        if painted[node] < floor or whose(node, seat) == "blocked":
            return found, True
        found.append(node)
        if node.effective_solidity == "solid":
            return found, False
    return found, bool(open_modals or in_transition or "pointer" in claimed(scene, seat, open_modals))


def can_hear(node: Node, sliding: bool = False) -> bool:
    """Whether a node may hear keys: it shows, is enabled, and, unless it heard of them before, does not slide in."""
    layer = node.lineage()[0]
    deaf = isinstance(layer, Layer) and layer.transition is not None
    return shown(node) and all(one.enabled for one in node.lineage()) and (sliding or not deaf)


def is_barred(scene: Scene, seat: str, node: Node, open_modals: list[Node] | None = None) -> bool:
    """Whether a modal keeps keys from a node: the topmost, or one on its own panel (M1)."""
    if open_modals is None:
        open_modals = modals(scene, seat)
    if open_modals:
        return whose(open_modals[-1], seat) != "own" or open_modals[-1] not in node.lineage()
    local = local_modal(scene, seat, node.lineage()[0])
    return local is not None and local not in node.lineage()


def local_modal(scene: Scene, seat: str, root: Node) -> Node | None:
    """The topmost open modal that blocks no more than its panel."""
    if isinstance(root, Layer):
        return None
    found = [node for node in there(root) if node.modal and not node.blocks_all and whose(node, seat) != "through"]
    return found[-1] if found else None


def shortcut(scene: Scene, seat: str, action: str) -> Node | None:
    """The node that hears a shortcut of the game's: layers front to back, then what stands in the world, the latest
    first; within a tree, what is painted last."""
    for root in (*scene.layers, *reversed(scene.in_world)):
        for node in reversed([one for one in root.walk() if one.listens(action)]):
            if can_hear(node) and whose(node, seat) == "own" and not is_barred(scene, seat, node):
                return node
    return None


def may_have_focus(scene: Scene, seat: str, node: Node, open_modals: list[Node] | None = None) -> bool:
    stop = node.focusable if node.focusable is not None else node.is_control and node.role != "scrollbar"
    if not stop or node.scene is None or whose(node, seat) != "own":
        return False
    layer = node.lineage()[0]
    return (
        (not isinstance(layer, Layer) or layer.transition is None)
        and all(one.visible and one.enabled and one.solidity != "ghost" for one in node.lineage())
        and not is_barred(scene, seat, node, open_modals)
    )


def tab_order(node: Node) -> list[Node]:
    """A node and all below it, as Tab meets them."""
    found = [node]
    for child in sorted(node.children, key=lambda child: child.tab_order):
        found.extend(tab_order(child))
    return found


def stops(scene: Scene, seat: str) -> list[Node]:
    roots = [*(root for root in scene.in_world if isinstance(root, Panel)), *reversed(scene.layers)]
    everyone = [node for root in roots for node in tab_order(root)]
    open_modals = modals(scene, seat)
    return [node for node in everyone if may_have_focus(scene, seat, node, open_modals)]


def group(node: Node, top: Node | None) -> Node | None:
    line = node.lineage()
    if top is not None:
        line = line[line.index(top) + 1 :]
    return next((one for one in line if one.role in COMPOSITES), None)


def tab(scene: Scene, seat: str, focus: Node | None, back: bool, last: dict[Node, Node]) -> Node | None:
    """Where Tab goes: each group is one stop, entered where it was left."""
    open_modals = modals(scene, seat)
    top = open_modals[-1] if open_modals else None
    rounds: list[list[Node]] = []
    for node in stops(scene, seat):
        of = group(node, top)
        known = next((one for one in rounds if of is not None and group(one[0], top) is of), None)
        if known is not None:
            known.append(node)
        else:
            rounds.append([node])
    if not rounds:
        return None
    here = next((number for number, one in enumerate(rounds) if focus in one), None)
    number = (-1 if back else 0) if here is None else (here + (-1 if back else 1)) % len(rounds)
    if number == here:
        return focus
    chosen = rounds[number]
    of = group(chosen[0], top)
    return last[of] if of is not None and last.get(of) in chosen else chosen[0]
