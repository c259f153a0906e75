"""The plain slow model of pointers: who owns, hovers and gets what, straight from laws P1–P12, G5 and W1. The judge."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, NamedTuple

import plain_hits as plain
from plain_contest import Contest

if TYPE_CHECKING:
    from glent import Node, Scene

CLAIMS = {"click", "scroll", "hold", "hold_progress", "repeat", "drag_start", "drag", "drag_end"}


def path(node: Node) -> list[Node]:
    return ([] if node.parent is None else path(node.parent)) + [node]


def listens(node: Node) -> bool:
    return any(node.listens(kind) for kind in CLAIMS)


class Expected(NamedTuple):
    """What a sample's verdict should say: the world, the owner, who is clicked, and which gesture has the pointer."""

    world: bool
    owner: Node | None
    clicks: list[Node]
    gesture: str | None


NOTHING = Expected(False, None, [], None)


@dataclass
class Model:
    kind: str
    hold: str = "free"
    buttons: set[int] = field(default_factory=set)
    pos: tuple[float, float] | None = None
    seen: tuple[float, float] | None = None
    jumped: bool = False
    begun: int = 0
    over: bool = False
    press_path: list[Node] = field(default_factory=list)
    owner: Node | None = None
    contest: Contest | None = None

    def free(self, hold: str = "free") -> None:
        self.hold = hold if self.buttons else "free"
        self.owner, self.press_path, self.contest = None, [], None

    def take_over(self) -> None:
        """The winner of the contest owns the pointer."""
        if self.contest is not None and self.contest.winner is not None:
            self.owner = self.contest.winner[1]
            self.press_path = path(self.owner)
            self.over = True


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
        return union & set(pointer.press_path) if pointer.hold == "ui" else union

    def inside(self, pointer: Model, node: Node) -> bool:
        return any(node in path(offer) for offer in self.offers(pointer))

    def all_inside(self, pointer: Model) -> dict[Node, bool]:
        under = {node for offer in self.offers(pointer) for node in path(offer)}
        return {node: node in under for node in pointer.press_path}

    def removed(self, gone: list[Node]) -> None:
        for pointer in self.pointers.values():
            contest = pointer.contest
            if contest is not None and contest.winner is None:
                contest.entries = [entry for entry in contest.entries if entry[1] not in gone]
            if pointer.hold == "ui" and pointer.press_path and pointer.press_path[-1] in gone:
                if pointer.owner in gone:
                    pointer.free("spent")
                else:
                    pointer.press_path = [node for node in pointer.press_path if node not in gone]

    def settle(self) -> None:
        for pointer in self.pointers.values():
            owner = pointer.owner
            if pointer.hold == "ui" and owner and not all(n.visible and n.enabled for n in path(owner)):
                pointer.free("spent")

    def pass_time(self, now: float) -> None:
        """Law G1: what rests long enough is a hold."""
        self.settle()
        for pointer in self.pointers.values():
            if pointer.contest is not None and pointer.contest.winner is None:
                pointer.contest.due(now, self.all_inside(pointer))
                pointer.take_over()

    def press_goes_to(self, pointer: Model) -> tuple[str, Node | None]:
        """Law P2, with no handler taking anything, and S5."""
        offers = self.offers(pointer)
        for index, offer in enumerate(offers):
            enabled = all(node.enabled for node in path(offer))
            if offer.effective_solidity == "solid":
                return ("ui" if enabled else "nobody"), offer
            shared = set(path(offers[index + 1])) if index + 1 < len(offers) else set()
            if enabled and any(listens(node) for node in path(offer) if node not in shared):
                return "ui", offer
        return "world", None

    def abandon(self, pointer: Model) -> bool:
        """A second button, or Escape, abandons a drag (law G3)."""
        contest = pointer.contest
        if contest is None or contest.winner is None or contest.winner[0] != "drag":
            return False
        pointer.free("spent")
        return True

    def feed(
        self,
        action: str,
        name: str,
        kind: str,
        at: tuple[float, float],
        button: int,
        now: float,
        by: tuple[float, float] | None = None,
    ) -> Expected:
        """What the laws say to a sample; ``by`` is the distance of a locked pointer."""
        self.pass_time(now)
        pointer = self.pointers.get(name)
        if action == "release" and (pointer is None or button not in pointer.buttons):
            return NOTHING
        if action == "cancel":
            if pointer is not None:
                pointer.buttons = set()
                pointer.free()
                if kind == "touch":
                    del self.pointers[name]
            return NOTHING
        if pointer is None:
            pointer = self.pointers[name] = Model(kind)
        if action == "press" and button in pointer.buttons:
            pointer.buttons = set()
            pointer.free()
        step = self.step(pointer, at, by)
        if by is not None and pointer.hold == "free":
            pointer.pos = None
            return Expected(True, None, [], None)
        if pointer.contest is not None and pointer.hold == "ui":
            contest = pointer.contest
            moves = action == "move" or (action == "release" and button == pointer.begun and step != (0.0, 0.0))
            if moves:
                contest.step(step, self.all_inside(pointer))
                pointer.take_over()
            else:
                contest.travel = contest.travel + step
        if action == "press" and not pointer.buttons:
            return self.press(pointer, button, now)
        if action == "move" and pointer.hold == "free":
            offers = self.offers(pointer)
            solid = offers[-1] if offers and offers[-1].effective_solidity == "solid" else None
            return Expected(solid is None, solid, [], None)
        winner = pointer.contest.winner if pointer.contest is not None and pointer.hold == "ui" else None
        if action == "press":
            pointer.buttons.add(button)
            if self.abandon(pointer):
                return NOTHING
        world, owner = pointer.hold == "world", pointer.owner if pointer.hold == "ui" else None
        clicks = self.release(pointer, name, kind, button) if action == "release" else []
        other = action == "release" and button != pointer.begun
        return Expected(world, owner, clicks, winner[0] if winner and not other else None)

    def step(self, pointer: Model, at: tuple[float, float], by: tuple[float, float] | None) -> tuple[float, float]:
        """How far it went, in logical pixels (law P12)."""
        scale = self.scene.scale
        if by is not None:
            pointer.jumped = True
            return by[0] / scale, by[1] / scale
        seen, pointer.seen = pointer.seen, at
        jumped = pointer.jumped or pointer.pos is None or seen is None
        pointer.pos, pointer.jumped = at, False
        return (0.0, 0.0) if jumped or seen is None else ((at[0] - seen[0]) / scale, (at[1] - seen[1]) / scale)

    def press(self, pointer: Model, button: int, now: float) -> Expected:
        pointer.buttons = {button}
        pointer.hold, target = self.press_goes_to(pointer)
        pointer.begun, pointer.over = button, False
        pointer.press_path = path(target) if target else []
        controls = [node for node in pointer.press_path if node.is_control]
        pointer.owner = controls[-1] if controls else target
        pointer.contest = Contest(pointer.press_path, pointer.kind, now) if pointer.hold == "ui" else None
        return Expected(pointer.hold == "world", pointer.owner if pointer.hold == "ui" else None, [], None)

    def release(self, pointer: Model, name: str, kind: str, button: int) -> list[Node]:
        """Law P3; the nodes that get a click."""
        clicks = []
        pointer.buttons.discard(button)
        if pointer.hold == "ui" and button == pointer.begun:
            if not pointer.over:
                pointer.over = True
                for node in reversed(pointer.press_path):
                    if node.is_control or node.listens("click"):
                        if self.inside(pointer, node) and all(n.visible and n.enabled for n in path(node)):
                            clicks.append(node)
                        break
            pointer.contest = None
        if not pointer.buttons:
            pointer.free()
            if kind == "touch":
                del self.pointers[name]
        return clicks

    def device_gone(self, name: str) -> None:
        self.pointers.pop(name, None)

    def sync(self, down: dict[str, set[int]]) -> None:
        """Law T4."""
        for name, pointer in list(self.pointers.items()):
            now = down.get(name, set())
            if pointer.buttons and not pointer.buttons & now:
                pointer.buttons = set()
                pointer.free()
                if pointer.kind == "touch":
                    del self.pointers[name]
                    continue
            unseen = now - pointer.buttons
            begun_is_up = pointer.begun in pointer.buttons and pointer.begun not in now
            pointer.buttons = set(now)
            if pointer.hold == "ui" and begun_is_up:
                pointer.free("spent")
            if unseen and pointer.hold == "free":
                pointer.free("spent")
