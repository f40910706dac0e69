"""``make mutate``: how many small faults, put into a sample of functions, the tests notice.

Each mutant is one changed operator, number, condition or left-out statement of one function of the core, the examination, the run file,
the use cases or the crawl. It lives in a process of its own, which reads the changed module instead of the one on disk and runs the tests
that call the function. A mutant is killed when a test fails or nothing comes of it in time. The sample is drawn with a fixed seed.

::

    make mutate                   200 mutants
    make mutate MUTANTS=40        fewer
    make mutate ONLY=core.judge   of some modules only
"""

from __future__ import annotations

import ast
import importlib.abc
import importlib.machinery
import io
import multiprocessing
import os
import random
import signal
import sys
import threading
from collections import Counter, defaultdict
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import redirect_stderr, redirect_stdout
from copy import deepcopy
from dataclasses import dataclass
from pathlib import Path
from types import CodeType, FrameType, ModuleType
from typing import Any

import pytest

ROOT = Path(__file__).parent.parent
LAYERS = ("core", "examine", "runfile", "usecases", "crawl")
TESTS = (
    "tests/core",
    "tests/examine",
    "tests/runfile",
    "tests/usecases",
    "tests/crawl",
    "tests/register",
    "tests/report",
    "tests/service/test_permissions.py",
)
SEED, MUTANTS, TESTS_MAX, PATIENCE_S = 20261126, 200, 300, 180
GOAL = 0.85

SWAPPED: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
    ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
    ast.And: ast.Or,
    ast.Or: ast.And,
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.FloorDiv,
    ast.Div: ast.Mult,
    ast.Continue: ast.Break,
}
Function = ast.FunctionDef | ast.AsyncFunctionDef


@dataclass(frozen=True)
class Mutant:
    """One change: in which module and function, at which node of the function, and what it says there now."""

    module: str
    function: str
    line: int
    node: int
    what: str


def change(node: ast.AST) -> tuple[ast.AST, str] | None:
    """The changed form of a node and a word for the change; ``None`` for nodes that are left alone."""
    if isinstance(node, ast.Compare) and type(node.ops[0]) in SWAPPED:
        changed = deepcopy(node)
        changed.ops[0] = SWAPPED[type(node.ops[0])]()  # type: ignore[assignment]
    elif isinstance(node, (ast.BoolOp, ast.BinOp, ast.AugAssign)) and type(node.op) in SWAPPED:
        changed = deepcopy(node)
        changed.op = SWAPPED[type(node.op)]()  # type: ignore[assignment]
    elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        return node.operand, f"{ast.unparse(node)} → {ast.unparse(node.operand)}"
    elif isinstance(node, ast.Constant) and isinstance(node.value, (int, float)) and not isinstance(node.value, bool):
        changed = ast.Constant(node.value + 1)
    elif isinstance(node, ast.If):
        changed = deepcopy(node)
        changed.test = ast.UnaryOp(ast.Not(), node.test)
        return changed, f"if {ast.unparse(node.test)} → if not"
    elif isinstance(node, ast.Expr) and isinstance(node.value, ast.Call):
        return ast.Pass(), f"{ast.unparse(node)[:60]} → left out"
    elif isinstance(node, ast.Continue):
        return ast.Break(), "continue → break"
    else:
        return None
    return changed, f"{ast.unparse(node)[:60]} → {ast.unparse(changed)[:60]}"


def functions(tree: ast.Module) -> Iterator[tuple[str, Function]]:
    """The functions of a module with their qualified names, without those of protocols."""
    for top in tree.body:
        if isinstance(top, (ast.FunctionDef, ast.AsyncFunctionDef)):
            yield top.name, top
        elif isinstance(top, ast.ClassDef) and not any("Protocol" in ast.unparse(base) for base in top.bases):
            for inner in top.body:
                if isinstance(inner, (ast.FunctionDef, ast.AsyncFunctionDef)):
                    yield f"{top.name}.{inner.name}", inner


def nodes(function: Function) -> list[ast.AST]:
    """The nodes of a function's body, in a fixed order, without annotations."""
    return [node for statement in function.body for node in ast.walk(statement) if not isinstance(node, ast.AnnAssign)]


def mutants_of(module: str) -> list[Mutant]:
    """All mutants of a module."""
    found = []
    for name, function in functions(ast.parse(source_of(module).read_text())):
        for number, node in enumerate(nodes(function)):
            if changed := change(node):
                found.append(Mutant(module, name, getattr(node, "lineno", function.lineno), number, changed[1]))
    return found


def source_of(module: str) -> Path:
    """The file of a module."""
    path = ROOT / Path(*module.split("."))
    return path / "__init__.py" if path.is_dir() else path.with_suffix(".py")


def mutated(mutant: Mutant) -> ast.Module:
    """The tree of a module with the change in it."""
    tree = ast.parse(source_of(mutant.module).read_text())
    target = nodes(dict(functions(tree))[mutant.function])[mutant.node]

    class Swap(ast.NodeTransformer):
        def visit(self, node: ast.AST) -> Any:
            if node is target:
                found = change(node)
                assert found is not None
                return ast.copy_location(found[0], node)
            return self.generic_visit(node)

    return ast.fix_missing_locations(Swap().visit(tree))


class Changed(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Gives the changed module to whoever imports it."""

    def __init__(self, mutant: Mutant) -> None:
        self.mutant = mutant

    def find_spec(self, name: str, _path: object, _target: object = None) -> importlib.machinery.ModuleSpec | None:
        """Ours for the changed module alone."""
        if name != self.mutant.module:
            return None
        path = source_of(name)
        spec = importlib.machinery.ModuleSpec(name, self, origin=str(path), is_package=path.name == "__init__.py")
        spec.has_location = True
        if spec.submodule_search_locations is not None:
            spec.submodule_search_locations.append(str(path.parent))
        return spec

    def exec_module(self, module: ModuleType) -> None:
        """Run the changed code."""
        exec(compile(mutated(self.mutant), str(source_of(self.mutant.module)), "exec"), module.__dict__)


class Calls:
    """Notes which functions each test calls. ``tests`` is by (module, function); ``breadth`` says how many functions a test calls."""

    def __init__(self) -> None:
        self.tests: dict[tuple[str, str], list[str]] = defaultdict(list)
        self.breadth: Counter[str] = Counter()
        self.seen: set[CodeType] = set()
        self.failed: set[str] = set()

    def profile(self, frame: FrameType, event: str, _arg: object) -> None:
        """What the interpreter calls for each call."""
        if event == "call":
            self.seen.add(frame.f_code)

    def pytest_runtest_logreport(self, report: pytest.TestReport) -> None:
        """Tests that do not bear being watched tell nothing of a mutant."""
        if report.failed:
            self.failed.add(report.nodeid)

    @pytest.hookimpl(wrapper=True)
    def pytest_runtest_protocol(self, item: pytest.Item) -> Iterator[None]:
        """Around a test and what is set up for it."""
        self.seen.clear()
        threading.setprofile(self.profile)
        sys.setprofile(self.profile)
        try:
            return (yield)
        finally:
            sys.setprofile(None)
            threading.setprofile(None)  # type: ignore[arg-type]
            for code in self.seen:
                if code.co_filename.startswith(str(ROOT / "hodcarrier")):
                    path = Path(code.co_filename).relative_to(ROOT).with_suffix("")
                    module = ".".join(p for p in path.parts if p != "__init__")
                    name = code.co_qualname.partition(".<locals>")[0]
                    self.tests[module, name].append(item.nodeid)
                    self.breadth[item.nodeid] += 1


def run_tests(tests: list[str], *more: str, plugins: list[object] | None = None) -> int:
    """Run tests in this process, in silence; gives pytest's exit code."""
    with redirect_stdout(io.StringIO()), redirect_stderr(io.StringIO()):
        return int(pytest.main(["-q", "-p", "no:cacheprovider", "--no-header", *more, *tests], plugins=plugins))


def map_calls(answers: Any) -> None:
    """In a process of its own: which tests call which function."""
    calls = Calls()
    run_tests(list(TESTS), plugins=[calls])
    for found in calls.tests.values():
        found[:] = [test for test in found if test not in calls.failed]
    answers.put((sorted(calls.failed), dict(calls.tests), calls.breadth))


def try_mutant(mutant: Mutant, tests: list[str], answers: Any) -> None:
    """In a process of its own: run the tests against a mutant. One that ends the process gives no answer, and was noticed."""
    os.setpgrp()
    sys.meta_path.insert(0, Changed(mutant))
    answers.put(run_tests(tests, "-x"))


def outcome(mutant: Mutant, tests: list[str], context: Any) -> str:
    """``killed``, ``in time`` (nothing came of it in time, which a person would notice) or ``survived``."""
    if not tests:
        return "survived"
    answers = context.Queue()
    process = context.Process(target=try_mutant, args=(mutant, tests, answers))
    process.start()
    process.join(PATIENCE_S)
    if process.is_alive():
        os.killpg(process.pid, signal.SIGKILL)
        process.join()
        return "in time"
    return "survived" if not answers.empty() and answers.get() == 0 else "killed"


def chosen_tests(module: str, tests: list[str], breadth: Counter[str]) -> list[str]:
    """Of the tests that call a function, those that are most about it: of its module, of its layer, that call the fewest others."""
    _, layer, *_, name = module.split(".")

    def distance(test: str) -> tuple[bool, bool, int, str]:
        return f"/test_{name}" not in test, f"tests/{layer}/" not in test, breadth[test], test

    return sorted(sorted(tests, key=distance)[:TESTS_MAX])


def main() -> int:
    """Print a line for each mutant that survived, and the share that was killed by layer. 1 when that is below the goal."""
    os.chdir(ROOT)
    wanted, only = int(os.environ.get("MUTANTS") or MUTANTS), os.environ.get("ONLY") or ""
    context = multiprocessing.get_context("fork")
    draw = random.Random(SEED)
    answers = context.Queue()
    mapper = context.Process(target=map_calls, args=(answers,))
    print("Noting which tests call which function ...", flush=True)
    mapper.start()
    failed, tests, breadth = answers.get()
    mapper.join()
    if failed:
        print(f"Left out, because they fail as it is: {', '.join(failed)}")
    modules = [
        ".".join(path.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__")
        for layer in LAYERS
        for path in sorted((ROOT / "hodcarrier" / layer).rglob("*.py"))
    ]
    drawn = []
    for layer in LAYERS:
        inside = [m for name in modules if name.split(".")[1] == layer and only in name for m in mutants_of(name)]
        share = wanted if only else wanted // len(LAYERS)
        drawn += draw.sample(inside, min(share, len(inside)))
    print(f"{len(drawn)} mutants.", flush=True)
    chosen = [chosen_tests(m.module, tests.get((m.module, m.function), []), breadth) for m in drawn]
    with ThreadPoolExecutor(os.cpu_count()) as pool:
        found = list(pool.map(lambda pair: outcome(*pair, context), zip(drawn, chosen, strict=True)))
    by_layer: dict[str, Counter[str]] = defaultdict(Counter)
    for mutant, result, run in zip(drawn, found, chosen, strict=True):
        by_layer[mutant.module.split(".")[1]][result] += 1
        if result == "survived":
            print(f"survived {len(run):3} tests: {mutant.module}:{mutant.line} {mutant.function}: {mutant.what}")
    for layer, results in by_layer.items():
        total = sum(results.values())
        print(f"{layer:10} {total - results['survived']:4} of {total:4} killed")
    killed = 1 - found.count("survived") / max(1, len(found))
    print(f"{killed:.0%} of {len(found)} mutants killed ({found.count('in time')} by the clock)")
    return 0 if killed >= GOAL else 1


if __name__ == "__main__":
    sys.exit(main())
