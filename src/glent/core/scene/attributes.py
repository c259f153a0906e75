"""The attributes of a node: keywords of ``add``, which can be set at any time later."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import TYPE_CHECKING, Any, Unpack

from glent.core.errors import near
from glent.core.scene import checks
from glent.core.scene.fact_attributes import FACT_NAMES, FactAttributes
from glent.core.scene.facts import Facts
from glent.core.scene.gesture_attributes import GESTURE_NAMES
from glent.core.scene.input_attributes import INPUT_NAMES
from glent.core.scene.kinds import MAKES_SOLID
from glent.core.scene.place import Place
from glent.core.scene.roles import CONTROLS

if TYPE_CHECKING:
    from glent.core.geometry.shape import Shape
    from glent.core.scene.flow import Flow
    from glent.core.scene.keywords import InputKeywords, NodeKeywords
    from glent.core.scene.scene import Scene

__all__ = ["Attributes", "unknown_keyword"]

_FILL = Place()


class Attributes(FactAttributes):
    """The attributes of a node. Setting one is checked, costs little, and is noticed at the next question.

    :ivar place: where it sits in its parent (:class:`Place`); fills it by default.
    :ivar flow: how it lays out its children (:class:`Flow`); None: each by its own place (laws L1–L6).
    :ivar role: a WAI-ARIA role or None. Some make it a control: solid by default, and carrying less (laws S3, R2).
    :ivar solidity: ``solid``, ``glass``, ``hollow``, ``ghost``; None: by what it is (laws S1–S4, :attr:`effective`).
    :ivar shape: where it is hit, and what it clips to; None: its box (law H4).
    :ivar reach: screen pixels by which it is hit beyond its shape: a number, for touch, or a mapping from pointer
        kind to number (law H5).
    :ivar clips: whether its shape limits its descendants (law H3).
    :ivar order: among its siblings; higher is in front (law H1).
    :ivar visible: an invisible node and its subtree are not there at all (law S5).
    :ivar enabled: a disabled node is as solid as it was and gets nothing (law S5); holds for the subtree.
    :ivar carries: kinds of event that go on to its ancestors; None: all, or, for a control, those it does not use
        (law R2). On a control the kinds it does not use go on in any case.
    :ivar focusable: whether focus can stop here; None: by role: controls, without scrollbars (law F1).
    :ivar tags: any words, for tools and for :meth:`Scene.find`.
    :ivar scroll: how far its content is scrolled, ``(x, y)`` in node-local pixels: children are moved by the
        negative of it.

    Those that gestures go by are :class:`GestureAttributes`, those of modals, seats and focus :class:`InputAttributes`,
    and those that only the toolkit goes by :class:`FactAttributes`.
    """

    __slots__ = (
        "_carries",
        "_clips",
        "_effective",
        "_enabled",
        "_flow",
        "_focusable",
        "_for_now",
        "_order",
        "_ordered",
        "_place",
        "_reach",
        "_role",
        "_scene",
        "_scroll",
        "_shape",
        "_solidity",
        "_tags",
        "_used",
        "_visible",
    )

    def __init__(self, scene: Scene) -> None:
        super().__init__()
        self._scene: Scene | None = scene
        self._place = _FILL
        self._flow: Flow | None = None
        self._role: str | None = None
        self._solidity: str | None = None
        self._shape: Shape | None = None
        self._reach: float | Mapping[str, float] | None = None
        self._clips = False
        self._order: float = 0
        self._ordered = False  # whether a child ever had an order of its own
        self._visible = True
        self._enabled = True
        self._carries: frozenset[str] | None = None
        self._focusable: bool | None = None
        self._tags = checks.NO_TAGS
        self._for_now: dict[str, tuple[Any, Any]] | None = None
        self._scroll = checks.NO_SCROLL
        # Derived from role, solidity and handlers:
        self._used: frozenset[str] | None = None
        self._effective = "hollow"

    def _set_keywords(self, where: str, given: Mapping[str, Any]) -> None:
        """Check and set the keywords of a node that is not in the tree yet: a refused one leaves no trace.

        :raises TypeError: there is no such keyword, as Python has it; the message names the nearest right one.
        """
        gestures: dict[str, Any] = {}
        terms: dict[str, Any] = {}
        facts: dict[str, Any] = {}
        for name, value in given.items():
            check = _CHECKS.get(name)
            if check is not None:
                setattr(self, f"_{name}", check(value, where))
            elif name in GESTURE_NAMES:
                gestures[name] = value
            elif name in INPUT_NAMES:
                terms[name] = value
            elif name in FACT_NAMES:
                facts[name] = value
            else:
                raise unknown_keyword(name, (*_CHECKS, *GESTURE_NAMES, *INPUT_NAMES, *FACT_NAMES), where)
        if facts:
            self._set_fact_keywords(where, facts)
        if gestures:
            self._set_traits(where, gestures)
        if terms:
            self._set_input_traits(where, terms)

    def _set_terms(self, where: str, terms: InputKeywords) -> None:
        """Check and set the keywords of a root that is not in the scene yet.

        :raises TypeError: there is no such keyword.
        """
        for name in terms:
            if name not in INPUT_NAMES:
                raise unknown_keyword(name, INPUT_NAMES, where)
        self._set_input_traits(where, terms)

    @property
    def scene(self) -> Scene | None:
        """The scene it is in; None once it is removed."""
        return self._scene

    @property
    def path(self) -> str:
        """The name that errors call it by."""
        raise NotImplementedError

    def listens(self, kind: str) -> bool:
        """Whether a handler for this kind is on this very node, in either phase."""
        raise NotImplementedError

    def listens_any(self, kinds: frozenset[str]) -> bool:
        """Whether a handler for any of these kinds is on this very node."""
        raise NotImplementedError

    def _changed(self) -> None:
        """Note that something which decides where or whether it is hit has changed."""
        raise NotImplementedError

    def _reordered(self) -> None:
        """Note that its place among its siblings has changed."""
        raise NotImplementedError

    # -- what they come to -----------------------------------------------------------------------------------------

    def _derive(self) -> None:
        """Derive what role, solidity and handlers come to (laws S3, R2); it is kept, because every hit asks for it."""
        self._used = CONTROLS.get(self._role) if self._role is not None else None
        if self._solidity is not None:
            self._effective = self._solidity
        else:
            solid = self._used is not None or self.wants_input or self.listens_any(MAKES_SOLID)
            self._effective = "solid" if solid else "hollow"

    @property
    def is_control(self) -> bool:
        """Whether its role makes it a control."""
        return self._used is not None

    @property
    def effective_solidity(self) -> str:
        """Its solidity or, where that is unset, what role and handlers make it (law S3)."""
        return self._effective

    def carries_on(self, kind: str) -> bool:
        """Whether an event of this kind goes on from here to the ancestors (law R2)."""
        carried, used = self._carries, self._used
        if used is None:
            return carried is None or kind in carried
        if carried is not None and kind in carried:
            return True
        return kind not in used and not self.listens(kind)

    def carries_unheard(self, kind: str) -> bool:
        """Whether an event of this kind would go on from here if no handler of the node counted: it is disabled."""
        return self.carries_on(kind) or (self._used is not None and kind not in self._used)

    def reach_for(self, kind: str) -> float:
        """Screen pixels by which a pointer of this kind may miss its shape (law H5)."""
        reach = self._reach
        if reach is None:
            return 0.0
        if isinstance(reach, Mapping):
            return reach.get(kind, 0.0)
        return reach if kind == "touch" else 0.0

    def set_for_now(self, **given: Unpack[NodeKeywords]) -> None:
        """Set attributes as a part of how things run: files go on telling what was declared (law D3).

        So controls set what they compute, open and hide. What code sets afterwards in the plain way counts as declared.
        """
        known = self._for_now
        if known is None:
            known = self._for_now = {}
        for name, value in given.items():
            before, kept = self._at_present(name), known.get(name)
            setattr(self, name, value)
            still = kept is not None and (kept[1] is before or kept[1] == before)
            known[name] = (kept[0] if still and kept is not None else before, self._at_present(name))

    def _at_present(self, name: str) -> Any:
        """What an attribute is, as a value that stays: facts are a view."""
        value = getattr(self, name)
        return value.plain() if value.__class__ is Facts else value

    def declared(self, name: str) -> Any:
        """What an attribute is by file or code, whatever it was :meth:`set_for_now` to."""
        now = self._at_present(name)
        kept = self._for_now.get(name) if self._for_now is not None else None
        return kept[0] if kept is not None and kept[1] == now else now

    def declare(self, name: str) -> None:
        """Let what an attribute is now count as declared."""
        if self._for_now is not None:
            self._for_now.pop(name, None)

    # -- attributes that can be set ------------------------------------------------------------------------------

    @property
    def place(self) -> Place:
        return self._place

    @place.setter
    def place(self, value: Place) -> None:
        if value.__class__ is not Place:
            checks.place(value, self.path)
        self._place = value
        if self._scene is not None:
            if value.fits:
                self._scene._index.flows = True
            self._scene._index.placed(self)  # type: ignore[arg-type]

    @property
    def flow(self) -> Flow | None:
        return self._flow

    @flow.setter
    def flow(self, value: Flow | None) -> None:
        self._flow = checks.flow(value, self.path)
        if self._scene is not None:
            self._scene._index.flows = True
        self._refitted()

    @property
    def role(self) -> str | None:
        return self._role

    @role.setter
    def role(self, value: str | None) -> None:
        self._role = checks.role(value, self.path)
        self._derive()
        if self._scene is not None:
            self._scene._layout += 1
            self._scene.refresh_looks()
        self._changed()

    @property
    def solidity(self) -> str | None:
        return self._solidity

    @solidity.setter
    def solidity(self, value: str | None) -> None:
        self._solidity = checks.solidity(value, self.path)
        self._derive()
        self._changed()

    @property
    def shape(self) -> Shape | None:
        return self._shape

    @shape.setter
    def shape(self, value: Shape | None) -> None:
        self._shape = checks.shape(value, self.path)
        self._changed()

    @property
    def reach(self) -> float | Mapping[str, float] | None:
        return self._reach

    @reach.setter
    def reach(self, value: float | Mapping[str, float] | None) -> None:
        self._reach = checks.reach(value, self.path)
        self._changed()

    @property
    def clips(self) -> bool:
        return self._clips

    @clips.setter
    def clips(self, value: bool) -> None:
        self._clips = checks.flag(value, "clips", self.path)
        self._changed()

    @property
    def order(self) -> float:
        return self._order

    @order.setter
    def order(self, value: float) -> None:
        value = checks.number(value, "order", self.path)
        if value != self._order:
            self._order = value
            self._reordered()

    @property
    def visible(self) -> bool:
        return self._visible

    @visible.setter
    def visible(self, value: bool) -> None:
        self._visible = checks.flag(value, "visible", self.path)
        self._changed()

    @property
    def enabled(self) -> bool:
        return self._enabled

    @enabled.setter
    def enabled(self, value: bool) -> None:
        was, self._enabled = self._enabled, checks.flag(value, "enabled", self.path)
        if self._scene is not None:
            self._scene._index.disabled += was - self._enabled
            if was != self._enabled and self._scene._listeners.get("look"):
                self._scene._looked[self] = None  # type: ignore[index]
            self._scene._version += 1  # nothing in the index depends on it
            self._scene._layout += 1

    @property
    def carries(self) -> frozenset[str] | None:
        return self._carries

    @carries.setter
    def carries(self, value: Iterable[str] | None) -> None:
        self._carries = checks.carries(value)
        if self._scene is not None:
            self._scene._version += 1
            self._scene.refresh_looks()

    @property
    def focusable(self) -> bool | None:
        return self._focusable

    @focusable.setter
    def focusable(self, value: bool | None) -> None:
        self._focusable = value if value is None else checks.flag(value, "focusable", self.path)
        if self._scene is not None:
            self._scene._version += 1
            self._scene._layout += 1

    @property
    def tags(self) -> frozenset[str]:
        return self._tags

    @tags.setter
    def tags(self, value: Iterable[str]) -> None:
        self._tags = checks.tags(value, self.path)

    @property
    def scroll(self) -> tuple[float, float]:
        return self._scroll

    @scroll.setter
    def scroll(self, value: tuple[float, float]) -> None:
        self._scroll = checks.scroll(value, self.path)
        if not self._gesture_traits.scrolls:
            self._changed()
        elif self._scene is not None:
            self._scene._index.scrolled(self)  # type: ignore[arg-type]


def unknown_keyword(name: str, known: Iterable[str], where: str) -> TypeError:
    """The error for a keyword that is no attribute."""
    return TypeError(f"{where}: there is no attribute {name!r}, expected one of {', '.join(known)}{near(name, known)}")


_CHECKS: dict[str, Callable[[Any, str], Any]] = {
    "place": lambda value, where: _FILL if value is None else checks.place(value, where),
    "flow": checks.flow,
    "shape": checks.shape,
    "role": checks.role,
    "solidity": checks.solidity,
    "reach": checks.reach,
    "clips": lambda value, where: checks.flag(value, "clips", where),
    "order": lambda value, where: checks.number(value, "order", where),
    "visible": lambda value, where: checks.flag(value, "visible", where),
    "enabled": lambda value, where: checks.flag(value, "enabled", where),
    "carries": lambda value, where: checks.carries(value),
    "focusable": lambda value, where: None if value is None else checks.flag(value, "focusable", where),
    "tags": checks.tags,
    "scroll": checks.scroll,
}
"""What checks each, called with the value and what errors call the node."""
