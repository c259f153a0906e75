"""The seat: one player's devices, viewport, focus, cursor and bindings (laws T1–T4, F1–F5, W5)."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING, Protocol

from glent.core.errors import BindingError, SceneError, SeatError
from glent.core.input.bindings import ACTIONS, OWN_ACTION, Bindings
from glent.core.input.pad import is_keyboard
from glent.core.routing.focus.focus import Focus
from glent.core.routing.focus.modal_stack import ModalStack
from glent.core.routing.focus.tab_order import can_focus, first_in
from glent.core.routing.seat_view import SeatView
from glent.core.scene.node import checked_node
from glent.core.scene.scene_world import checked_camera

if TYPE_CHECKING:
    from glent.core.geometry.world.camera import Camera
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.input.samples import PointerButton
    from glent.core.routing.aim import Mark
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.scene.fit import Viewport
    from glent.core.scene.layer import Layer
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Asked", "Seat", "checked_viewport"]

Past = tuple[float, tuple[float, float], "PointerButton", int, "Mark | None"]
"""When a press was, where, with which button, how many modals of its seat had opened before it, and where in the
world."""

Kept = tuple["Layer", str, str, tuple[float, float], "PointerButton"]
"""A press that waits for a layer in transition: that layer, the pointer's name and kind, where, and with which button.
"""


class SeatsAbove(Protocol):
    """All seats of a router, as one of them sees them."""

    def assign(self, seat: Seat, devices: Iterable[str]) -> None:
        """Give a seat other devices."""

    def set_viewport(self, seat: Seat, viewport: Viewport | None) -> None:
        """Give a seat another part of the window."""

    def used(self, seat: Seat) -> None:
        """Take note that a player has begun to use another kind of device."""

    def refresh(self) -> None:
        """Bring what each seat sees up to date."""

    def set_focus(self, seat: Seat, node: Node | None, ring: bool) -> None:
        """Move a seat's focus."""

    def show(self, node: Node) -> None:
        """Scroll a node into view."""

    def navigate_by_code(self, seat: Seat, direction: str) -> Node | None:
        """Move a seat's focus as a key does."""

    def back_by_code(self, seat: Seat) -> bool:
        """Close the topmost thing that can be closed."""

    def modifiers_of(self, seat: Seat) -> tuple[str, ...]:
        """The modifier keys that are down."""

    def held_by_world(self, seat: Seat) -> frozenset[str]:
        """What the world should believe to be down or deflected."""


class Asked:
    """The answer of a player who was asked for a new binding (law F5).

    :ivar action: what it is for. :ivar control: the key or button that was pressed.
    :ivar clash: what else has that control, or None: then it is bound already. :ivar error: why it could not be bound,
        if there is no clash: the host keeps it.
    """

    __slots__ = ("_seat", "action", "clash", "control", "error")

    def __init__(self, seat: Seat, action: str, control: str, clash: str | None, error: str | None) -> None:
        self._seat = seat
        self.action = action
        self.control = control
        self.clash = clash
        self.error = error

    def replace(self) -> None:
        """Take the control from the action that has it, and bind it.

        :raises BindingError: ``back`` would be left without any, or the host keeps it.
        """
        self._seat.bindings = self._seat.bindings.bound(self.action, self.control, take=True)
        self.clash = None

    def __repr__(self) -> str:
        state = f"has {self.clash}" if self.clash else self.error or "bound"
        return f"<Asked {self.control} for {self.action}: {state}>"


class Seat:
    """One player's devices, focus, cursor and claims. Made by :meth:`Router.add_seat`; ``main`` is always there.

    :ivar name: its name. :ivar last_kind: what the player used last on purpose: ``mouse``, ``touch``, ``pen``,
        ``ray``, ``keys`` or ``pad``; empty before anything was used. For prompts (law T4).
    """

    __slots__ = (
        "_asking",
        "_bindings",
        "_clicked",
        "_composed",
        "_composing",
        "_devices",
        "_dispatcher",
        "_focus",
        "_kept",
        "_modal_stack",
        "_opened",
        "_past",
        "_seats",
        "_viewport",
        "last_kind",
        "name",
        "view",
    )

    def __init__(
        self, seats: SeatsAbove, scene: Scene, dispatcher: Dispatcher, name: str, bindings: Bindings | None
    ) -> None:
        self._seats = seats
        self._dispatcher = dispatcher
        self.name = name
        self.view = SeatView(scene, name)
        self._focus = Focus(dispatcher, self.view, name)
        self._modal_stack = ModalStack(self._focus)
        self._bindings = bindings if bindings is not None else Bindings()
        self._devices: tuple[str, ...] = ()
        self._viewport: Viewport | None = None
        self._asking: tuple[str, Callable[[Asked], object]] | None = None
        self._composing: Node | None = None
        """The text field that text is being composed in."""
        self._composed = -1.0e300
        """When a composition last ended."""
        self._opened = 0
        """Counts the modals that have opened."""
        self.last_kind = ""
        self._past: dict[str, Past] = {}
        """By kind of pointer, the press before (law G1)."""
        self._clicked: tuple[Node, float] | None = None
        """What was clicked last, and when."""
        self._kept: Kept | None = None
        """The press that waits for a layer in transition (law W2)."""

    @property
    def _modals_seen(self) -> tuple[int, int, Node | None]:
        """How many modals have opened, how often any closed, and the topmost: equal while nothing has changed."""
        return self._opened, self._modal_stack.closings, self.view.top

    def _use(self, kind: str) -> None:
        """Note that the player has used this kind of device on purpose (law T4)."""
        if kind == self.last_kind:
            return
        self.last_kind = kind
        self._seats.used(self)

    def _note_click(self, node: Node, time: float) -> None:
        """Note what has been clicked."""
        self._clicked = (node, time)

    def _drop_kept(self, pointer: str | None = None) -> None:
        """Drop the press that is kept for a layer in transition: of this pointer, or of any."""
        if self._kept is not None and pointer in (None, self._kept[1]):
            self._kept = None

    def _leave_scene(self) -> None:
        """Forget the nodes of the scene that the router leaves."""
        self._focus.forget()
        self._modal_stack.forget()
        self._composing = self._kept = self._clicked = None
        self._past.clear()

    # -- devices and viewport ------------------------------------------------------------------------------------------

    @property
    def devices(self) -> tuple[str, ...]:
        """The names of the devices that are this player's: ``keys``, ``pad0``, or a pointer such as ``mouse``.

        A device of no seat is shared: its pointer takes the seat under it, its keys are the main seat's (law T2).
        Giving it others lifts what is held by those that come or go.
        """
        return self._devices

    @devices.setter
    def devices(self, value: Iterable[str]) -> None:
        self._seats.assign(self, value)

    @property
    def viewport(self) -> Viewport | None:
        """Its part of the window: left, top, width and height in fractions of it; None: all (law T2)."""
        return self._viewport

    @viewport.setter
    def viewport(self, value: Viewport | None) -> None:
        self._seats.set_viewport(self, value)

    @property
    def camera(self) -> Camera | None:
        """The camera that the player sees the world by, in this seat's viewport; None: the scene's camera (law X4)."""
        return self.view.camera

    @camera.setter
    def camera(self, value: Camera | None) -> None:
        self.view.camera = checked_camera(value, f"seat {self.name}")
        self.view.scene._version += 1

    def ray(self, x: float, y: float) -> Ray | None:
        """The ray of a point of the screen, window pixels, as this player sees the world; None: no camera (X4)."""
        self._seats.refresh()
        camera = self.view.camera or self.view.scene.camera
        return None if camera is None else camera.ray(x, y, self.view.window)

    def project(self, point: Vector3) -> tuple[float, float] | None:
        """The point of the screen where this player sees a point of the world, window pixels; None: behind the camera,
        or no camera."""
        self._seats.refresh()
        camera = self.view.camera or self.view.scene.camera
        return None if camera is None else camera.project(point, self.view.window)

    # -- focus ---------------------------------------------------------------------------------------------------------

    @property
    def focus(self) -> Node | None:
        """The node with the player's focus, or None (law F1). Set it to move it; who uses keys, or has used nothing
        yet, has it scrolled into view, and keys are the UI's from then on: see :meth:`keys_are_ui`.

        :raises SceneError: the node cannot have it: it is hidden, disabled, no stop, not this seat's, or not in the
            topmost modal.
        """
        return self._focus.node

    @focus.setter
    def focus(self, node: Node | None) -> None:
        self.set_focus(node, self._prefers_keys)

    def set_focus(self, node: Node | None, ring: bool) -> None:
        """Move the focus, and say whether its ring shows, as after a key (law F4): to put it back where it was, for
        example.

        :raises SceneError: as :attr:`focus`.
        """
        self._seats.refresh()
        if node is not None:
            checked_node(node, f"seat {self.name}")
        if not isinstance(ring, bool):
            raise SceneError(f"seat {self.name}: ring is {ring!r}, expected True or False")
        if node is not None and not can_focus(self.view, node):
            why = f", {self.view.top.path} is modal" if self.view.top is not None else ""
            raise SceneError(
                f"{node.path}: cannot have the focus of seat {self.name}: it has to be a stop of that seat, shown,"
                f" enabled, and within the topmost modal{why}"
            )
        self._seats.set_focus(self, node, ring)
        if node is not None and ring and self._focus.node is node:
            self._seats.show(node)

    @property
    def focus_ring(self) -> bool:
        """Whether a ring should be drawn around :attr:`focus`: it came by key or pad, or is a text field (law F4)."""
        return self._focus.node is not None and self._focus.shows_ring(self._focus.node)

    @property
    def _prefers_keys(self) -> bool:
        """Whether the focus that code moves shows its ring: the player used keys or a pad last, or nothing at all yet
        (law F4)."""
        return self.uses_keys or not self.last_kind

    @property
    def uses_keys(self) -> bool:
        """Whether the player used keys or a pad last."""
        return self.last_kind in ("keys", "pad")

    def enter(self, within: Node) -> Node | None:
        """Move the focus to where Tab would enter a node: its ``entry``, or its first stop. Return where it is then
        (F1)."""
        self._seats.refresh()
        target = first_in(self.view, checked_node(within, f"seat {self.name}"))
        if target is not None:
            self.focus = target
        return self.focus

    def navigate(self, direction: str) -> Node | None:
        """Move the focus ``left``, ``right``, ``up``, ``down``, or to the ``next`` or ``previous`` stop. Return where
        it is.

        :raises SceneError: there is no such direction.
        """
        return self._seats.navigate_by_code(self, direction)

    def back(self) -> bool:
        """Close the topmost thing that can be closed, as the key for it does. Return whether there was one (law M4)."""
        return self._seats.back_by_code(self)

    def keys_are_ui(self, device: str = "keys") -> bool:
        """Whether keys, or a pad, are for controls now: a modal is open, a shown layer claims them, focus came by key
        or pad, or it is in a text field. Focus that a pointer left somewhere does not take the game's keys (law F4).

        :param device: ``keys`` or ``pad0``, …, as ``event.data["device"]`` has it.
        """
        self._seats.refresh()
        return self._focus.has_keys("keys" if is_keyboard(device) else "pad")

    @property
    def modifiers(self) -> tuple[str, ...]:
        """The modifier keys that are down: of ``Control``, ``Alt``, ``Shift``, ``Meta``, in this order."""
        return self._seats.modifiers_of(self)

    # -- what the scene comes to for it --------------------------------------------------------------------------------

    @property
    def modal(self) -> Node | None:
        """The topmost modal, which has the input; None if there is none (law M1)."""
        self._seats.refresh()
        return self.view.top

    @property
    def claims(self) -> frozenset[str]:
        """The channels that are kept from the world now (law W2)."""
        self._seats.refresh()
        return frozenset(self.view.claimed)

    @property
    def cursor(self) -> str:
        """``shown``, ``hidden`` or ``locked``: what the topmost layer with an opinion says (law W5)."""
        self._seats.refresh()
        return self.view.cursor

    @property
    def held(self) -> frozenset[str]:
        """What the game world should believe to be down or deflected of this seat's keys, buttons and axes (W3)."""
        return self._seats.held_by_world(self)

    # -- bindings ------------------------------------------------------------------------------------------------------

    @property
    def bindings(self) -> Bindings:
        """The bindings: which control does what (law F5)."""
        return self._bindings

    @bindings.setter
    def bindings(self, value: Bindings) -> None:
        if not isinstance(value, Bindings):
            raise BindingError(f"seat {self.name}: bindings is {value!r}, expected Bindings")
        self._bindings = value

    @property
    def asking(self) -> str | None:
        """The action that the player is being asked a binding for, or None."""
        return self._asking[0] if self._asking is not None else None

    def ask(self, action: str, then: Callable[[Asked], object]) -> None:
        """Ask the player for a new binding: the next key or button that goes down is used up and bound (law F5).

        :param then: called with the answer (:class:`Asked`); where another action has that control, nothing is bound
            until ``answer.replace()``.
        :raises BindingError: there is no such action.
        """
        if not isinstance(action, str) or (action not in ACTIONS and not OWN_ACTION.fullmatch(action)):
            raise BindingError(f"bindings: there is no action {action!r}, expected one of {', '.join(ACTIONS)}")
        self._asking = (action, then)

    def stop_asking(self) -> None:
        """Stop asking for a binding."""
        self._asking = None

    def _answer(self, control: str) -> None:
        assert self._asking is not None
        (action, then), self._asking = self._asking, None
        clash = self._bindings.action(control)
        error: str | None = None
        if clash == action:
            clash = None
        if clash is None:
            try:
                self._bindings = self._bindings.bound(action, control)
            except BindingError as problem:
                error = str(problem)
        try:
            then(Asked(self, action, control, clash, error))
        except Exception as problem:
            self._dispatcher.report(problem, None)

    def __repr__(self) -> str:
        return f"<Seat {self.name}, devices {', '.join(self._devices) or 'shared'}>"


LEAST_SHARE = 1e-6
"""No viewport has less of the window."""


def checked_viewport(name: str, value: object) -> Viewport | None:
    """Check a part of the window.

    :raises SeatError: it has no size, or reaches beyond the window.
    """
    if value is None:
        return None
    expected = "None, or left, top, width and height in fractions of the window, such as (0.5, 0, 0.5, 1)"
    if not isinstance(value, tuple | list) or len(value) != 4:
        raise SeatError(f"seat {name}: viewport is {value!r}, expected {expected}")
    for number in value:
        if isinstance(number, bool) or not isinstance(number, int | float) or not 0.0 <= number <= 1.0:
            raise SeatError(f"seat {name}: viewport is {value!r}, expected {expected}")
    left, top, width, height = map(float, value)
    if width < LEAST_SHARE or height < LEAST_SHARE:
        raise SeatError(f"seat {name}: viewport is {value!r}, which has no size; expected {expected}")
    if left + width > 1.0 + 1e-9 or top + height > 1.0 + 1e-9:
        raise SeatError(f"seat {name}: viewport is {value!r}, which reaches beyond the window; expected {expected}")
    return left, top, width, height
