"""Rays, a mouse through a camera, and a fingertip in any sequence, over panels and spots that move, hide and go."""

from __future__ import annotations

import math
from collections import Counter
from types import SimpleNamespace

from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

import plain_hits as plain
import plain_world
from glent import (
    Area,
    Camera,
    Cuboid,
    Event,
    Place,
    PointerSample,
    RaySample,
    Rectangle,
    Router,
    Scene,
    Sphere,
    Throw,
    TickSample,
    TipSample,
    WindowSample,
)
from glent.mirror import Mirror

EYE = (0.0, 1.5, 0.0)
HEARS = ("enter", "leave", "press", "release", "cancel", "click", "drag_start", "drag_end", "hold", "dwell")
near = st.integers(-30, 30).map(lambda n: n / 10 + 0.013)
places = st.tuples(near, st.integers(0, 30).map(lambda n: n / 10 + 0.007), st.integers(-60, -5).map(lambda n: n / 10))
ways = st.tuples(st.sampled_from([-1.0, -0.3, 0.0, 0.4]), st.sampled_from([-0.5, 0.0, 0.3, 0.8]), st.just(1.0))
forms = st.one_of(
    st.builds(Sphere, st.sampled_from([0.2, 0.9])),
    st.builds(Cuboid, st.sampled_from([(0.5, 0.7, 0.4), (2.0, 1.0, 0.3)])),
    st.builds(Rectangle, st.just(1.5), st.just(1.0)),
    st.just([(-1.5, -1.5), (1.5, -1.0), (0.2, 0.1), (1.5, 1.5), (-1.0, 1.5)]).map(Area),
)
curves = st.sampled_from([None, None, 0.8, -0.6, 3.0])
rays = st.sampled_from(["left-hand", "right-hand"])


class WorldMachine(RuleBasedStateMachine):
    @initialize(camera=st.booleans())
    def begin(self, camera: bool) -> None:
        self.scene = Scene((200, 100))
        hud = self.scene.layer("hud")
        hud.add("bar", place=Place(left=0, top=0, width=200, height=20), solidity="solid")
        hud.add("fog", place=Place(left=0, top=20, width=100, height=40), solidity="glass")
        self.menu = self.scene.layer("menu", order=5, visible=False, modal=True)
        self.errors: list = []
        self.router = Router(self.scene, on_error=lambda error, event: self.errors.append((error, event)))
        if camera:
            self.scene.camera = Camera(EYE, (0.0, 1.4, -3.0), fov=70)
        self.time = 0.0
        self.number = 0
        self.aims: dict[str, tuple] = {}
        self.inside: dict[tuple[str, object], int] = {}
        self.counts: Counter = Counter()
        for node in self.scene.walk():
            self.listen(node)

    def listen(self, node) -> None:
        for kind in ("enter", "leave", "press", "release", "cancel", "drag_end"):
            node.on(kind, self.hear)

    def hear(self, event: Event) -> None:
        key = (event.pointer, event.here)
        if event.kind == "enter":
            assert not self.inside.get(key), "entered twice"
            self.inside[key] = 1
        elif event.kind == "leave":
            assert self.inside.pop(key, 0), "left what was never entered"
        elif event.here is event.node or event.kind in ("press", "release", "cancel"):
            self.counts[event.kind, event.here] += 1
        assert all(map(math.isfinite, (*event.local, *event.pos)))

    def roots(self) -> list:
        return list(self.scene.in_world)

    def nodes(self) -> list:
        return [node for root in self.roots() for node in root.walk()]

    def feed(self, sample):
        self.time = sample.time
        return self.router.feed(sample)

    def later(self) -> float:
        return self.time + 0.016

    # -- what stands there ---------------------------------------------------------------------------------------------

    @rule(at=places, way=ways, curve=curves, two=st.booleans(), reverse=st.sampled_from(["through", "blocked"]))
    def put_up_a_panel(self, at, way, curve, two: bool, reverse: str) -> None:
        if len(self.roots()) > 7:
            return
        self.number += 1
        panel = self.scene.panel(
            f"p{self.number}", (1.1, 0.9), (110, 90), at, way, radius=curve, two_sided=two, reverse=reverse
        )
        self.listen(panel)

    @rule(
        number=st.integers(0, 50),
        box=st.tuples(*[st.integers(0, 60)] * 2, *[st.integers(5, 90)] * 2),
        turn=st.sampled_from([0, 0, 30]),
        solidity=st.sampled_from([None, "solid", "glass", "glass"]),
        clips=st.booleans(),
        kind=st.sampled_from(["", "click", "drag_start", "hold", "dwell"]),
    )
    def add_a_node(self, number: int, box, turn: int, solidity, clips: bool, kind: str) -> None:
        parents = [node for node in self.nodes() if node.root._own is not None]
        if not parents or len(parents) > 25:
            return
        self.number += 1
        x, y, width, height = box
        place = Place(left=x, top=y, width=width, height=height, turn=turn)
        node = parents[number % len(parents)].add(f"n{self.number}", place=place, solidity=solidity, clips=clips)
        self.listen(node)
        if kind:
            node.on(kind, lambda event: None)

    @rule(number=st.integers(0, 50), names=st.lists(st.sampled_from("abcde"), max_size=5), x=st.integers(0, 60))
    def mirror_widgets_on_a_panel(self, number: int, names: list[str], x: int) -> None:
        """What is mirrored lies among what stands in the world: every law holds (I6)."""
        if not hasattr(self, "mirror") or self.mirror_parent.scene is None:
            panels = [root for root in self.roots() if root._own is not None]
            if not panels:
                return
            self.number += 1
            self.mirror_parent = panels[number % len(panels)]
            self.widgets = SimpleNamespace(name=f"m{self.number}", box=(0, 0, 110, 90), children=[])
            kinds = ("enter", "leave", "press", "release", "cancel", "drag_end")
            self.mirror = Mirror(self.mirror_parent, self.widgets, handle=lambda w, e: self.hear(e), hears=kinds)
        self.widgets.children = [
            SimpleNamespace(name=name, box=(x + 9 * at, 9 * at, 30, 40), children=[])
            for at, name in enumerate(dict.fromkeys(names))
        ]
        self.mirror.update()

    @rule(
        at=places, way=ways, form=forms, solidity=st.sampled_from([None, None, "solid", "glass"]), click=st.booleans()
    )
    def mark_a_spot(self, at, way, form, solidity, click: bool) -> None:
        if len(self.roots()) > 7:
            return
        self.number += 1
        spot = self.scene.spot(f"s{self.number}", form, at, way, solidity=solidity)
        self.listen(spot)
        if click:
            spot.on("click", lambda event: None)

    @rule(number=st.integers(0, 50), at=places, way=st.none() | ways)
    def move_one(self, number: int, at, way) -> None:
        if self.roots():
            self.roots()[number % len(self.roots())].move(at, way)

    @rule(number=st.integers(0, 50), how=st.sampled_from(["visible", "enabled", "modal", "two_sided"]))
    def toggle(self, number: int, how: str) -> None:
        nodes = self.nodes()
        if nodes and hasattr(node := nodes[number % len(nodes)], how) and not (how == "modal" and node.parent is None):
            setattr(node, how, not getattr(node, how))

    @rule(number=st.integers(0, 50))
    def remove(self, number: int) -> None:
        nodes = self.nodes()
        if nodes:
            nodes[number % len(nodes)].remove()

    @rule(at=places)
    def look_elsewhere(self, at) -> None:
        if self.scene.camera is not None:
            self.scene.camera = Camera(EYE, at, fov=70)

    @rule()
    def open_or_close_the_menu(self) -> None:
        self.menu.visible = not self.menu.visible

    # -- what is done --------------------------------------------------------------------------------------------------

    @rule(
        name=rays,
        at=places,
        origin=st.sampled_from([EYE, (0.5, 1.0, 0.4), (0.0, 1.5, -8.0)]),
        length=st.sampled_from([None, 2.0]),
    )
    def point(self, name: str, at, origin, length) -> None:
        way = tuple(at[n] - origin[n] for n in range(3))
        self.aims[name] = (origin, way, length, None)
        self.act(name, "move")

    @rule(
        name=rays,
        velocity=st.tuples(*[st.integers(-6, 6)] * 2, st.integers(-9, -2)),
        length=st.sampled_from([None, 3.0]),
    )
    def throw(self, name: str, velocity, length) -> None:
        """Point along an arc, as a hand that throws does."""
        arc = Throw.from_velocity(EYE, velocity, length=8.0, off=0.1)
        self.aims[name] = (EYE, velocity, length, arc.points[1:])
        self.act(name, "move")

    @rule(
        name=rays,
        action=st.sampled_from(["press", "release", "press", "release", "cancel"]),
        button=st.sampled_from([0, 0, 2]),
    )
    def press_or_release(self, name: str, action: str, button: int) -> None:
        if name in self.aims:
            self.act(name, action, button)

    def act(self, name: str, action: str, button: int = 0) -> None:
        origin, way, length, path = self.aims[name]
        pointer = self.router._state.pointers.get(name)
        free = pointer is None or pointer.hold == "free"
        verdict = self.feed(RaySample(self.later(), action, origin, way, name, button, 0, length, path))
        if verdict.spot is not None:
            assert verdict.spot.node.root in self.roots()
            assert verdict.spot.distance <= (length or 1e9) * (1 + 1e-9)
            assert math.dist(verdict.spot.point, origin) <= verdict.spot.distance * (1 + 1e-9)
        if action == "move" and free and not self.errors:
            self.agree_with_the_plain_model(verdict, origin, way, length, path)

    def agree_with_the_plain_model(self, verdict, origin, way, length, path) -> None:
        offers, bars, close = plain_world.offered(self.scene, origin, way, length or math.inf, path)
        if close or self.menu.visible or self.router.seat().view.held_panels:
            return
        solid = bool(offers) and offers[-1].effective_solidity == "solid"
        assert verdict.world == (not solid and not bars)
        assert verdict.owner is (offers[-1] if solid else None)
        if path is not None:
            return
        hits = [hit for hit in self.router.hits_ray(origin, way, length) if hit.offered]
        assert [hit.node for hit in hits] == offers
        first = self.router.hits_rays([origin], [way], length)
        assert first.nodes == [offers[0] if offers else None]

    @rule(x=st.integers(0, 199), y=st.integers(0, 99), action=st.sampled_from(["move", "move", "press", "release"]))
    def use_the_mouse(self, x: int, y: int, action: str) -> None:
        self.feed(PointerSample(self.later(), action, x + 0.5, y + 0.5))
        camera = self.scene.camera
        if self.menu.visible or self.router.seat().view.held_panels:
            return
        expected = plain.offers(self.scene, x + 0.5, y + 0.5)
        if camera is not None and self.roots() and not (expected and expected[-1].effective_solidity == "solid"):
            ray = camera.ray(x + 0.5, y + 0.5, (0.0, 0.0, 200.0, 100.0))
            more, _, close = plain_world.offers(self.scene, ray.origin, ray.direction)
            if close:
                return
            expected = [*expected, *more]
        assert [hit.node for hit in self.router.hits(x + 0.5, y + 0.5) if hit.offered] == expected

    @rule(
        number=st.integers(0, 50),
        part=st.tuples(*[st.sampled_from([0.1, 0.5, 0.8])] * 2),
        depth=st.sampled_from([0.2, 0.03, -0.01, -0.03, -0.2]),
    )
    def poke(self, number: int, part, depth: float) -> None:
        panels = [root for root in self.roots() if root._own is not None]
        if not panels:
            return
        panel = panels[number % len(panels)]
        x, y = panel.pixels[0] * part[0], panel.pixels[1] * part[1]
        at, out = panel.to_world(x, y), panel.normal(x, y)
        self.feed(TipSample(self.later(), tuple(at[n] + out[n] * depth for n in range(3))))

    @rule()
    def lose_the_hand(self) -> None:
        self.feed(TipSample(self.later(), None))

    @rule(seconds=st.sampled_from([0.01, 0.3, 1.2]))
    def tick(self, seconds: float) -> None:
        self.feed(TickSample(self.time + seconds))

    @rule(what=st.sampled_from(["focus_lost", "device_gone"]), name=rays)
    def trouble(self, what: str, name: str) -> None:
        self.feed(WindowSample(self.later(), what, pointer=name))
        if what == "device_gone":
            self.aims.pop(name, None)

    # -- what holds always ---------------------------------------------------------------------------------------------

    @invariant()
    def hover_is_true_once_settled(self) -> None:
        if not hasattr(self, "router"):
            return
        self.router.settle()
        assert self.errors == []
        for pointer in self.router._state.pointers.values():
            inside = {node for (name, node), _ in self.inside.items() if name == pointer.name}
            assert inside == set(pointer.hovered)
            if pointer.hold in ("world", "spent") or pointer.away:
                assert not inside
            elif pointer.hold == "free" and pointer.kind == "ray" and not self.menu.visible:
                if self.router.seat().view.held_panels:
                    continue
                origin, way, length, path = self.aims[pointer.name]
                offers, _, close = plain_world.offered(self.scene, origin, way, length or math.inf, path)
                if not close:
                    assert inside == {node for offer in offers for node in offer.lineage()}

    def teardown(self) -> None:
        if not hasattr(self, "router"):
            return
        self.router.close()
        assert self.inside == {}
        for (kind, node), count in self.counts.items():
            if kind == "press":
                assert self.counts["release", node] + self.counts["cancel", node] >= count, node
