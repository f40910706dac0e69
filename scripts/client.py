"""Writes the calls of the client library from the operations, for ordinary and for asynchronous programs. Run by ``make docs``."""

from __future__ import annotations

import subprocess
import sys
import types
from collections.abc import Iterator
from enum import Enum
from pathlib import Path
from typing import Any, Literal, Union, get_args, get_origin

from hodcarrier.wire.base import Listed
from hodcarrier.wire.operations import NOUNS, OPERATIONS, Operation
from hodcarrier.wire.operations.operation import NEEDED

CALLS = Path(__file__).parent.parent / "hodcarrier" / "client" / "calls"
STATES = "hodcarrier.core.states"
BY_HAND = frozenset({"watch_changes", "watch_run"})


def modules() -> dict[str, str]:
    """The source of every module of calls, by its file name."""
    return {f"{noun}.py": _module(noun) for noun in NOUNS}


def _module(noun: str) -> str:
    operations = [o for o in OPERATIONS.values() if o.noun == noun and o.name not in BY_HAND]
    imports: dict[str, set[str]] = {}
    lines: list[str] = []
    for kind, base in (("", "SyncCalls"), ("Async", "AsyncCalls")):
        lines += ["", "", f"class {kind}{noun.title()}({base}):", f'    """Calls about {noun}."""']
        for operation in operations:
            lines += ["", *_method(operation, bool(kind), imports)]
    body = "\n".join(lines)
    abstract = [name for name in ("AsyncIterator", "Iterator") if f"{name}[" in body]
    head = [
        f'"""Calls about {noun}, written from the operations by `make docs`; do not edit."""',
        "",
        "from __future__ import annotations",
        "",
    ]
    if abstract:
        head.append(f"from collections.abc import {', '.join(abstract)}")
    for module, names in sorted(imports.items()):
        head.append(f"from {module} import {', '.join(sorted(names))}")
    head.append("from hodcarrier.client.connection import AsyncCalls, SyncCalls")
    return _formatted("\n".join([*head, body]) + "\n")


def _method(operation: Operation, is_async: bool, imports: dict[str, set[str]]) -> Iterator[str]:
    words = ["self", *(f"{name}: {_annotation(kind, imports)}" for name, kind in operation.path_parameters)]
    values = [f'"{name}": {name}' for name, _ in operation.path_parameters]
    options = []
    query = [q for q in operation.query if not (operation.paged and q.name in ("after", "limit"))]
    if operation.body is not None:
        words.append(f"body: {_annotation(operation.body, imports)}")
    for q in query:
        default = "" if q.default is NEEDED else f" = {_literal(q.default)}"
        words.append(f"{q.name}: {_annotation(q.kind, imports)}{default}")
    if operation.versioned:
        words.append("version: int | None = None")
        options.append("version=version")
    if operation.filters:
        words.append("**filters: str | float | None")
    if operation.body is not None:
        options.append("body=body")
    asked = [f'"{q.name}": {q.name}' for q in query] + (["**filters"] if operation.filters else [])
    if asked:
        options.append("query={" + ", ".join(asked) + "}")
    arguments = ", ".join([f'"{operation.name}"', "{" + ", ".join(values) + "}", *options])
    if operation.paged:
        item = _annotation(get_args_of(operation.result), imports)
        yield f"    {'async ' if is_async else ''}def {operation.name}({', '.join(words)}) -> {'Async' * is_async}Iterator[{item}]:"
        yield f'        """{operation.summary}"""'
        if is_async:
            yield f"        async for item in self._parts({arguments}):"
            yield "            yield item"
        else:
            yield f"        yield from self._parts({arguments})"
        return
    result = "None" if operation.result is None else _annotation(operation.result, imports)
    yield f"    {'async ' if is_async else ''}def {operation.name}({', '.join(words)}) -> {result}:"
    yield f'        """{operation.summary}"""'
    call = f"{'await ' * is_async}self._call({arguments})"
    if result == "None":
        yield f"        {call}"
    else:
        yield f"        found: {result} = {call}"
        yield "        return found"


def get_args_of(listed: type[Listed[Any]]) -> Any:
    """What a list that comes in parts is a list of."""
    return listed.model_fields["items"].annotation.__args__[0]  # type: ignore[union-attr]


def _annotation(kind: Any, imports: dict[str, set[str]]) -> str:
    if kind is type(None) or kind is None:
        return "None"
    origin = get_origin(kind)
    if origin in (Union, types.UnionType):
        return " | ".join(_annotation(part, imports) for part in get_args(kind))
    if origin is Literal:
        imports.setdefault("typing", set()).add("Literal")
        return f"Literal[{', '.join(repr(value) for value in get_args(kind))}]"
    if origin is not None:
        return f"{origin.__name__}[{', '.join(_annotation(part, imports) for part in get_args(kind))}]"
    if kind.__module__ != "builtins":
        module = STATES if kind.__module__.startswith(f"{STATES}.") else kind.__module__
        imports.setdefault(module, set()).add(kind.__name__)
    return str(kind.__name__)


def _literal(value: Any) -> str:
    return f"{type(value).__name__}.{value.name}" if isinstance(value, Enum) else repr(value)


def _formatted(source: str) -> str:
    fix = [sys.executable, "-m", "ruff", "check", "-q", "--select", "I", "--fix", "--stdin-filename", str(CALLS / "x.py"), "-"]
    form = [sys.executable, "-m", "ruff", "format", "-q", "--stdin-filename", str(CALLS / "x.py"), "-"]
    for command in (fix, form):
        source = subprocess.run(command, input=source, capture_output=True, text=True, check=True).stdout
    return source


def write() -> None:
    """Write all modules."""
    CALLS.mkdir(exist_ok=True)
    (CALLS / "__init__.py").write_text('"""The calls of the client library, written from the operations by `make docs`."""\n')
    for name, source in modules().items():
        (CALLS / name).write_text(source)
