"""A scene as a game would run it, with stand-ins in place of the game: what every tool looks at (law D1)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.controls.control import NOTHING
from glent.controls.factory import controls_of
from glent.wiring.wiring import Wiring, wiring_of

if TYPE_CHECKING:
    from glent.controls.factory import Controls
    from glent.core.input.samples import Sample
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict

__all__ = ["Rehearsal"]


class Rehearsal:
    """The controls and wires that a scene declares, made as a game makes them, and a stand-in for each name that
    nothing binds.

    What a program has made already stays as it is. A stand-in for a value begins with what the UI has.

    :param router: of the scene.
    :raises ControlError: a control that cannot be. :raises WiringError: wires that cannot be.

    :ivar router: that router. :ivar controls: the controls. :ivar wiring: the wires. :ivar orders: what the stand-ins
        were told, as sentences, in order.
    """

    def __init__(self, router: Router) -> None:
        self.router = router
        self.orders: list[str] = []
        self.controls: Controls = controls_of(router.scene)
        self.wiring: Wiring = wiring_of(router.scene)
        self.wiring.stand_in(self._note)
        router.settle()

    def wire(self) -> None:
        """Make controls and wires anew, after the scene file was read again."""
        self.wiring.detach()
        self.controls.refresh()
        self.wiring = Wiring(self.router.scene, self.controls)
        self.wiring.stand_in(self._note)

    def steer(self, sample: Sample, verdict: Verdict) -> None:
        """There is no world behind it, so what is the world's goes nowhere."""

    def _note(self, name: str, value: Any) -> None:
        self.orders.append(f"told {name}" if value is NOTHING else f"told {name}: {value!r}")
