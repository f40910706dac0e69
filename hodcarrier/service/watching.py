"""Which lists have changed, as server-sent events (WHATWG HTML, 9.2) for consoles and programs that keep lists open."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator, Mapping
from time import monotonic

from starlette.requests import Request

from hodcarrier.core.errors import HodcarrierError
from hodcarrier.core.states import Noun
from hodcarrier.service.deps import signed_in
from hodcarrier.usecases.changes import EVERY_S, Counts, changed_since
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.changes import ChangesOut

KEEP_ALIVE_S = 15.0
SECONDS_MAX = 3600


async def changes(work: Workspace, counts: Counts, request: Request, seconds: float) -> AsyncIterator[str]:
    """One event whenever something has changed, until so many seconds have passed or whoever listens was signed out.

    Every event has an id. Who comes back with the last one is told of what changed meanwhile, without saying what it was.
    """
    ends, quiet_since = monotonic() + seconds, monotonic()
    told = await asyncio.to_thread(counts.now)
    missed = request.headers.get("last-event-id", "") not in ("", _id(told))
    yield _event(told, list(Noun) if missed else [])
    while monotonic() < ends and not counts.ended:
        await asyncio.sleep(min(EVERY_S, max(0.0, ends - monotonic())))
        now = await asyncio.to_thread(counts.now)
        if nouns := changed_since(told, now):
            told, quiet_since = now, monotonic()
            yield _event(now, nouns)
        elif monotonic() - quiet_since >= KEEP_ALIVE_S:
            try:
                await asyncio.to_thread(signed_in, request, work)
            except HodcarrierError:
                return
            quiet_since = monotonic()
            yield ": still here\n\n"


def _id(numbers: Mapping[Noun, int]) -> str:
    return str(sum(numbers.values()))


def _event(numbers: Mapping[Noun, int], nouns: list[Noun]) -> str:
    """An event; one without nouns is not dispatched, but its id is kept."""
    data = f"event: changes\ndata: {ChangesOut(nouns=nouns).model_dump_json()}\n" if nouns else ""
    return f"id: {_id(numbers)}\n{data}\n"
