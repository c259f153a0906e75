"""A gesture of your own: two fingers pull the crane's bell rope. Each must pull down, and both far enough."""

from glent import Contact, Event, Place, Recogniser, Router, Scene
from glent.testing import Hand


class RopePull(Recogniser):
    """Sends ``crane:rope_pull`` while both fingers pull, and says at the end whether the bell rang."""

    name = "rope pull"
    pointers = 2

    def pulled(self) -> float:
        """How far the finger that is behind has pulled, in the rope's own space."""
        return min((contact.into(self.node, contact.travel)[1] for contact in self.contacts), default=0.0)

    def wants(self, contact: Contact) -> bool:
        """Asked beyond the threshold, once both fingers are down: is it a pull?"""
        x, y = contact.into(self.node, contact.travel)
        return y > abs(x)

    def moved(self, contact: Contact) -> None:
        if self.won:
            self.send("crane:rope_pull", contact, far=self.pulled(), rang=False)
        else:
            super().moved(contact)  # asks wants() in time

    def released(self, contact: Contact) -> None:
        far = self.pulled()
        self.send_last("crane:rope_pull", contact, far=far, rang=far >= 60)

    def lost(self, contact: Contact, why: str) -> None:
        if self.won:
            self.send_last("crane:rope_pull", contact, far=0.0, rang=False)


def main() -> None:
    scene = Scene(size=(400, 300))
    crane = scene.layer("quay").add("crane", place=Place(left=20, top=10, width=200, height=280), solidity="solid")
    rope = crane.add("rope", place=Place(left=80, top=20, width=40, height=240, turn=8))
    rope.recognise(RopePull)

    def ring(event: Event) -> None:
        print(f"{event.time:.2f} s: pulled {event.data['far']:.0f}{', the bell rings' if event.data['rang'] else ''}")

    rope.on("crane:rope_pull", ring)
    router = Router(scene)
    left, right = Hand(router, "left", "touch"), Hand(router, "right", "touch")
    left.pos, right.pos = (118.0, 90.0), (126.0, 90.0)
    left.press()
    right.press()
    for step in range(1, 6):
        left.move((118.0, 90.0 + step * 14))
        right.move((126.0, 90.0 + step * 15))
    verdict = right.release()
    print(verdict.why)
    left.release()


if __name__ == "__main__":
    main()
