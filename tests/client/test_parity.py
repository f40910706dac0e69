"""Both clients have every operation, and the command line every one that is not a screen's alone."""

from __future__ import annotations

import inspect
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

import hodcarrier
from hodcarrier.client import AsyncHodcarrier, Hodcarrier
from hodcarrier.wire.operations import OPERATIONS

CLI = Path(hodcarrier.__file__).parent / "cli"


@pytest.mark.parametrize("name", sorted(OPERATIONS))
def test_both_clients_have_every_operation(name: str) -> None:
    sync, asynchronous = getattr(Hodcarrier, name), getattr(AsyncHodcarrier, name)
    assert inspect.iscoroutinefunction(asynchronous) or inspect.isasyncgenfunction(asynchronous)
    assert list(inspect.signature(sync).parameters) == list(inspect.signature(asynchronous).parameters)
    assert sync.__doc__


def test_the_command_line_has_every_operation_that_is_not_a_screens_alone() -> None:
    source = "\n".join(path.read_text() for path in CLI.glob("*.py"))
    missing = [o.name for o in OPERATIONS.values() if not o.console_only and f".{o.name}(" not in source]
    assert missing == []


def _asked(dependant: Any) -> Iterator[str]:
    yield from (parameter.alias for parameter in dependant.query_params)
    for inner in dependant.dependencies:
        yield from _asked(inner)


def test_routes_take_the_parameters_their_operation_names() -> None:
    from hodcarrier.service.routes import ROUTERS

    for router in ROUTERS:
        for route in router.routes:
            operation = OPERATIONS[route.name]  # type: ignore[attr-defined]
            asked = set(_asked(route.dependant))  # type: ignore[attr-defined]
            assert asked == {q.wire_name for q in operation.query}, operation.name
            assert bool(route.dependant.body_params) == (operation.body is not None), operation.name  # type: ignore[attr-defined]
