"""Why a key went where it went: who is asked, in the order of law W4, and what became of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from glent.core.errors import SampleError
from glent.core.input.pad import BUTTONS
from glent.core.input.samples import KeySample, PadSample
from glent.core.routing.focus.tab_order import is_text
from glent.core.routing.keys.routing import makes_text, shortcut_listener
from glent.diagnose.story import SampleStory, why_sample

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.routing.router import Router
    from glent.core.routing.seats.seat import Seat

__all__ = ["KeyStory", "why_key"]


@dataclass(frozen=True, slots=True)
class KeyStory:
    """What a key meets.

    :ivar code: the key, or the button of a pad. :ivar asked: who is asked, in order, and what each says, as sentences.
        :ivar story: what became of its press.
    """

    code: str
    asked: tuple[str, ...]
    story: SampleStory


def why_key(router: Router, code: str, device: str | None = None) -> KeyStory:
    """Press a key, or a button of a pad, and let it go; tell who was asked, and what became of it.

    :param code: a W3C key code such as ``KeyW``, or a button of a pad. :param device: on which keyboard or pad, such as
        ``keys2`` or ``pad1``; None: the first.
    :raises SampleError: there is no such key or device.
    """
    is_pad = code in BUTTONS
    device = device if device is not None else "pad0" if is_pad else "keys"
    router.settle()
    owner = router._state.owners.get(device)
    asked = tuple(_asked(owner if owner is not None else router.seat(), code, "pad" if is_pad else "keys"))
    time = max(0.0, router.now)
    if is_pad:
        number = device.removeprefix("pad")
        if not number.isdigit():
            raise SampleError(f"why_key: {code} is a pad's, and the device is {device!r}; expected such as pad0")
        down, up = (PadSample(time, code, value, int(number)) for value in (1.0, 0.0))
        story = why_sample(router, down)
        router.feed(up)
    else:
        story = why_sample(router, KeySample(time, "down", code, device=device))
        router.feed(KeySample(time, "up", code, device=device))
    return KeyStory(code, asked, story)


def _asked(seat: Seat, code: str, channel: str) -> Iterator[str]:
    """Who is asked, as things stand."""
    view = seat.view
    if view.top is not None:
        whose = "another seat's, and blocks this one" if view.top_is_foreign else "nothing outside of it hears keys"
        yield f"{view.top.path} is modal: {whose}"
    yield from _focused(seat, code, channel)
    yield from _bound(seat, code, channel)
    claimer = view.claimed.get(channel)
    if claimer is not None and claimer is not view.top:
        yield f"{claimer.path} claims the {channel}: what nobody wants does not come to the world"


def _focused(seat: Seat, code: str, channel: str) -> Iterator[str]:
    """The focus, and who hears keys on its path."""
    node = seat.focus
    ear = node if node is not None else seat.view.ear(channel)
    if node is None:
        yield "nothing has the focus" + (f", so {ear.path} hears keys first" if ear is not None else "")
    elif is_text(node) and channel == "keys" and makes_text(code, None, ()):
        yield f"{node.path} has the focus and takes text: {code} makes text, or edits it, and is its own"
    elif seat._focus.has_keys(channel):
        yield f"the focus is on {node.path}, and the {channel} are the UI's"
    else:
        yield f"the focus is on {node.path}, where a pointer has put it: the {channel} stay the world's"
    heard = [one.path for one in ear.lineage() if one.listens("key_down")] if ear is not None else []
    if ear is not None:
        yield (
            f"key_down is heard by {', '.join(heard)}"
            if heard
            else f"no handler for key_down is on {ear.path}, or above"
        )


def _bound(seat: Seat, code: str, channel: str) -> Iterator[str]:
    """What the key is bound to, and who would do it."""
    action = seat.bindings.action(code)
    if action is None:
        yield f"{code} is bound to nothing"
    elif ":" in action:
        there = [node for node in seat.view.scene.walk() if node.listens(action)]
        first = shortcut_listener(seat.view, action)
        others = [node.path for node in there if node is not first]
        behind = f"; {', '.join(others)} would hear it if that did not" if others else ""
        who = f"{first.path} hears it" if first is not None else "nothing that can hear it listens for it"
        yield f"{code} is bound to {action}: {who}{behind}"
    elif action == "activate":
        can = seat.focus is not None and seat._focus.has_keys(channel)
        yield f"{code} activates what has the focus" + ("" if can else ": there is nothing that it may activate")
    elif action == "back":
        closable = next((node.path for node in seat.view.closable if seat.view.keeps(node)), None)
        yield f"{code} means back: " + (f"it would close {closable}" if closable else "there is nothing to close")
    elif seat._focus.has_keys(channel) or (action in ("next", "previous") and channel == "keys"):
        yield f"{code} is bound to {action}, which moves the focus"
    else:
        yield f"{code} is bound to {action}, which moves the focus once the {channel} are the UI's"
