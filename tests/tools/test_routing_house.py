"""The house rules of routing and scene, read from their source: who writes what, and who may know whom."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

import glent
from glent.core.routing.gestures.contact import Contact
from glent.core.routing.gestures.surface_contact import SurfaceContact
from glent.core.routing.pointers.pointer import Pointer, Press

CORE = Path(glent.__file__).parent / "core"
ROUTING = CORE / "routing"
FIELDS = {name for cls in (Pointer, Press, Contact, SurfaceContact) for name in cls.__slots__}
HOMES = {"pointers/pointer.py", "gestures/contact.py", "gestures/surface_contact.py"}
OTHERS = {"event", "click", "burst", "_targets"}
"""Names that stand for objects of other classes with fields of the same names."""
FOR_SPEED = {
    ("router.py", "pointer.pos"): "an idle move: one call would cost 2 % of it",
    ("router.py", "pointer.picked"): "an idle move of a pointer that hovers nothing",
    ("gestures/drag_fast_path.py", "pointer.pos"): "a drag that goes on",
    ("gestures/drag_fast_path.py", "pointer.picked"): "a drag that goes on",
    ("gestures/drag_fast_path.py", "pointer.aimed"): "a drag that goes on",
    ("gestures/drag_fast_path.py", "contact.step"): "a drag that goes on",
    ("gestures/drag_fast_path.py", "contact.time"): "a drag that goes on",
    ("gestures/drag_fast_path.py", "contact.travel"): "a drag that goes on",
    ("gestures/drag_fast_path.py", "contact.track"): "a drag that goes on",
}
CHANGERS = {"append", "extend", "remove", "clear", "pop", "update", "setdefault", "add", "discard", "insert"}
OWN_PARTS = {"hovered": "pointers/hover.py", "armed": "pointers/fingertip.py", "heard": "pointers/press.py"}
"""Containers whose contents are one other file's business."""


def targets(node: ast.AST) -> Iterator[ast.expr]:
    if isinstance(node, ast.Tuple | ast.List):
        for each in node.elts:
            yield from targets(each)
    elif isinstance(node, ast.expr):
        yield node


def written(tree: ast.AST) -> Iterator[ast.Attribute]:
    """Every attribute that is set or deleted, and every one whose contents are changed."""
    for node in ast.walk(tree):
        found: list[ast.expr] = []
        if isinstance(node, ast.Assign | ast.Delete):
            found = [each for target in node.targets for each in targets(target)]
        elif isinstance(node, ast.AugAssign | ast.AnnAssign | ast.NamedExpr | ast.For):
            found = list(targets(node.target))
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) and node.func.attr in CHANGERS:
            found = [node.func.value]
        for each in found:
            while isinstance(each, ast.Subscript):
                each = each.value  # what a container holds
            if isinstance(each, ast.Attribute):
                yield each


def trespasses(source: str, file: str) -> list[str]:
    found = []
    for each in written(ast.parse(source)):
        owner = ast.unparse(each.value)
        if each.attr not in FIELDS or owner in ("self", "cls") or owner.split(".")[-1] in OTHERS:
            continue
        if file.startswith("keys/") or (file, f"{owner}.{each.attr}") in FOR_SPEED or OWN_PARTS.get(each.attr) == file:
            continue  # keys have no pointers, presses or contacts: what they hold is a key
        found.append(f"{file}:{each.lineno}: {owner}.{each.attr}")
    return found


def test_nothing_outside_its_module_writes_a_pointer_a_press_or_a_contact() -> None:
    found = [
        line
        for path in sorted(ROUTING.rglob("*.py"))
        if (file := path.relative_to(ROUTING).as_posix()) not in HOMES
        for line in trespasses(path.read_text(), file)
    ]
    assert found == []


@pytest.mark.parametrize(
    "line",
    [
        "pointer.hold = 1",
        "x, held.over = 1, 2",
        "contact._candidates.append(1)",
        "del pointer.armed[1]",
        "p.idle = None",
    ],
)
def test_what_that_test_looks_for_is_found(line: str) -> None:
    assert len(trespasses(line, "pointers/route.py")) == 1


def imported(path: Path) -> set[str]:
    """The modules that a file imports anywhere, those for type checking alone included.

    In the scene all may name the types Node and Scene: a node and its scene are one thing, and each knows the other.
    """
    found: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module is not None:
            names = {each.name for each in node.names}
            if path.parent.name == "scene" and node.col_offset and names <= {"Node", "Scene"}:
                continue
            found |= {node.module, *(f"{node.module}.{each.name}" for each in node.names)}
        elif isinstance(node, ast.Import):
            found |= {each.name for each in node.names}
    return found


def circles(package: Path) -> list[set[str]]:
    """The sets of files of a package that all lead to each other by imports."""
    root = Path(glent.__file__).parents[1]
    files = {
        ".".join(path.relative_to(root).with_suffix("").parts).removesuffix(".__init__"): path
        for path in package.rglob("*.py")
    }
    reached = {name: imported(path) & files.keys() for name, path in files.items()}
    for middle in files:
        for one in files:
            if middle in reached[one]:
                reached[one] |= reached[middle]
    found = [{other for other in reached[one] if one in reached[other]} for one in files if one in reached[one]]
    return [each for number, each in enumerate(found) if each not in found[:number]]


@pytest.mark.parametrize("package", ["core/routing", "core/scene", "controls"])
def test_no_circle_of_more_than_two_files_even_by_types(package: str) -> None:
    assert [sorted(each) for each in circles(CORE.parent / package) if len(each) > 2] == []


@pytest.mark.parametrize("page", ["docs/architecture.md", "CONTRIBUTING.md"])
def test_every_file_that_a_page_for_contributors_names_is_there(page: str) -> None:
    root = Path(__file__).parents[2]
    named = set(re.findall(r"`([a-z_/]+\.(?:py|md|yaml|toml))`", (root / page).read_text()))
    assert len(named) > 8
    homes = (root, CORE.parent, ROUTING, ROUTING / "gestures", CORE / "scene")
    assert [name for name in sorted(named) if not any((home / name).exists() for home in homes)] == []
