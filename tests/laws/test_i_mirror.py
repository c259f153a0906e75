"""A tree that is not ours: nodes keep in step with widgets, whatever happens to these (laws I1–I3, I6)."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from glent import Place, PointerSample, Reason, Router, Scene
from glent.controls import Toggle
from glent.core.routing.hit.point import pick
from glent.mirror import Mirror, MirrorError
from glent.testing import Hand

pytestmark = pytest.mark.long

boxes = st.tuples(*[st.integers(0, 60).map(float)] * 2, *[st.integers(0, 80).map(float)] * 2)
names = st.integers(0, 7).map(lambda number: f"w{number}")
number = st.integers(0, 999)


class Widget:
    """What somebody's toolkit is made of."""

    def __init__(self, name: Any, box: Any = (0.0, 0.0, 50.0, 50.0), solidity: Any = "glass") -> None:
        self.name, self.box, self.solidity = name, box, solidity
        self.children: Any = []
        self.turned: Any = None
        self.above: Widget | None = None
        self.version = 0
        self.heard: list[str] = []

    def __repr__(self) -> str:
        return f"<Widget {self.name}>"

    def changed(self) -> None:
        one: Widget | None = self
        while one is not None:
            one.version += 1
            one = one.above

    def walk(self) -> list[Widget]:
        return [self, *(one for child in self.children for one in child.walk())]


def heard(widget: Widget, event: Any) -> None:
    widget.heard.append(event.kind)


class MirrorMachine(RuleBasedStateMachine):
    """A scene made anew of the widgets is the judge; nodes of keys that stay are the same."""

    @initialize(versions=st.booleans())
    def begin(self, versions: bool) -> None:
        self.root = Widget("root", (0.0, 0.0, 200.0, 200.0))
        self.scene = Scene((200, 200))
        self.version = "version" if versions else None
        self.errors: list = []
        self.router = Router(self.scene, on_error=lambda error, event: self.errors.append(error))
        self.mirror = self.make(self.scene)
        self.kept: dict[str, Any] = {}
        self.time = 0.0
        self.made = 0

    def make(self, scene: Scene) -> Mirror:
        return Mirror(
            scene.layer("w"),
            self.root,
            version=self.version,
            transform=lambda widget: widget.turned,
            solidity="solidity",
            handle=heard,
            hears=("enter", "leave", "press", "release", "cancel", "click"),
        )

    def one(self, at: int) -> Widget:
        found = self.root.walk()
        return found[at % len(found)]

    @rule(at=number, name=names, box=boxes, solidity=st.sampled_from(["solid", "glass", "hollow", None]))
    def add(self, at: int, name: str, box: Any, solidity: str | None) -> None:
        above = self.one(at)
        if len(self.root.walk()) < 40 and name not in [child.name for child in above.children]:
            self.made += 1
            new = Widget(name, box, solidity)
            new.above = above
            above.children.insert(at % (len(above.children) + 1), new)
            new.changed()

    @rule(at=number, box=boxes, turned=st.sampled_from([None, None, (90.0, 1.0), (0.0, (2.0, 0.5))]))
    def move(self, at: int, box: Any, turned: Any) -> None:
        one = self.one(at)
        one.box = Place(*box[:2], width=box[2], height=box[3]) if at % 5 == 0 else box
        one.turned = turned
        one.changed()

    @rule(at=number)
    def remove(self, at: int) -> None:
        one = self.one(at)
        if one.above is not None:
            one.above.children.remove(one)
            one.above.changed()

    @rule(at=number)
    def turn_children_round(self, at: int) -> None:
        self.one(at).children.reverse()
        self.one(at).changed()

    @rule(at=number)
    def replace_by_another_object(self, at: int) -> None:
        """A toolkit that makes its widgets anew: the same key is the same node."""
        one = self.one(at)
        if one.above is not None:
            new = Widget(one.name, one.box, one.solidity)
            new.children, new.turned, new.above, new.version = one.children, one.turned, one.above, one.version
            for child in new.children:
                child.above = new
            one.above.children[one.above.children.index(one)] = new
            new.changed()

    @rule(at=number)
    def a_node_is_removed_by_others(self, at: int) -> None:
        one = self.one(at)
        if one in [entry.widget for entry in self.mirror._by_node.values()]:
            self.mirror.node(one).remove()
            (one.above or one).changed()

    @rule(x=st.integers(0, 199), y=st.integers(0, 199), action=st.sampled_from(["move", "press", "release"]))
    def point(self, x: int, y: int, action: str) -> None:
        self.time += 0.01
        self.router.feed(PointerSample(self.time, action, x, y))

    @rule(at=number, wrong=st.sampled_from(["box", "name", "children", "solidity", "double"]))
    def what_is_wrong_changes_nothing(self, at: int, wrong: str) -> None:
        self.mirror.update()
        one, before = self.one(at), self.seen(self.scene)
        other = self.one(at + 1)
        other_box, other.box = other.box, (1.0, 2.0, 3.0, 4.0)
        other.changed()
        if wrong == "double" or (wrong == "name" and one.above is None):
            was, one.children = one.children, [*one.children, Widget("x"), Widget("x")]
            wrong = "children"
        else:
            was = getattr(one, wrong)
            new = {"box": (1, 2, 3), "name": Widget("a/b"), "children": 3, "solidity": "wood"}[wrong]
            if wrong == "name":
                assert one.above is not None
                one.above.children.append(new)
            else:
                setattr(one, wrong, new)
        one.changed()
        with pytest.raises(MirrorError, match="expected"):
            self.mirror.update()
        assert self.seen(self.scene) == before
        if wrong == "name":
            assert one.above is not None
            one.above.children.pop()
        else:
            setattr(one, wrong, was)
        other.box = other_box
        one.changed()
        other.changed()

    def seen(self, scene: Scene) -> list[Any]:
        return [(node.path, node.place, node.solidity, node.edges) for node in scene["w"].walk()][1:]

    @invariant()
    def the_nodes_are_the_widgets(self) -> None:
        if not hasattr(self, "mirror"):
            return
        self.mirror.update()
        assert self.mirror.update() == 0, "what has not changed is left alone"
        self.time += 0.01
        self.router.tick(self.time)
        fresh = Scene((200, 200))
        self.make(fresh)
        assert self.seen(self.scene) == self.seen(fresh)
        for x, y in ((5.0, 5.0), (60.0, 40.0), (120.0, 150.0)):
            assert [one.path for one in pick(self.scene, x, y)] == [one.path for one in pick(fresh, x, y)]
        assert len(self.mirror) == len(self.root.walk())
        for widget in self.root.walk():
            node = self.mirror.node(widget)
            assert self.mirror.widget(node) is widget
            if node.hovered:
                assert [kind for kind in widget.heard if kind in ("enter", "leave")][-1:] in ([], ["enter"])
        now = {node.path: node for node in self.scene["w"].walk()}
        for path, node in self.kept.items():
            if path in now and node.scene is not None:
                assert now[path] is node, "the same key is the same node"
        self.kept = now
        assert self.errors == []


TestMirrorMachine = MirrorMachine.TestCase
TestMirrorMachine.settings = settings(
    max_examples=40, stateful_step_count=30, deadline=None, suppress_health_check=list(HealthCheck)
)


def a_board(**given: Any) -> tuple[Widget, Router, Mirror, Hand]:
    root = Widget("board", (0.0, 0.0, 100.0, 100.0), "hollow")
    for name in ("moor", "cast-off"):
        root.children.append(Widget(name, (0.0, 50.0 * len(root.children), 100.0, 50.0), "solid"))
    scene = Scene((100, 100))
    router = Router(scene)
    mirror = Mirror(scene.layer("w"), root, solidity="solidity", handle=heard, **given)
    return root, router, mirror, Hand(router)


def test_i1_a_widget_made_anew_keeps_hover_press_and_focus_and_hears_the_rest() -> None:
    root, router, mirror, hand = a_board(hears=("press", "release", "click", "cancel"), focusable=lambda widget: True)
    hand.move("w/board/moor")
    hand.press()
    first, new = root.children[0], Widget("moor", root.children[0].box, "solid")
    root.children = [root.children[1], new]
    assert mirror.update() == 0, "nothing of its node has changed, but its place among its siblings"
    assert router.seat().focus is mirror.node(new)
    hand.release()
    assert (first.heard, new.heard) == (["press"], ["release", "click"])
    with pytest.raises(MirrorError, match="<Widget moor> has no node, expected a widget of the tree"):
        mirror.node(first)
    root.children.remove(new)
    mirror.update()
    assert router.hits(50.0, 25.0) == []


def test_i2_handlers_may_change_the_widgets_and_update_while_an_update_runs() -> None:
    root, router, mirror, hand = a_board(hears=lambda widget: ("leave",) if widget.name == "moor" else ())
    hand.move("w/board/moor")
    moor = root.children[0]

    def leave(widget: Widget, event: Any) -> None:
        root.children = []
        assert mirror.update() == 0

    mirror._handle = leave
    mirror.node(moor).on("leave", lambda event: leave(moor, event))
    root.children = [root.children[1]]
    mirror.update()
    mirror.update()
    assert len(mirror) == 1
    mirror.stop()
    mirror.stop()
    assert router.scene["w"].children == ()


def test_i6_mirrored_nodes_lie_under_modals_flow_and_controls_like_any_other() -> None:
    root, router, mirror, hand = a_board(hears=("click",), flow=lambda widget: None)
    toggle = Toggle(mirror.node(root.children[0]))
    hand.click("w/board/moor")
    assert toggle.value.current is True
    shade = router.scene.layer("shade", order=3, modal=True)
    assert hand.click("w/board/moor").reason is Reason.MODAL
    shade.remove()
    root.children[0].box = (0.0, 20.0, 100.0, 30.0)
    mirror.update()
    hand.click((50.0, 10.0))
    hand.click((50.0, 30.0))
    assert toggle.value.current is False, "its control has stayed with its node"


@pytest.mark.parametrize(
    ("given", "error", "why"),
    [
        ({"box": 3}, MirrorError, "box is 3, expected the name of an attribute, or something to call"),
        ({"handle": 3}, MirrorError, "handle is 3, expected None or something to call"),
        ({"hears": "press"}, MirrorError, "hears is 'press', expected kinds of event"),
        ({"hears": ("pres",)}, Exception, "pres"),
        ({"solidty": "solidity"}, TypeError, "no attribute 'solidty'.*; near is solidity"),
        ({"box": "bocks"}, MirrorError, "<Widget root>: cannot be read: AttributeError"),
        ({"key": lambda widget: 3.5}, MirrorError, "the key of <Widget root> is 3.5, expected printable text"),
        ({"transform": lambda widget: 3}, MirrorError, "its transform is 3, expected None, or degrees and a scale"),
        ({"children": lambda widget: [Widget("a"), Widget("a")][: 2 * (widget.name == "root")]}, MirrorError,
         "w/root: <Widget a> and <Widget a> have the key 'a', expected each its own"),
        ({"order": lambda widget: "front"}, MirrorError, "w/root: <Widget root>: order is 'front', expected"),
    ],
)  # fmt: skip
def test_i3_what_cannot_be_mirrored_is_refused_by_the_name_of_its_widget(given: Any, error: Any, why: str) -> None:
    layer = Scene((10, 10)).layer("w")
    with pytest.raises(error, match=why):
        Mirror(layer, Widget("root"), **given)
    assert layer.children == ()
