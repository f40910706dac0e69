"""Rules of the house: modules are small, say what they are, and are found in two guesses."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import pytest

import hodcarrier
from hodcarrier.core.catalogue import load
from hodcarrier.core.states import RunState, Severity, TodoState
from hodcarrier.wire.operations import OPERATIONS

ROOT = Path(hodcarrier.__file__).parent.parent
PACKAGE = ROOT / "hodcarrier"
MODULES = sorted(PACKAGE.rglob("*.py"))
LINES_MAX = 400
WRITTEN = PACKAGE / "client" / "calls"


@pytest.mark.parametrize("path", MODULES, ids=lambda p: str(p.relative_to(PACKAGE)))
def test_modules_are_small_and_say_what_they_are(path: Path) -> None:
    text = path.read_text()
    assert text.count("\n") <= LINES_MAX, "split it by noun"
    if text.strip() and "migrations" not in path.parts:
        assert ast.get_docstring(ast.parse(text)), "a module begins with what it is for"


def serves_an_operation(node: ast.stmt) -> bool:
    """Whether a function is a route: its operation says what it does."""
    decorators = getattr(node, "decorator_list", [])
    return any(isinstance(d, ast.Call) and isinstance(d.func, ast.Name) and d.func.id == "serves" for d in decorators)


def test_public_functions_have_docstrings() -> None:
    missing = []
    for path in MODULES:
        if "migrations" in path.parts:
            continue
        for node in ast.parse(path.read_text()).body:
            public = isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef | ast.ClassDef) and not node.name.startswith("_")
            if public and not serves_an_operation(node) and not ast.get_docstring(node):  # type: ignore[arg-type]
                missing.append(f"{path.relative_to(ROOT)}: {node.name}")  # type: ignore[attr-defined]
    assert missing == []


def test_a_check_is_found_by_its_id() -> None:
    for entry in load().values():
        assert (PACKAGE / "core" / "checks" / entry.area / f"{entry.id.replace('-', '_')}.py").is_file()


def test_every_operation_is_served_once_and_nothing_else_is() -> None:
    served: list[str] = []
    for path in (PACKAGE / "service" / "routes").glob("*.py"):
        served += re.findall(r'@serves\(router, "(\w+)"\)', path.read_text())
    assert sorted(served) == sorted(OPERATIONS)


def test_closed_sets_are_spelled_out_once() -> None:
    """Lists of severities and states are made from their enums, never typed again."""
    lists = [[m.value for m in kind] for kind in (Severity, RunState, TodoState)]
    found = []
    for path in MODULES:
        if path.parent == PACKAGE / "core" / "states":
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Tuple | ast.List | ast.Set):
                words = [e.value for e in node.elts if isinstance(e, ast.Constant)]
                if any(len(set(words) & set(values)) >= 3 for values in lists):
                    found.append(f"{path.relative_to(ROOT)}:{node.lineno}")
    assert found == []
