"""A small server on loopback that leaves nothing open behind it."""

from __future__ import annotations

import asyncio
import ssl
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager

Serve = Callable[[asyncio.StreamReader, asyncio.StreamWriter], Awaitable[None]]


@asynccontextmanager
async def listening(serve: Serve, tls: ssl.SSLContext | None = None, limit: int = 1 << 16) -> AsyncIterator[int]:
    """Serve connections on a free port, given to the block; at its end every one of them is broken off and gone."""
    at_work: dict[asyncio.Task[None], asyncio.StreamWriter] = {}

    async def one(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        task = asyncio.current_task()
        assert task is not None
        at_work[task] = writer
        try:
            await serve(reader, writer)
        except asyncio.CancelledError:
            pass
        finally:
            writer.close()

    server = await asyncio.start_server(one, "127.0.0.1", 0, ssl=tls, limit=limit)
    try:
        yield int(server.sockets[0].getsockname()[1])
    finally:
        server.close()
        for task, writer in at_work.items():
            writer.transport.abort()
            task.cancel()
        await asyncio.gather(*at_work, return_exceptions=True)
        # A transport that is broken off closes its socket in a later turn of the loop.
        for _ in range(3):
            await asyncio.sleep(0)
