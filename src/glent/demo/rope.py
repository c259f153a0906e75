"""A gesture of the demo's own: two fingers that pull the crane's bell rope down together."""

from __future__ import annotations

from glent.core.routing.gestures.contact import Contact
from glent.core.routing.gestures.recogniser import Recogniser

__all__ = ["PULLED", "RopePull"]

PULLED = "crane:rope_pull"
MINIMUM = 60.0
"""Pixels of the screen that both fingers must pull for the bell to ring."""


class RopePull(Recogniser):
    """Both fingers go down, along the node's own y axis. Sends ``crane:rope_pull``: how far, and whether it rang."""

    name = "rope pull"
    pointers = 2

    def _pulled(self) -> float:
        """How far the finger that is behind has pulled, in the node's space."""
        return min((contact.into(self.node, contact.travel)[1] for contact in self.contacts), default=0.0)

    def wants(self, contact: Contact) -> bool:
        x, y = contact.into(self.node, contact.travel)
        return y > abs(x)

    def moved(self, contact: Contact) -> None:
        if self.won:
            self.send(PULLED, contact, far=self._pulled(), rang=False)
        else:
            super().moved(contact)

    def released(self, contact: Contact) -> None:
        far = self._pulled()
        self.send_last(PULLED, contact, far=far, rang=far >= MINIMUM)

    def lost(self, contact: Contact, why: str) -> None:
        if self.won:
            self.send_last(PULLED, contact, far=0.0, rang=False)
