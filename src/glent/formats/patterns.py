"""Patterns of a scene file: subtrees told once and used many times, with parameters.

A pattern is a node under a name, with ``takes``, the parameters that each use gives, and ``usual``, those that a use
may give, with what they are otherwise. ``{letter}`` in any text of it stands for a parameter; a text that is nothing
else becomes the value itself, whatever its type; ``{{`` and ``}}`` are braces. A node that says ``use`` becomes the
pattern, ``with`` these parameters; what else it says is added to what the pattern says, or takes its place. ``each``
makes one node for each of a list of values, or of mappings of parameters, ``count`` one for each number from 1.

Reading a file first writes its uses out; what checks a scene sees nodes alone. Where each node came from is kept
beside, so that an error tells the place in the pattern and the place of use. Writing goes the other way: uses whose
nodes are as they were stay as they stood.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from glent.core.errors import near
from glent.formats.errors import FileError, Problem, place_of, shown
from glent.formats.limits import MAX_VALUES

__all__ = ["MOST", "Place", "Written", "along", "folded", "is_use", "written_out"]

Place = tuple[int | str, ...]
"""Where in a file."""

OWN = ("use", "with", "each", "count")
MERGED = ("place", "facts", "control", "wiring", "suppress", "feel")
"""The keys under which a use adds to what its pattern says, key by key."""
MOST = 10_000
"""A use makes no more nodes."""
MOST_MADE = 50_000
"""All uses of a file together make no more: as many as a file that writes them out could hold."""
_PARAMETER = re.compile(r"\{\{|\}\}|\{([A-Za-z_][A-Za-z0-9_-]*)(:words)?\}")


class Written:
    """A document with its uses written out.

    :ivar document: the nodes alone. :ivar runs: by the place of a list with uses, how many nodes each of its entries
        became.
    """

    def __init__(self, document: Any) -> None:
        self.document = document
        self.runs: dict[Place, list[int]] = {}
        self._origins: dict[int, tuple[Any, Place, str, dict[str, Place]]] = {}

    def note(self, node: Any, place: Place, used: str, other: dict[str, Place] | None = None) -> None:
        """Note where in the file a node stands, where it is used, and where that says otherwise, by key."""
        self._origins[id(node)] = (node, place, used, other or {})  # the node is kept, so that its id stays its own

    def place(self, loc: Place) -> str:
        """The place in the file of one in the document: in a pattern, with where that is used."""
        parts: list[int | str] = []
        used = ""
        other: dict[str, Place] = {}
        for part, value, inside in along(self.document, loc):
            if not inside:
                if part == loc[-1] and isinstance(value, dict):
                    parts.append(part)  # a missing key
                continue
            parts.append(part)
            if part in other:
                parts, used = [*other[str(part)], part], ""
            other = {}
            found = self._origins.get(id(value))
            if found is not None:
                parts, used, other = [*found[1]], found[2], found[3]
        return place_of(parts) + used


def along(document: Any, loc: Sequence[int | str]) -> Iterator[tuple[int | str, Any, bool]]:
    """Each part of a place with the value that it leads to, and whether it is in the document: validation of a union
    adds the names of its alternatives, which are not; the value is the one before then."""
    value = document
    for part in loc:
        inside = isinstance(value, dict) and part in value
        inside = inside or (isinstance(value, list) and isinstance(part, int) and part < len(value))
        if inside:
            value = value[part]
        yield part, value, inside


class _Pattern:
    """One pattern, ready to be filled."""

    def __init__(self, name: str, given: Mapping[str, Any], problems: list[Problem]) -> None:
        self.name = name
        self.place: Place = ("patterns", name)
        takes, usual = given.get("takes", []), given.get("usual", {})
        if not isinstance(takes, list) or not all(isinstance(one, str) for one in takes):
            problems.append((place_of((*self.place, "takes")), f"found {shown(takes)}; expected a list of names"))
            takes = []
        if not isinstance(usual, dict):
            problems.append((place_of((*self.place, "usual")), f"found {shown(usual)}; expected a mapping by name"))
            usual = {}
        self.takes: tuple[str, ...] = tuple(takes)
        self.usual: dict[str, Any] = usual
        self.node = {key: value for key, value in given.items() if key not in ("takes", "usual")}
        self._open: dict[int, bool] = {}
        self.size = 0
        known = (*self.takes, *self.usual)
        used: set[str] = set()
        for place, name_ in self._parameters(self.node, self.place):
            used.add(name_)
            if name_ not in known:
                what = f"found {{{name_}}}; expected one of its parameters: {_listed(known)}{near(name_, known)}"
                problems.append((place_of(place), f"{what}; {{{{ is a brace"))
        for one in known:
            if one not in used:
                where = "takes" if one in self.takes else "usual"
                problems.append((place_of((*self.place, where)), f"found {one}; expected it to be used in the pattern"))
            if known.count(one) > 1:
                problems.append((place_of(self.place), f"found {one} twice among its parameters; expected it once"))

    def _parameters(self, value: Any, place: Place) -> Iterator[tuple[Place, str]]:
        self.size += 1
        if isinstance(value, str):
            for found in _PARAMETER.finditer(value):
                self._open[id(value)] = True
                if found.group(1):
                    yield place, found.group(1)
        elif isinstance(value, dict | list):
            for key, one in value.items() if isinstance(value, dict) else enumerate(value):
                yield from self._parameters(one, (*place, key))
                if self._open.get(id(one)) or isinstance(one, dict | list):
                    self._open[id(value)] = True


def is_use(given: Any) -> bool:
    """Whether an entry of a list of nodes is a use of a pattern."""
    return isinstance(given, dict) and "use" in given


def written_out(document: Any, file: str) -> Written:
    """A document with its uses written out; the very document if it has no patterns.

    :raises FileError: a pattern that is not there or uses itself, a parameter that is not given, not known or not used,
        or far too many nodes.
    """
    given = document.get("patterns") if isinstance(document, dict) else None
    if given is None:
        return Written(document)
    return _Writer(document, given, file).written


class _Writer:
    def __init__(self, document: dict[str, Any], given: Any, file: str) -> None:
        self._problems: list[Problem] = []
        self._file = file
        self._count = self._made = 0
        self.written = Written({key: value for key, value in document.items() if key != "patterns"})
        if not isinstance(given, dict):
            raise FileError(file, [("patterns", f"found {shown(given)}; expected a mapping from names to nodes")])
        self._patterns: dict[str, _Pattern] = {}
        for name, one in given.items():
            if not isinstance(one, dict):
                self._wrong(("patterns", name), f"found {shown(one)}; expected a node")
            elif is_use(one):
                self._wrong(("patterns", name, "use"), "found a use; expected a node, which may use others below it")
            else:
                self._patterns[name] = _Pattern(name, one, self._problems)
        self._give_up()
        for key in ("layers", "panels"):
            roots = document.get(key)
            if isinstance(roots, list):
                self.written.document[key] = [self._below(root, (key, at), "", ()) for at, root in enumerate(roots)]
        self._give_up()

    def _wrong(self, place: Place, what: str, used: str = "") -> None:
        self._problems.append((place_of(place) + used, what))

    def _give_up(self) -> None:
        if self._problems:
            raise FileError(self._file, self._problems)

    def _below(self, node: Any, place: Place, used: str, way: tuple[str, ...]) -> Any:
        """A node with the uses below it written out."""
        children = node.get("children") if isinstance(node, dict) else None
        if not isinstance(children, list):
            return node
        where: Place = (*place, "children")
        if not any(map(is_use, children)):
            inner = [self._below(one, (*where, at), used, way) for at, one in enumerate(children)]
            return node if all(a is b for a, b in zip(inner, children, strict=True)) else {**node, "children": inner}
        made: list[Any] = []
        runs: list[int] = []
        for at, one in enumerate(children):
            if is_use(one):
                nodes = self._used(one, (*where, at), used, way)
            else:
                nodes = [dict(self._below(one, (*where, at), used, way))] if isinstance(one, dict) else [one]
                self.written.note(nodes[0], (*where, at), used)
            made += nodes
            runs.append(len(nodes))
        if not way:
            self.written.runs[where] = runs
        return {**node, "children": made}

    def _used(self, use: dict[str, Any], place: Place, used: str, way: tuple[str, ...]) -> list[Any]:
        """The nodes that a use becomes."""
        name = use["use"]
        pattern = self._patterns.get(name) if isinstance(name, str) else None
        if pattern is None:
            what = f"found {shown(name)}; expected the name of a pattern{near(name, self._patterns)}"
            self._wrong((*place, "use"), what, used)
            return []
        if name in way:
            circle = " → ".join([*way[way.index(name) :], name])
            self._wrong((*place, "use"), f"found {name}, which uses itself: {circle}", used)
            return []
        at = used or f", used at {place_of(place)}"
        nodes = []
        for values in self._values(use, pattern, place, used):
            self._count += pattern.size
            self._made += 1
            if self._count > MAX_VALUES or self._made > MOST_MADE:
                most = f"{MOST_MADE:,} nodes" if self._made > MOST_MADE else f"{MAX_VALUES:,} values"
                self._wrong(place, f"would become more than {most}; expected fewer", used)
                self._give_up()
            node = _filled(pattern.node, values)
            other = {key: _filled(value, values) for key, value in use.items() if key not in OWN}
            node = self._below(node, pattern.place, at, (*way, name))
            if "children" in other:
                more = self._below({"children": other["children"]}, place, used, way)["children"]
                if isinstance(more, list):
                    more = [dict(one) if isinstance(one, dict) else one for one in more]
                    for number, one in enumerate(more):
                        self.written.note(one, (*place, "children", number), used)
                    below = node.get("children")
                    more = [*(below if isinstance(below, list) else ()), *more]
                other["children"] = more
            for key in MERGED:
                if isinstance(other.get(key), dict) and isinstance(node.get(key), dict):
                    other[key] = {**node[key], **other[key]}
            node = {**node, **other}
            self.written.note(
                node, pattern.place, at, {key: place for key in other if key not in (*MERGED, "children")}
            )
            nodes.append(node)
        return nodes

    def _values(self, use: dict[str, Any], pattern: _Pattern, place: Place, used: str) -> Iterator[dict[str, Any]]:
        """The parameters of each node that a use becomes."""
        given, each, count = use.get("with", {}), use.get("each"), use.get("count")
        if not isinstance(given, dict):
            self._wrong((*place, "with"), f"found {shown(given)}; expected a mapping from parameters", used)
            return
        if each is not None and count is not None:
            self._wrong((*place, "count"), "found count beside each; expected one of the two", used)
            return
        if each is not None and (not isinstance(each, list) or not each or len(each) > MOST):
            self._wrong((*place, "each"), f"found {shown(each)}; expected a list of 1 to {MOST:,} values", used)
            return
        if count is not None and (type(count) is not int or not 1 <= count <= MOST):
            self._wrong((*place, "count"), f"found {shown(count)}; expected a whole number from 1 to {MOST:,}", used)
            return
        items = each if each is not None else range(1, count + 1) if count is not None else [{}]
        left = [one for one in pattern.takes if one not in given]
        for at, item in enumerate(items):
            key = "each" if each is not None else "count"
            where: Place = (*place, key, at) if each is not None else (*place, key) if count is not None else place
            if not isinstance(item, dict):
                if len(left) != 1:
                    what = f"expected one parameter of {pattern.name} to be left for it, and {_listed(left)} are"
                    self._wrong(where, f"found {shown(item)}; {what}", used)
                    return
                item = {left[0]: item}
            values = {**pattern.usual, **given, **item}
            missing = [one for one in pattern.takes if one not in values]
            if missing:
                self._wrong(where, f"gives no {_listed(missing)}; expected what {pattern.name} takes", used)
                return
            for one in values:
                if one not in pattern.takes and one not in pattern.usual:
                    known = (*pattern.takes, *pattern.usual)
                    what = f"found {one}; expected parameters of {pattern.name}: {_listed(known)}{near(one, known)}"
                    self._wrong((*where, "with") if where == place else where, what, used)
                    return
            yield values


def _listed(names: Sequence[str]) -> str:
    return ", ".join(names) if names else "none"


def _filled(value: Any, values: Mapping[str, Any]) -> Any:
    """A value of a pattern with its parameters filled in."""
    if isinstance(value, str):
        if "{" not in value and "}" not in value:
            return value
        whole = _PARAMETER.fullmatch(value)
        if whole is not None and whole.group(1) in values and whole.group(2) is None:
            return values[whole.group(1)]
        return _PARAMETER.sub(lambda found: _text(found, values), value)
    if isinstance(value, dict):
        return {key: _filled(one, values) for key, one in value.items()}
    return [_filled(one, values) for one in value] if isinstance(value, list) else value


def _text(found: re.Match[str], values: Mapping[str, Any]) -> str:
    name = found.group(1)
    if name is None:
        return found.group()[0]
    value = values.get(name, found.group())
    if isinstance(value, bool) or value is None:
        return {True: "true", False: "false", None: ""}[value]
    text = f"{value:g}" if isinstance(value, float) else str(value)
    return text.replace("-", " ").replace("_", " ") if found.group(2) and name in values else text


# -- writing -----------------------------------------------------------------------------------------------------------


def folded(
    raw: dict[str, Any], written: Written, before: dict[str, Any], now: dict[str, Any]
) -> tuple[dict[str, Any], dict[str, Any]]:
    """Two documents of a scene, as its file told of it and as it is now, with uses in place of the nodes they become.

    :param raw: the file's own document. :param written: the same written out.
    """
    both = []
    for document in (before, now):
        made = dict(document)
        for key in ("layers", "panels"):
            if key in document:
                told = {one["name"]: (at, one) for at, one in enumerate(raw.get(key) or ())}
                known = {one["name"]: one for one in before.get(key) or ()}
                made[key] = [
                    _fold(one, told[one["name"]][1], known[one["name"]], (key, told[one["name"]][0]), written.runs)
                    if one["name"] in told
                    else one
                    for one in document[key]
                ]
        both.append(made)
    return both[0], both[1]


def _fold(
    node: dict[str, Any], raw: dict[str, Any], before: dict[str, Any], place: Place, runs: Mapping[Place, list[int]]
) -> dict[str, Any]:
    children, told = node.get("children"), raw.get("children")
    if not children or not told:
        return node
    where: Place = (*place, "children")
    lengths = runs.get(where, [1] * len(told))
    known = before.get("children") or []
    made: list[Any] = []
    at, left = 0, list(children)
    for number, (entry, length) in enumerate(zip(told, lengths, strict=True)):
        run = known[at : at + length]
        at += length
        if is_use(entry):
            start = _position(left, run[0]["name"]) if run else -1
            if start >= 0 and left[start : start + length] == run:
                made.append((start, entry))
                left[start : start + length] = [None] * length
            continue
        i = _position(left, entry["name"])
        if i >= 0:
            made.append((i, _fold(left[i], entry, run[0], (*where, number), runs)))
            left[i] = None
    made += [(i, one) for i, one in enumerate(left) if one is not None]
    made.sort(key=lambda pair: pair[0])
    return {**node, "children": [one for _, one in made]}


def _position(nodes: Sequence[dict[str, Any] | None], name: str) -> int:
    """The index of the node of this name, or -1."""
    return next((at for at, one in enumerate(nodes) if one is not None and one["name"] == name), -1)
