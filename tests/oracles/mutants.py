"""Mutants: the core with one small thing otherwise, judged by the tests of the laws. A survivor is a line that no test
needs: a test is missing, or the line is. `make mutants N=100` samples; it works on a copy and changes nothing here."""

from __future__ import annotations

import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[2]
FLAGS = ["-x", "-q", "-n", "auto", "-p", "no:cacheprovider"]
TESTS = (
    [*FLAGS, "-m", "not long", "tests/laws"],
    [*FLAGS, "tests/laws/test_any_sequence.py", "-k", "driven"],
)
"""What judges a mutant: the tests of single laws, and if it lives, the machines driven for some thousand steps each."""
LIMIT = 600
"""Seconds after which a mutant counts as found: it does not end."""

COMPARED = {ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
            ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In}  # fmt: skip
RECKONED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}


def places(tree: ast.Module) -> Iterator[tuple[int, str, ast.AST, ast.AST]]:
    """What can be otherwise: line, in words, the node, and what stands for it."""
    for node in ast.walk(tree):
        line = getattr(node, "lineno", 0)
        if isinstance(node, ast.Compare) and len(node.ops) == 1 and type(node.ops[0]) in COMPARED:
            other = ast.Compare(node.left, [COMPARED[type(node.ops[0])]()], node.comparators)
            yield line, f"{type(node.ops[0]).__name__} is {type(other.ops[0]).__name__}", node, other
        elif isinstance(node, ast.BoolOp):
            swapped = ast.Or() if isinstance(node.op, ast.And) else ast.And()
            yield line, f"{type(node.op).__name__} is {type(swapped).__name__}", node, ast.BoolOp(swapped, node.values)
            yield line, "the last of the conditions is gone", node, (
                node.values[0] if len(node.values) == 2 else ast.BoolOp(node.op, node.values[:-1])
            )  # fmt: skip
        elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
            yield line, "not is gone", node, node.operand
        elif isinstance(node, ast.BinOp) and type(node.op) in RECKONED:
            yield line, f"{type(node.op).__name__} is another", node, ast.BinOp(
                node.left, RECKONED[type(node.op)](), node.right
            )  # fmt: skip
        elif isinstance(node, ast.Constant) and isinstance(node.value, bool):
            yield line, f"{node.value} is {not node.value}", node, ast.Constant(not node.value)
        elif isinstance(node, ast.If):
            yield line, "the condition always holds", node.test, ast.Constant(True)
        elif isinstance(node, ast.Expr) and isinstance(node.value, ast.Call):
            yield line, "the call is gone", node, ast.Pass()
        elif isinstance(node, ast.AugAssign | ast.Assign) and not isinstance(node.value, ast.Constant):
            yield line, "the assignment is gone", node, ast.Pass()


class _Swap(ast.NodeTransformer):
    def __init__(self, old: ast.AST, new: ast.AST) -> None:
        self.old, self.new = old, new

    def visit(self, node: ast.AST) -> ast.AST:
        return ast.copy_location(self.new, node) if node is self.old else self.generic_visit(node)


def _typing_only(path: Path, line: int) -> bool:
    """Whether a line is of no matter when the code runs: raised messages, checks of types."""
    text = path.read_text().splitlines()[line - 1]
    return "TYPE_CHECKING" in text or "raise " in text or text.strip().startswith(("def ", "class ", "__"))


def _fails(command: list[str], folder: Path, environment: dict[str, str]) -> bool:
    try:
        return subprocess.run(command, cwd=folder, env=environment, capture_output=True, timeout=LIMIT).returncode != 0
    except subprocess.TimeoutExpired:
        return True


def main(many: int, seed: int) -> int:
    choose = random.Random(seed)
    found: list[tuple[Path, int, str, int]] = []
    for path in sorted((ROOT / "src/glent/core/routing").rglob("*.py")) + sorted(
        (ROOT / "src/glent/core/scene").rglob("*.py")
    ):
        for number, (line, what, _, _) in enumerate(places(ast.parse(path.read_text()))):
            if not _typing_only(path, line):
                found.append((path, line, what, number))
    chosen = choose.sample(found, min(many, len(found)))
    folder = Path(tempfile.mkdtemp())
    for part in ("src", "tests", "examples", "docs"):
        shutil.copytree(ROOT / part, folder / part, ignore=shutil.ignore_patterns("__pycache__", "*.png"))
    for name in ("pyproject.toml", "README.md", "CHANGELOG.md", "Makefile"):
        shutil.copy(ROOT / name, folder / name)
    survivors = 0
    for count, (path, line, what, number) in enumerate(chosen, 1):
        copied = folder / path.relative_to(ROOT)
        text = path.read_text()
        tree = ast.parse(text)
        _, _, old, new = list(places(tree))[number]
        copied.write_text(ast.unparse(ast.fix_missing_locations(_Swap(old, new).visit(tree))))
        began = time.monotonic()
        environment = {**os.environ, "PYTHONPATH": str(folder / "src"), "PYTHONDONTWRITEBYTECODE": "1"}
        killed = any(_fails([sys.executable, "-m", "pytest", *tests], folder, environment) for tests in TESTS)
        copied.write_text(text)
        survivors += not killed
        mark = "found   " if killed else "SURVIVES"
        where = f"{path.relative_to(ROOT / 'src/glent')}:{line}"
        print(f"{count}/{len(chosen)} {mark} {time.monotonic() - began:5.0f} s  {where}: {what}", flush=True)
        if not killed:
            print(f"    {text.splitlines()[line - 1].strip()}", flush=True)
    print(f"seed {seed}: {len(chosen) - survivors} of {len(chosen)} were found, {survivors} survive")
    shutil.rmtree(folder)
    return survivors


if __name__ == "__main__":
    given = dict(zip(sys.argv[1::2], sys.argv[2::2], strict=False))
    main(int(given.get("--many", "100")), int(given.get("--seed", str(int(time.time())))))
