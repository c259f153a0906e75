"""Keys: who has each one that is down, from its press to its release (laws W3, G3). The UI asks for none yet."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.input.samples import KeySample
    from glent.core.routing.pointing import Pointing

__all__ = ["Keys"]


class Keys:
    """The keys that are down. A key belongs to whoever got its press, until it is up (law W3)."""

    __slots__ = ("_down", "_pointing")

    def __init__(self, pointing: Pointing) -> None:
        self._pointing = pointing
        self._down: dict[str, bool] = {}
        """By code: whether the world has it; else nobody."""

    def route(self, sample: KeySample) -> Verdict:
        """Route a key's sample."""
        what = f"{sample.code} key"
        if sample.action == "up":
            holder = self._down.pop(sample.code, None)
            if holder is None:
                return Verdict(because.STRAY, what)
            return self._to(holder, what)
        if sample.repeat:
            holder = self._down.get(sample.code)
            return Verdict(because.STRAY, what) if holder is None else self._to(holder, what)
        if "Escape" in (sample.code, sample.key):
            verdict = self._pointing.abandon_drags(what)
            if verdict is not None:
                self._down[sample.code] = False
                return verdict
        self._down[sample.code] = True
        return self._to(True, what)

    @staticmethod
    def _to(world: bool, what: str) -> Verdict:
        if world:
            return Verdict(because.KEY, what, True)
        return Verdict(because.SPENT, what, about="its press was used up, or lifted")

    def lift(self, still_down: frozenset[str] = frozenset()) -> tuple[str, ...]:
        """Lift the keys that the world holds and that are not down any more; their release will be nobody's."""
        lifts = tuple(f"keys/{code}" for code, world in self._down.items() if world and code not in still_down)
        for code in self._down:
            if code not in still_down:
                self._down[code] = False
        return lifts

    def sync(self, held: tuple[str, ...]) -> tuple[str, ...]:
        """After a gap just these are down; those that went down unseen are nobody's (law T4)."""
        down = frozenset(one.rpartition("/")[2] for one in held if one.startswith("keys/"))
        lifts = self.lift(down)
        self._down = {code: self._down.get(code, False) for code in sorted(down)}
        return lifts

    def gone(self) -> tuple[str, ...]:
        """The keyboard was unplugged."""
        lifts = self.lift()
        self._down.clear()
        return lifts
