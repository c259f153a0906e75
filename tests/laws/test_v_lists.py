"""Lists that the game and its UI share: what shows them is the list, row by row, with hover and focus kept (law V7)."""

from __future__ import annotations

from itertools import pairwise
from types import SimpleNamespace
from typing import Any

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from glent import Feel, Flow, GlentError, ListValue, Node, Place, PointerSample, Router, Scene, ValueRefusedError
from glent.controls import Listbox, Rows, RowsInView, Slots
from glent.testing import Hand

pytestmark = pytest.mark.long

HEIGHT, SHOWS = 20, 100
crates = st.integers(0, 30).map(lambda number: f"crate{number}")
where = st.integers(0, 40)


class ListMachine(RuleBasedStateMachine):
    """A plain Python list is the judge of the list, of what its watchers are told, and of the rows that show it."""

    @initialize(items=st.lists(crates, max_size=20, unique=True))
    def begin(self, items: list[str]) -> None:
        self.plain = list(items)
        self.items = ListValue(items)
        self.game = SimpleNamespace(crates=[SimpleNamespace(name=name) for name in items])
        self.polled = ListValue.of(self.game, "crates", key=lambda crate: crate.name)
        self.copy: list[str] = []
        self.items.watch(self.hear)
        self.scene = Scene(size=(300, 200))
        layer = self.scene.layer("hold")
        self.errors: list = []
        self.router = Router(self.scene, Feel(), lambda error, event: self.errors.append((error, event)))
        flow = Flow("column")
        self.every = layer.add("all", place=Place(left=0, top=0, width=100, height=200), flow=flow)
        self.some = layer.add("some", place=Place(left=150, top=0, width=100, height=SHOWS))
        Rows(self.every, self.items, self.dress)
        self.rows = RowsInView(self.some, self.items, self.dress, HEIGHT)
        self.known: dict[str, Node] = {}
        self.focused: Node | None = None
        self.time = 0.0

    def hear(self, change: Any) -> None:
        assert self.copy[change.at : change.at + len(change.before)] == list(change.before)
        self.copy[change.at : change.at + len(change.before)] = change.after

    @staticmethod
    def dress(node: Node, item: str) -> None:
        assert node.name == item
        if node.parent is not None and node.parent.name == "all":
            node.place = Place(width=100, height=HEIGHT)
        node.focusable = True
        node.label = item

    @rule(item=crates, at=st.one_of(st.none(), where))
    def add(self, item: str, at: int | None) -> None:
        if item in self.plain or (at is not None and at > len(self.plain)):
            with pytest.raises(ValueRefusedError):
                self.items.add(item, at)
            return
        self.items.add(item, at)
        self.plain.insert(len(self.plain) if at is None else at, item)

    @rule(item=crates)
    def remove(self, item: str) -> None:
        if item not in self.plain:
            with pytest.raises(ValueRefusedError, match="has no item"):
                self.items.remove(item)
            return
        assert self.items.remove(item) == item
        self.plain.remove(item)

    @rule(item=crates, to=where)
    def move(self, item: str, to: int) -> None:
        if item not in self.plain or to >= len(self.plain):
            with pytest.raises(ValueRefusedError):
                self.items.move(item, to)
            return
        self.items.move(item, to)
        self.plain.remove(item)
        self.plain.insert(to, item)

    @rule(at=where, item=crates)
    def put(self, at: int, item: str) -> None:
        if at >= len(self.plain) or (item in self.plain and self.plain[at] != item):
            with pytest.raises(ValueRefusedError):
                self.items.put(at, item)
            return
        self.items.put(at, item)
        self.plain[at] = item

    @rule(items=st.lists(crates, max_size=30, unique=True))
    def set_all(self, items: list[str]) -> None:
        self.items.set_all(items)
        self.plain = list(items)

    @rule(item=crates)
    def touch(self, item: str) -> None:
        if item in self.plain:
            self.items.touch(item)

    @rule(to=st.integers(0, 400))
    def scroll(self, to: int) -> None:
        self.some.scroll = (0.0, min(float(to), self.some.scroll_range[1]))

    @rule(number=st.integers(0, 100))
    def focus(self, number: int) -> None:
        rows = [*self.some.children, *self.every.children]
        self.router.seat().focus = self.focused = rows[number % len(rows)] if rows else None

    @rule(x=st.sampled_from([50, 200]), y=st.integers(0, 99), action=st.sampled_from(["move", "press", "release"]))
    def point(self, x: int, y: int, action: str) -> None:
        self.time += 0.01
        self.router.feed(PointerSample(self.time, action, x, y))
        self.focused = self.router.seat().focus

    @rule(item=crates, at=where, by_game=st.booleans())
    def game_list(self, item: str, at: int, by_game: bool) -> None:
        """A list in an attribute: what either side does to it is done to both."""
        game, polled = self.game.crates, self.polled
        names = [crate.name for crate in game]
        new = SimpleNamespace(name=item)
        if by_game:
            game.insert(min(at, len(game)), new)
            if item in names:
                with pytest.raises(ValueRefusedError, match="two items have the key"):
                    polled.poll()
                game.remove(new)
                assert [one.name for one in polled] == names
            polled.poll()
        elif item in names:
            polled.move(item, at % len(names))
            if at % 3 == 0:
                polled.remove(item)
        else:
            polled.add(new, at % (len(names) + 1))
        assert self.game.crates is game
        assert list(polled) == game

    @invariant()
    def all_show_the_list(self) -> None:
        if not hasattr(self, "items"):
            return
        self.time += 0.01
        self.router.tick(self.time)
        assert not self.errors
        assert list(self.items) == self.copy == self.plain == [self.items[at] for at in range(len(self.items))]
        assert all(self.items.index(name) == at and name in self.items for at, name in enumerate(self.plain))
        assert [node.name for node in self.every.children] == self.plain
        assert [node.edges[1] for node in self.every.children] == [HEIGHT * at for at in range(len(self.plain))]
        self.check_those_in_view()
        for name, node in self.known.items():
            assert (node.scene is not None) == (name in self.plain)
            assert node.scene is None or self.every[name] is node, "a row that stays in the list is the same node"
        self.known = {node.name: node for node in self.every.children}
        focus = self.router.seat().focus
        if self.focused is not None and self.plain:
            assert focus is not None
            assert focus is self.focused or (
                self.focused.name not in self.plain and focus.parent is self.focused.parent
            )
        self.focused = focus

    def check_those_in_view(self) -> None:
        made = {node.name: node for node in self.some.children}
        at = {name: index for index, name in enumerate(self.plain)}
        assert self.some.scroll_range[1] == max(0, HEIGHT * len(self.plain) - SHOWS)
        top = self.some.scroll[1]
        in_view = {name for name, index in at.items() if -HEIGHT < HEIGHT * index - top < SHOWS}
        assert in_view <= made.keys() <= at.keys(), "what shows is there, and nothing that is not in the list"
        for name, node in made.items():
            assert node.edges == (0.0, HEIGHT * at[name], 100.0, HEIGHT * (at[name] + 1.0))
        assert all(at[one.name] < at[other.name] for one, other in pairwise(self.some.children))
        spare = [name for name in made if not -4 * HEIGHT < HEIGHT * at[name] - top < SHOWS + 3 * HEIGHT]
        assert len(spare) <= 2, "what does not show has no node, but for a row with the focus and one that is pressed"


TestListMachine = ListMachine.TestCase
TestListMachine.settings = settings(
    max_examples=60, stateful_step_count=30, deadline=None, suppress_health_check=list(HealthCheck)
)


def a_list(items: ListValue[Any], **options: Any) -> SimpleNamespace:
    scene = Scene(size=(300, 200))
    node = scene.layer("hold").add("list", place=Place(left=0, top=0, width=100, height=SHOWS))
    router = Router(scene)
    hand = Hand(router)
    listbox = Listbox(node, **options)
    listbox.follow_items(items, lambda row, item: setattr(row, "focusable", True), HEIGHT)
    return SimpleNamespace(node=node, router=router, hand=hand, listbox=listbox)


def test_v7_keys_go_through_a_list_of_100_000_of_which_only_what_shows_is_made() -> None:
    here = a_list(ListValue([f"crate {number:06}" for number in range(100_000)]))
    seat, node = here.router.seat(), here.node

    def press(key: str) -> str:
        here.hand.press_keys(key)
        here.hand.wait(1.0)
        assert len(node.children) <= 12
        focus = seat.focus
        assert focus is not None
        top = focus.edges[1] - node.scroll[1]
        assert 0 <= top <= SHOWS - HEIGHT, f"{focus.name} is scrolled into view"
        assert here.listbox.value.current == (focus.name,)
        return str(focus.name)

    here.hand.press_keys("Tab")
    assert press("Home") == "crate 000000"
    assert [press("ArrowDown") for _ in range(30)][-1] == "crate 000030"
    assert press("PageDown") == "crate 000034"
    assert press("PageUp") == "crate 000030"
    assert press("End") == "crate 099999"
    assert press("ArrowDown") == "crate 099999"
    assert press("ArrowUp") == "crate 099998"
    here.listbox.set(("crate 050000",))
    seat.focus = None
    here.hand.press_keys("Tab")
    assert seat.focus is not None
    assert seat.focus.name == "crate 050000", "Tab leads to the chosen one, wherever it lies"
    assert press("ArrowDown") == "crate 050001"
    with pytest.raises(GlentError, match="has no row 'crate 200000'"):
        here.listbox.check(("crate 200000",))


def test_v7_letters_and_shift_reach_rows_that_do_not_show() -> None:
    names = [f"{word} {number}" for word in ("amber", "brine", "cedar") for number in range(40)]
    here = a_list(ListValue(names), several=True)
    here.hand.press_keys("Tab")
    for letter in "ce":
        here.hand.key(f"Key{letter.upper()}", key=letter)
        here.hand.key(f"Key{letter.upper()}", "up", key=letter)
    assert here.router.seat().focus.name == "cedar 0"
    here.hand.press_keys("Space")
    here.hand.press_keys("ShiftLeft", "ArrowUp")
    here.hand.press_keys("ShiftLeft", "Home")
    assert here.listbox.value.current == tuple(names[:81])
    here.hand.press_keys("ControlLeft", "KeyA")
    assert here.listbox.value.current == tuple(names)


def test_v7_what_comes_above_leaves_what_shows_and_the_hover_where_they_are() -> None:
    items = ListValue([f"crate{number}" for number in range(200)])
    here = a_list(items)
    here.node.scroll = (0.0, 1010.0)
    here.hand.move((50.0, 50.0))
    under = here.router.hits(50.0, 50.0)[0].node
    assert under.hovered
    for change in (lambda: items.add("new", 0), lambda: items.remove("crate3"), lambda: items.move("crate190", 4)):
        change()
        here.router.tick(here.router.now)
        assert here.router.hits(50.0, 50.0)[0].node is under
        assert under.hovered
    items.set_all(["first", "second", *items])
    assert here.router.hits(50.0, 50.0)[0].node is under


def a_hold(accepts: Any = lambda slot, item: None) -> SimpleNamespace:
    scene = Scene(size=(200, 100))
    layer = scene.layer("hold")
    router = Router(scene)
    parts = {}
    for name, left in (("ship", 0), ("quay", 100)):
        grid = layer.add(name, place=Place(left=left, top=0, width=60, height=100))
        for number in range(6):
            x, y = number % 3 * 20, number // 3 * 20
            grid.add(f"s{number}", place=Place(left=x, top=y, width=20, height=20), role="gridcell", focusable=True)
        game = SimpleNamespace(crates=["salt", "tar", None, "rope"] if name == "ship" else [])
        slots = Slots(grid, 3, accepts)
        items = ListValue.of(game, "crates", gaps=True)
        slots.follow_items(items)
        parts[name] = SimpleNamespace(slots=slots, items=items, game=game)
    return SimpleNamespace(router=router, hand=Hand(router), scene=scene, **parts)


def lies(slots: Slots) -> list[Any]:
    return [slots.items.get(f"s{number}") for number in range(6)]


@pytest.mark.parametrize(
    ("start", "to", "ship", "quay"),
    [
        ("ship/s0", "ship/s1", ["tar", "salt", None, "rope"], []),
        ("ship/s0", "ship/s5", [None, "tar", None, "rope", None, "salt"], []),
        ("ship/s3", "quay/s2", ["salt", "tar", None, None], [None, None, "rope"]),
    ],
)
def test_v7_slots_that_follow_a_list_move_what_lies_in_it(start: str, to: str, ship: list, quay: list) -> None:
    here = a_hold()
    here.hand.drag(f"hold/{start}", f"hold/{to}")
    for part, expected in ((here.ship, ship), (here.quay, quay)):
        assert part.game.crates == expected
        assert lies(part.slots) == [*expected, *[None] * 6][:6]


def test_v7_slots_and_their_list_refuse_what_would_lose_an_item() -> None:
    here = a_hold()
    here.quay.game.crates.append("salt")
    here.quay.items.poll()
    reasons: list[Any] = []
    here.ship.slots.on("refused", lambda carried, why: reasons.append(why))
    here.hand.drag("hold/ship/s0", "hold/quay/s4")
    assert reasons == ["another of its key is there"]
    assert (here.ship.game.crates, here.quay.game.crates) == (["salt", "tar", None, "rope"], ["salt"])
    here.hand.drag("hold/ship/s0", "hold/quay/s0")
    assert here.ship.game.crates[0] == here.quay.game.crates[0] == "salt", "the two change places"
    here.ship.slots.put("s2", "oil")
    assert here.ship.game.crates == ["salt", "tar", "oil", "rope"]
    assert here.ship.slots.remove("s1") == "tar"
    assert here.ship.game.crates == ["salt", None, "oil", "rope"]
    with pytest.raises(GlentError, match="has 6 slots, and the list 7 items"):
        here.ship.items.set_all([f"crate{number}" for number in range(7)])


@pytest.mark.parametrize(
    ("make", "message"),
    [
        (lambda: ListValue([1, 2]), r"the key of 1 is 1, expected a text; key= makes one"),
        (lambda: ListValue(["a", None]), r"an item is None, expected items, or gaps=True"),
        (lambda: ListValue(["a", "b", "a"]), r"two items have the key 'a'"),
        (lambda: ListValue("abc"), r"is set to 'abc', expected items"),
        (lambda: ListValue(["a"], key="name"), r"key is 'name', expected None or something to call"),
        (lambda: ListValue(["crate"]).get("crat"), r"has no item 'crat'; near is crate"),
        (lambda: ListValue(["crate"]).add("tar", 3), r"the place is 3, expected a whole number from 0 to 1"),
        (lambda: ListValue(["crate"]).watch(3), r"is to be watched by 3, expected something to call"),
        (lambda: ListValue.of(SimpleNamespace(crates=3), "crates"), r"SimpleNamespace.crates: is 3, expected a list"),
        (lambda: ListValue.of(SimpleNamespace(crates=[]), "crate"), r"has no attribute 'crate', .*near is crates"),
        (lambda: a_list(ListValue(gaps=True)), r"expected a ListValue without gaps"),
        (lambda: a_list(["salt"]), r"the rows are \['salt'\], expected a ListValue"),
        (lambda: a_list(ListValue(["a/b"])), r"the name is 'a/b', expected printable text without a slash"),
        (lambda: a_hold().ship.slots.follow_items(ListValue()), r"expected a ListValue with gaps=True"),
    ],
)
def test_v7_what_is_no_list_is_refused_with_what_was_expected(make: Any, message: str) -> None:
    with pytest.raises(GlentError, match=message):
        make()


def test_v7_watchers_that_change_the_list_are_all_told_of_every_change_in_order() -> None:
    items, heard = ListValue(["salt"]), []

    def one(change: Any) -> None:
        if "tar" in items and "oil" not in items:
            items.add("oil")

    items.watch(one)
    items.watch(lambda change: heard.append(change.after))
    items.add("tar")
    assert heard == [("salt",), ("tar",), ("oil",)]
    copy: list[str] = []
    items.watch(lambda change: copy.__setitem__(slice(change.at, change.at + len(change.before)), change.after))
    with pytest.raises(ValueRefusedError, match="change it again and again"):
        items.watch(lambda change: items.move("salt", len(items) - 1 - items.index("salt")))
    assert copy == list(items)
    items.add("rope")
    assert copy == [*list(items)[:-1], "rope"]


def test_v7_rows_whose_calls_fail_or_change_the_list_leave_the_others_whole() -> None:
    items: ListValue[str] = ListValue(["salt", "tar", "oil"])
    node = Scene(size=(100, 100)).layer("l").add("list", place=Place(left=0, top=0, width=90, height=90))

    def row(node: Node, item: str) -> None:
        if item == "bad":
            raise RuntimeError("no picture of it")
        if item == "tar" and "rope" not in items:
            items.add("rope")

    rows = RowsInView(node, items, row, HEIGHT)
    assert [child.name for child in node.children] == ["salt", "tar", "oil", "rope"]
    with pytest.raises(RuntimeError, match="no picture"):
        items.add("bad", 1)
    assert [child.name for child in node.children] == ["salt", "bad", "tar", "oil", "rope"]
    rows.stop()
    assert node.children == ()
    items.add("wax")
    assert node.children == ()
