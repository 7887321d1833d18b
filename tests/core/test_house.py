"""The house itself: what is public says what it takes and gives."""

from __future__ import annotations

import ast
from pathlib import Path

CORE = Path(__file__).parents[2] / "src/handrail/core"
WANTED = 0.9


def public(tree: ast.Module):
    """Public functions and classes of a module, and the public methods of its public classes."""
    for node in tree.body:
        if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
            yield node
        if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
            yield from (m for m in node.body if isinstance(m, ast.FunctionDef) and not m.name.startswith("_"))


def test_public_things_of_the_core_are_described():
    bare, count = [], 0
    for path in sorted(CORE.rglob("*.py")):
        tree = ast.parse(path.read_text())
        assert ast.get_docstring(tree), f"{path} does not say what it is for"
        for node in public(tree):
            count += 1
            if not ast.get_docstring(node):
                bare.append(f"{path.relative_to(CORE)}: {node.name}")
    assert len(bare) <= (1 - WANTED) * count, "\n".join(bare)


def test_files_fit_in_a_head():
    """As the formatter lays them out, which gives an argument a line where they are many."""
    long_ = {str(p.relative_to(CORE)): n for p in CORE.rglob("*.py") if (n := len(p.read_text().splitlines())) > 500}
    assert not long_
