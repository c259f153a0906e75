"""The seam between UI and game: names out, names in, values both ways, checked against each other at start (N1–N3)."""

from __future__ import annotations

import sys
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.controls.control import NOTHING
from glent.controls.factory import Controls, controls_of
from glent.controls.types import is_of, type_of
from glent.core.errors import PathError
from glent.core.value import Value
from glent.wiring.contract import Contract, End
from glent.wiring.ends import Command, Stops, changes_of, command, happenings, hear, impossible
from glent.wiring.errors import Problem, WiringError
from glent.wiring.notes import malformed

if TYPE_CHECKING:
    from glent.controls.control import Control
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene
    from glent.core.value import Bound
    from glent.wiring.requests import Request, Requests

__all__ = ["Wiring", "wiring_of"]

KEPT = "wiring"


@dataclass(slots=True)
class _Site:
    """One place in the scene where a name stands."""

    name: str
    kind: str
    type: str
    node: Node
    part: str
    shared: bool
    command: Command | None = None
    value: Value[Any] | None = None


@dataclass(slots=True, eq=False)
class _Bind:
    """One place in the game where a name is bound."""

    name: str
    kind: str
    where: str
    type: str = "any"
    call: Callable[..., object] | None = None
    binds: list[_Bind] | None = None
    value: tuple[Value[Any], Callable[[Any], Any] | None, Callable[[Any], Any] | None] | None = None
    """The game's value, with what makes the UI's of it and the other way."""

    def stop(self) -> None:
        """Bind the name no more. Twice does nothing."""
        if self.binds is not None and self in self.binds:
            self.binds.remove(self)


@dataclass(slots=True)
class _Wired:
    """What a node noted when it was wired, its control then, and what ends its wires."""

    given: Any
    control: Control | None
    ends: list[Stops]


class Wiring:
    """What the nodes of a scene tell, which commands they take and what they do by themselves, bound to a game.

    .. code-block:: yaml

        wiring:
          tells: {act: send-tug}
          values: {value: tide}
          commands: {show: show-notices}
          does:
          - {on: act, act: open, node: popups/cargo}

    What ``does`` says works without the game. A name stands at one node, unless all nodes that have it say it is
    ``shared``: ``tells: {act: {name: send-tug, shared: true}}``.

    :param scene: whose nodes. :param controls: its controls; made of what the nodes declare if none are given.
    :param requests: what names told as a ``request`` go out by; accepted ones come to the game as events do.
    :raises WiringError: notes that cannot be: an act, a value, a command or a node that is not there.
    """

    def __init__(self, scene: Scene, controls: Controls | None = None, requests: Requests | None = None) -> None:
        self.scene = scene
        self.controls = controls if controls is not None else controls_of(scene)
        self.requests = requests
        self._sites: list[_Site] = []
        self._binds: list[_Bind] = []
        self._ends: list[Stops] = []
        self._wired: dict[Node, _Wired] = {}
        self.refresh()
        scene.attachments.setdefault(KEPT, self)

    def refresh(self) -> None:
        """Wire what is noted by now, and unwire what is not: after nodes were copied or a file was read again.

        What the game has bound is bound to new nodes of the same name as well.

        :raises WiringError: notes that cannot be; none of the new ones is wired then.
        """
        noted = {
            node: node.notes["wiring"]
            for node in self.scene.walk()
            if node.notes and node.notes.get("wiring") is not None
        }
        for node, wired in list(self._wired.items()):
            if noted.get(node) != wired.given or self.controls.get(node.path) is not wired.control:
                self._unwire(node)
        new = [node for node in noted if node not in self._wired]
        problems: list[Problem] = []
        for node in new:
            self._wire(node, noted[node], problems)
        if problems:
            for node in new:
                self._unwire(node)
            raise WiringError(problems)
        if self._binds:
            fresh = set(new)
            for site in [site for site in self._sites if site.node in fresh and site.value is not None]:
                for bind in [one for one in self._binds if one.name == site.name and one.value is not None]:
                    self._bind(site, bind)

    def _unwire(self, node: Node) -> None:
        for end in self._wired.pop(node).ends:
            end.stop()
        self._sites = [site for site in self._sites if site.node is not node]

    def _bind(self, site: _Site, bind: _Bind) -> Bound:
        assert site.value is not None
        assert bind.value is not None
        value, forward, inverse = bind.value
        bound = site.value.bind(value, forward, inverse)
        self._wired[site.node].ends.append(bound)
        return bound

    def detach(self) -> None:
        """Take all wires away, and let bound values go; the controls stay. Commands do nothing any more."""
        for end in self._ends:
            end.stop()
        self._ends.clear()
        for node in list(self._wired):
            self._unwire(node)
        if self.scene.attachments.get(KEPT) is self:
            del self.scene.attachments[KEPT]

    # -- the game's side -----------------------------------------------------------------------------------------------

    def on(self, name: str, call: Callable[..., object]) -> Stops:
        """Call ``call`` with what is passed, or with nothing, each time the UI tells this name; until ``.stop()``."""
        bind = _Bind(name, "event", _caller(), call=call, binds=self._binds)
        self._binds.append(bind)
        return bind

    def bind(
        self,
        name: str,
        value: Value[Any],
        forward: Callable[[Any], Any] | None = None,
        inverse: Callable[[Any], Any] | None = None,
    ) -> list[Bound]:
        """Let the UI's value of this name follow one of the game's, and the other way round (laws V1–V5).

        :param forward: makes the UI's value of the game's; ``inverse`` the other way.
        :raises ValueRefusedError: the UI's cannot be what the game's is.
        """
        bind = _Bind(name, "value", _caller(), value=(value, forward, inverse))
        self._binds.append(bind)
        sites = [site for site in self._sites if site.name == name and site.value is not None]
        if value.ready:
            now = forward(value.current) if forward is not None else value.current
            if any(not is_of(now, site.type) for site in sites):
                bind.type = type_of(now)
                return []  # told at start
        return [self._bind(site, bind) for site in sites]

    def command(self, name: str) -> Callable[..., None]:
        """What does this to the UI when it is called, with a value if it takes one."""
        self._binds.append(_Bind(name, "command", _caller()))

        def call(value: Any = NOTHING) -> None:
            for site in self._sites:
                if site.name == name and site.command is not None:
                    site.command(value)

        return call

    def stand_in(self, call: Callable[[str, Any], object]) -> None:
        """Bind every name that nothing binds yet: ``call`` gets it with what is passed, or with ``NOTHING``.

        A value gets a stand-in that begins with what the UI has.
        """
        bound = {bind.name for bind in self._binds}
        for site in {site.name: site for site in self._sites if site.name not in bound}.values():
            note = partial(call, site.name)
            if site.kind in ("event", "request"):
                self.on(site.name, lambda value=NOTHING, note=note: note(value))
            elif site.value is not None:
                stand_in: Value[Any] = Value(site.value.current) if site.value.ready else Value()
                self.bind(site.name, stand_in)
                self._ends.append(changes_of(stand_in, note))

    def contract(self) -> Contract:
        """All names that the UI offers, with their types."""
        by_name: dict[str, list[_Site]] = {}
        for site in self._sites:
            by_name.setdefault(site.name, []).append(site)
        return Contract(
            [
                End(name, sites[0].kind, _common_type(sites), tuple(site.node.path for site in sites))
                for name, sites in by_name.items()
            ]
        )

    @property
    def is_bound(self) -> bool:
        """Whether the game has bound anything."""
        return bool(self._binds)

    def problems(self) -> tuple[Problem, ...]:
        """All that does not fit, as it is now: in the scene, and between it and the game."""
        return (*self._doubled(), *self._between())

    def start(self) -> tuple[Problem, ...]:
        """See to it that everything fits, once the game has bound what it wants to.

        :return: what is no fault, and worth knowing: the values that are not ready yet (law V4).
        :raises WiringError: it does not; the message has a line for each problem, with both places.
        """
        problems = self.problems()
        if problems:
            raise WiringError(problems)
        return tuple(self._waiting())

    def _waiting(self) -> Iterator[Problem]:
        for site in self._sites:
            if site.value is not None and not site.value.ready:
                what = f"{site.name}: is a value of {site.node.path}, and is not ready: nothing has set it yet"
                yield Problem("not ready", site.name, (site.node.path,), what)

    # -- the scene's side ----------------------------------------------------------------------------------------------

    def _wire(self, node: Node, given: Any, problems: list[Problem]) -> None:
        control: Control | None = self.controls.get(node.path)
        ends: list[Stops] = []
        self._wired[node] = _Wired(given, control, ends)
        wrong = malformed(given)
        if wrong:
            problems.append(Problem("impossible", "", (node.path,), f"{node.path}: {wrong}"))
            return
        possible = happenings(control)
        for act, told in given.get("tells", {}).items():
            name, options = _named(told)
            if act not in possible:
                problems.append(impossible(node, control, act, possible))
                continue
            way = "request" if options.get("request") else "event"
            self._sites.append(_Site(name, way, possible[act], node, act, bool(options.get("shared"))))
            ends.append(hear(node, control, act, partial(self._told, name, way, control)))
        values = control.values if control is not None else {}
        for part, told in given.get("values", {}).items():
            name, options = _named(told)
            if part not in values or control is None:
                problems.append(impossible(node, control, part, dict.fromkeys(values, "")))
                continue
            shared = bool(options.get("shared"))
            self._sites.append(_Site(name, "value", control.value_type, node, part, shared, value=values[part]))
        for what, told in given.get("commands", {}).items():
            name, options = _named(told)
            try:
                one = command(node, control, what)
            except WiringError as error:
                problems.extend(error.problems)
                continue
            self._sites.append(_Site(name, "command", one.type, node, what, bool(options.get("shared")), command=one))
        for action in given.get("does", ()):
            self._do(node, control, action, possible, problems)

    def _do(
        self,
        node: Node,
        control: Control | None,
        action: Mapping[str, Any],
        possible: dict[str, str],
        problems: list[Problem],
    ) -> None:
        """Wire one thing that a node does by itself."""
        happening, act = action.get("on", ""), action.get("act", "")
        if happening not in possible:
            problems.append(impossible(node, control, happening, possible))
            return
        fixed = action.get("with", NOTHING)
        if act == "tell":
            name = action.get("name", "")
            passes = possible[happening] if fixed is NOTHING else type_of(fixed)
            self._sites.append(_Site(name, "event", passes, node, f"tell on {happening}", bool(action.get("shared"))))

            def tell(value: Any, seat: str) -> None:
                self._told(name, "event", control, value if fixed is NOTHING else fixed, seat)

            self._wired[node].ends.append(hear(node, control, happening, tell))
            return
        path = action.get("node", "")
        try:
            target = self.scene[path]
            one = command(target, self.controls.get(path), act)
        except PathError as error:
            problems.append(Problem("impossible", "", (node.path,), f"{node.path}: does {act} to {path!r}: {error}"))
            return
        except WiringError as error:
            problems += [
                Problem("impossible", "", (node.path, path), f"{node.path}: cannot do it: {problem}")
                for problem in error.problems
            ]
            return
        passes = possible[happening] if fixed is NOTHING else type_of(fixed)
        if one.type != "nothing" and passes not in (one.type, "any"):
            what = f"{node.path}: sets {path} to {_shown(fixed, passes)}, expected {one.type}"
            problems.append(Problem("wrong type", "", (node.path, path), what))
            return

        def perform(value: Any, seat: str) -> None:
            if one.type == "nothing":
                one()
            else:
                one(value if fixed is NOTHING else fixed)

        self._wired[node].ends.append(hear(node, control, happening, perform))

    def _told(self, name: str, way: str, control: Control | None, value: Any, seat: str) -> None:
        if way != "request" or self.requests is None:
            self._pass_on(name, value)
            return

        def then(request: Request) -> None:
            if request.state == "accepted":
                self._pass_on(name, value)

        self.requests.ask(name, None if value is NOTHING else value, seat, control, then)

    def _pass_on(self, name: str, value: Any) -> None:
        for bind in self._binds:
            if bind.name == name and bind.call is not None:
                bind.call(*(() if value is NOTHING else (value,)))

    # -- checks --------------------------------------------------------------------------------------------------------

    def _doubled(self) -> Iterator[Problem]:
        seen: dict[str, _Site] = {}
        for site in self._sites:
            first = seen.setdefault(site.name, site)
            if first is site:
                continue
            places = (first.node.path, site.node.path)
            if first.kind != site.kind:
                what = f"is {first.kind} of {places[0]} and {site.kind} of {places[1]}, expected one of the two"
                yield Problem("doubled", site.name, places, f"{site.name}: {what}")
            elif not (first.shared and site.shared):
                if first.node is not site.node and first.node.notes == site.node.notes:
                    what = f"stands at {places[0]} and, wired alike in all, at {places[1]}: one is a copy of the other"
                    kind = "copied along"
                else:
                    what, kind = f"stands at {places[0]} and at {places[1]}", "doubled"
                yield Problem(
                    kind, site.name, places, f"{site.name}: {what}; expected another name, or both to be shared"
                )
            elif site.type != first.type and "any" not in (site.type, first.type):
                what = f"passes {first.type} at {places[0]} and {site.type} at {places[1]}, expected one type"
                yield Problem("wrong type", site.name, places, f"{site.name}: {what}")

    def _between(self) -> Iterator[Problem]:
        contract = self.contract()
        bound = {bind.name for bind in self._binds}
        for end in contract:
            if end.name not in bound and end.kind in ("event", "request", "value"):
                verb = {"event": "told by", "request": "asked for by", "value": "a value of"}[end.kind]
                what = f"{end.name}: is {verb} {', '.join(end.paths)}, and nothing in the game binds it"
                yield Problem("unbound", end.name, end.paths, what)
        ways = {"request": "event"}
        for bind in self._binds:
            if bind.name not in contract:
                yield self._unknown(bind, contract)
                continue
            end = contract[bind.name]
            places = (*end.paths, bind.where)
            if ways.get(end.kind, end.kind) != bind.kind:
                what = (
                    f"{bind.name}: is bound as {bind.kind} at {bind.where}, and is {end.kind} of {', '.join(end.paths)}"
                )
                yield Problem("wrong type", bind.name, places, what)
            elif bind.type not in ("any", end.type) and end.type != "any":
                what = f"{bind.name}: is {bind.type} at {bind.where}, and {end.type} at {', '.join(end.paths)}"
                yield Problem("wrong type", bind.name, places, what)

    @staticmethod
    def _unknown(bind: _Bind, contract: Contract) -> Problem:
        from difflib import get_close_matches

        near = get_close_matches(bind.name, [end.name for end in contract], n=1)
        hint = f"; near is {near[0]}, of {', '.join(contract[near[0]].paths)}" if near else ""
        what = f"{bind.name}: is bound at {bind.where}, and no node of the scene has it{hint}"
        return Problem("unknown", bind.name, (bind.where,), what)


def wiring_of(scene: Scene) -> Wiring:
    """The wiring of a scene: what was made of its nodes' notes, or else made now, with the scene's controls."""
    made = scene.attachments.get(KEPT)
    return made if isinstance(made, Wiring) else Wiring(scene, controls_of(scene))


def _named(told: Any) -> tuple[str, Mapping[str, Any]]:
    """A name, and what is said of it besides."""
    return (told, {}) if isinstance(told, str) else (str(told.get("name", "")), told)


def _common_type(sites: list[_Site]) -> str:
    types = {site.type for site in sites}
    return types.pop() if len(types) == 1 else "any"


def _shown(fixed: Any, passes: str) -> str:
    return passes if fixed is NOTHING else repr(fixed)


def _caller() -> str:
    """Where in the game's code a name is bound: file and line."""
    frame = sys._getframe(2)
    return f"{Path(frame.f_code.co_filename).name}:{frame.f_lineno}"
