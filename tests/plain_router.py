"""The plain slow model of pointers: who owns, hovers and gets what, straight from laws P1–P11 and W1. The judge."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import plain

if TYPE_CHECKING:
    from glent import Node, Scene

CLAIMS = {"click", "scroll", "hold", "hold_progress", "repeat", "drag_start", "drag", "drag_end"}


def path(node: Node) -> list[Node]:
    return ([] if node.parent is None else path(node.parent)) + [node]


def listens(node: Node) -> bool:
    return node.is_control or any(node.listens(kind) for kind in CLAIMS)


@dataclass
class Model:
    kind: str
    hold: str = "free"
    buttons: set[int] = field(default_factory=set)
    pos: tuple[float, float] | None = None
    begun: int = 0
    over: bool = False
    press_path: list[Node] = field(default_factory=list)
    owner: Node | None = None


class PlainRouter:
    def __init__(self, scene: Scene) -> None:
        self.scene = scene
        self.pointers: dict[str, Model] = {}

    def offers(self, pointer: Model) -> list[Node]:
        return plain.offers(self.scene, *pointer.pos) if pointer.pos is not None else []

    def hovered(self, pointer: Model) -> set[Node]:
        if pointer.hold in ("world", "spent"):
            return set()
        union = {node for offer in self.offers(pointer) for node in path(offer)}
        return union if pointer.hold == "free" else union & set(pointer.press_path)

    def inside(self, pointer: Model, node: Node) -> bool:
        return any(node in path(offer) for offer in self.offers(pointer))

    def removed(self, gone: list[Node]) -> None:
        for pointer in self.pointers.values():
            if pointer.hold in ("ui", "nobody") and pointer.press_path and pointer.press_path[-1] in gone:
                if pointer.owner in gone:
                    pointer.hold = "spent"
                    pointer.press_path = []
                    pointer.owner = None
                else:
                    pointer.press_path = [node for node in pointer.press_path if node not in gone]

    def settle(self) -> None:
        for pointer in self.pointers.values():
            owner = pointer.owner
            if pointer.hold == "ui" and owner and not all(n.visible and n.enabled for n in path(owner)):
                pointer.hold, pointer.owner, pointer.press_path = "spent", None, []

    def press_goes_to(self, pointer: Model) -> tuple[str, Node | None]:
        """Law P2, with no handler taking anything, and S5."""
        offers = self.offers(pointer)
        for index, offer in enumerate(offers):
            enabled = all(node.enabled for node in path(offer))
            if offer.effective == "solid":
                return ("ui" if enabled else "nobody"), offer
            shared = set(path(offers[index + 1])) if index + 1 < len(offers) else set()
            if enabled and any(listens(node) for node in path(offer) if node not in shared):
                return "ui", offer
        return "world", None

    def feed(
        self, action: str, name: str, kind: str, x: float, y: float, button: int
    ) -> tuple[bool, Node | None, list]:
        """World, owner, and the nodes that get a click."""
        pointer = self.pointers.get(name)
        if action == "release" and (pointer is None or button not in pointer.buttons):
            return False, None, []
        if action == "cancel":
            if pointer is not None:
                pointer.hold, pointer.buttons = "free", set()
                if kind == "touch":
                    del self.pointers[name]
            return False, None, []
        if pointer is None:
            pointer = self.pointers[name] = Model(kind)
        if action == "press" and button in pointer.buttons:
            pointer.hold, pointer.buttons = "free", set()
        pointer.pos = (x, y)
        if action == "press" and not pointer.buttons:
            pointer.buttons = {button}
            pointer.hold, target = self.press_goes_to(pointer)
            pointer.begun, pointer.over = button, False
            pointer.press_path = path(target) if target else []
            controls = [node for node in pointer.press_path if node.is_control]
            pointer.owner = controls[-1] if controls else target
            return pointer.hold == "world", pointer.owner if pointer.hold == "ui" else None, []
        if action == "move" and pointer.hold == "free":
            offers = self.offers(pointer)
            solid = offers[-1] if offers and offers[-1].effective == "solid" else None
            return solid is None, solid, []
        answer = (pointer.hold == "world", pointer.owner if pointer.hold == "ui" else None)
        clicks = []
        if action == "press":
            pointer.buttons.add(button)
        if action == "release":
            pointer.buttons.discard(button)
            if pointer.hold == "ui" and button == pointer.begun and not pointer.over:
                pointer.over = True
                for node in reversed(pointer.press_path):
                    if node.is_control or node.listens("click"):
                        if self.inside(pointer, node) and all(n.visible and n.enabled for n in path(node)):
                            clicks.append(node)
                        break
            if not pointer.buttons:
                pointer.hold, pointer.owner, pointer.press_path = "free", None, []
                if kind == "touch":
                    del self.pointers[name]
        return *answer, clicks
