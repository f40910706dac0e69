"""Slow requests are not waited for for ever, and the word of a stranger about where he comes from does not count."""

from __future__ import annotations

import asyncio

import pytest
import uvicorn
from starlette.exceptions import HTTPException
from starlette.types import Receive, Scope, Send

from hodcarrier.service import bounds, connections
from hodcarrier.service.bounds import Bounds
from hodcarrier.service.connections import server_options
from hodcarrier.service.settings import Settings


async def answers(scope: Scope, receive: Receive, send: Send) -> None:
    """Reads the body and says where the request came from."""
    while (await receive()).get("more_body"):
        pass
    body = scope["client"][0].encode()
    await send({"type": "http.response.start", "status": 200, "headers": [(b"content-length", str(len(body)).encode())]})
    await send({"type": "http.response.body", "body": body})


def served(sent: bytes, app: object = answers, **settings: object) -> bytes:
    """Serve the application as the service is served; gives all that comes back for some bytes until the connection ends."""

    async def run() -> bytes:
        options = server_options(Settings(port=0, **settings))  # type: ignore[arg-type]
        server = uvicorn.Server(uvicorn.Config(app, lifespan="off", **options))  # type: ignore[arg-type]
        serving = asyncio.create_task(server.serve())
        while not server.started:
            await asyncio.sleep(0)
        reader, writer = await asyncio.open_connection("127.0.0.1", server.servers[0].sockets[0].getsockname()[1])
        try:
            writer.write(sent)
            async with asyncio.timeout(20):
                return await reader.read()
        finally:
            writer.close()
            server.should_exit = True
            await serving

    return asyncio.run(run())


GET = b"GET / HTTP/1.1\r\nHost: x\r\n"
LAST = b"Connection: close\r\n\r\n"


@pytest.mark.parametrize("begun", [b"", b"GE", GET])
def test_a_head_that_does_not_come_is_given_up(begun: bytes, monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing, a part, all but the last line."""
    monkeypatch.setattr(connections, "HEAD_S", 0.1)
    assert served(begun) == connections.TOO_SLOW


def test_a_request_that_comes_in_time_is_answered_however_long_that_takes(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(connections, "HEAD_S", 0.05)

    async def slow(scope: Scope, receive: Receive, send: Send) -> None:
        done = asyncio.get_running_loop().create_future()
        asyncio.get_running_loop().call_later(0.2, done.set_result, None)
        await done
        await answers(scope, receive, send)

    assert served(GET + LAST, slow).startswith(b"HTTP/1.1 200")


def test_a_body_that_does_not_come_is_given_up(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(bounds, "BODY_S", 0.1)
    refused: list[int] = []

    async def app(scope: Scope, receive: Receive, send: Send) -> None:
        try:
            await Bounds(answers)(scope, receive, send)
        except HTTPException as error:
            refused.append(error.status_code)
            raise

    served(b"POST /api/v1/session HTTP/1.1\r\nHost: x\r\nContent-Length: 10\r\n\r\nabc", app)
    assert refused == [408]


@pytest.mark.parametrize(("trusted", "seen"), [("127.0.0.1", b"203.0.113.9"), ("10.0.0.1", b"127.0.0.1"), ("", b"127.0.0.1")])
def test_only_named_proxies_say_where_a_request_comes_from(trusted: str, seen: bytes) -> None:
    assert served(GET + b"X-Forwarded-For: 203.0.113.9\r\n" + LAST, trusted_proxies=trusted).endswith(seen)


def test_half_a_request_does_not_keep_a_service_that_is_told_to_end(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(connections, "GRACE_S", 0.1)

    async def run() -> bytes:
        server = uvicorn.Server(uvicorn.Config(answers, lifespan="off", **server_options(Settings(port=0))))
        serving = asyncio.create_task(server.serve())
        while not server.started:
            await asyncio.sleep(0)
        reader, writer = await asyncio.open_connection("127.0.0.1", server.servers[0].sockets[0].getsockname()[1])
        writer.write(b"POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 500\r\n\r\nhalf of it")
        while not server.server_state.tasks:
            await asyncio.sleep(0)
        server.should_exit = True
        async with asyncio.timeout(20):
            await serving
        said = await reader.read()
        writer.close()
        return said

    assert b" 200 " not in asyncio.run(run())
