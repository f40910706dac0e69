"""One request and its answer, for ordinary and for asynchronous programs. The calls are written from the operations."""

from __future__ import annotations

import asyncio
import time
from collections.abc import AsyncIterator, Iterator, Mapping
from datetime import date
from functools import cache
from typing import Any
from urllib.parse import quote

import httpx
from pydantic import BaseModel, TypeAdapter, ValidationError

from hodcarrier.client.errors import RequestFailed, Unreachable
from hodcarrier.core.states import RunState
from hodcarrier.wire.base import Problem
from hodcarrier.wire.operations import OPERATIONS, Operation

TRIES = 3
PART_ITEMS = 500
ENDED = (RunState.DONE, RunState.FAILED, RunState.STOPPED)
Values = Mapping[str, Any]


def request_of(
    operation: Operation, path: Values, query: Values | None, body: BaseModel | None, version: int | None
) -> dict[str, Any]:
    """The request of an operation, as the HTTP client takes it."""
    wire_names = {parameter.name: parameter.wire_name for parameter in operation.query}
    given = {
        wire_names.get(name, name): _text(value)
        for name, value in (query or {}).items()
        if value is not None and (value != "" or name not in wire_names)  # an empty filter asks for what is missing
    }
    return {
        "method": operation.method,
        "url": operation.path.format(**{name: quote(str(value), safe="") for name, value in path.items()}),
        "params": given,
        "json": body.model_dump(mode="json", exclude_unset=True) if body is not None else None,
        "headers": {"If-Match": f'"{version}"'} if version is not None else {},
    }


def _text(value: Any) -> Any:
    return value.isoformat() if isinstance(value, date) else value


@cache
def _reader(name: str) -> TypeAdapter[Any]:
    return TypeAdapter(OPERATIONS[name].result)


def read_answer(operation: Operation, response: httpx.Response) -> Any:
    """What an answer holds. Raises :class:`RequestFailed` with the service's problem document."""
    if response.status_code >= 400:
        raise RequestFailed(problem_of(response))
    if operation.result is None:
        return None
    return response.content if operation.result is bytes else _reader(operation.name).validate_json(response.content)


def problem_of(response: httpx.Response) -> Problem:
    """The problem document of an answer (RFC 9457), or one made up for an answer that has none."""
    try:
        return Problem.model_validate_json(response.content)
    except ValidationError:
        title = f"HTTP {response.status_code}"
        return Problem(type="about:blank", title=title, status=response.status_code, detail=f"{title}: {response.text[:200]}")


def _options(url: str, token: str, transport: Any, timeout: float) -> dict[str, Any]:
    headers = {"Authorization": f"Bearer {token}"} if token else {}
    return {
        "base_url": url.rstrip("/") + "/api/v1",
        "headers": headers,
        "transport": transport,
        "timeout": timeout,
        "trust_env": False,
    }


class SyncCalls:
    """A connection for ordinary programs."""

    def __init__(self, url: str, token: str = "", *, transport: httpx.BaseTransport | None = None, timeout: float = 60.0) -> None:
        self._http = httpx.Client(**_options(url, token, transport, timeout))
        self.url = url

    def close(self) -> None:
        """Close the connection."""
        self._http.close()

    def _call(
        self, name: str, path: Values, *, query: Values | None = None, body: BaseModel | None = None, version: int | None = None
    ) -> Any:
        """One operation; one that only reads is tried again when the connection fails."""
        operation = OPERATIONS[name]
        request = request_of(operation, path, query, body, version)
        for attempt in range(TRIES if operation.method == "GET" else 1):
            try:
                return read_answer(operation, self._http.request(**request))
            except httpx.TransportError as error:
                failed = error
                time.sleep(0.2 * 2**attempt)
        raise Unreachable(f"No service answers at {self.url} ({failed}).")

    def _parts(self, name: str, path: Values, *, query: Values | None = None) -> Iterator[Any]:
        """The items of a list that comes in parts, fetched as they are needed."""
        after: str | None = None
        while True:
            part = self._call(name, path, query={**(query or {}), "limit": PART_ITEMS, "after": after})
            yield from part.items
            after = part.after
            if after is None:
                return


class AsyncCalls:
    """A connection for asynchronous programs."""

    def __init__(
        self, url: str, token: str = "", *, transport: httpx.AsyncBaseTransport | None = None, timeout: float = 60.0
    ) -> None:
        self._http = httpx.AsyncClient(**_options(url, token, transport, timeout))
        self.url = url

    async def close(self) -> None:
        """Close the connection."""
        await self._http.aclose()

    async def _call(
        self, name: str, path: Values, *, query: Values | None = None, body: BaseModel | None = None, version: int | None = None
    ) -> Any:
        """One operation; one that only reads is tried again when the connection fails."""
        operation = OPERATIONS[name]
        request = request_of(operation, path, query, body, version)
        for attempt in range(TRIES if operation.method == "GET" else 1):
            try:
                return read_answer(operation, await self._http.request(**request))
            except httpx.TransportError as error:
                failed = error
                await asyncio.sleep(0.2 * 2**attempt)
        raise Unreachable(f"No service answers at {self.url} ({failed}).")

    async def _parts(self, name: str, path: Values, *, query: Values | None = None) -> AsyncIterator[Any]:
        """The items of a list that comes in parts, fetched as they are needed."""
        after: str | None = None
        while True:
            part = await self._call(name, path, query={**(query or {}), "limit": PART_ITEMS, "after": after})
            for item in part.items:
                yield item
            after = part.after
            if after is None:
                return
