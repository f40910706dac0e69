"""A web server that does everything wrong on purpose, on loopback. Each path misbehaves in its own way."""

from __future__ import annotations

import asyncio
import gzip
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager, suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from email.utils import format_datetime

from tests.listening import listening

Behave = Callable[["Misbehaving", asyncio.StreamWriter, dict[str, str]], Awaitable[None]]
HTML = "HTTP/1.1 200 OK\r\nContent-Type: text/html; charset=utf-8\r\n"
LEGACY = {
    "windows-1252": "naïve café",
    "iso-8859-2": "žluťoučký kůň",
    "windows-1251": "канат и якорь",
    "koi8-r": "канат и якорь",
    "shift_jis": "ロープと錨",
    "euc-jp": "ロープと錨",
    "iso-2022-jp": "ロープと錨",
    "gb18030": "绳子和锚",
    "big5": "繩子和錨",
    "euc-kr": "밧줄과 닻",
    "utf-16le": "rope é",
    "windows-1255": "חבל ועוגן",
    "macintosh": "café rope",
}


@dataclass
class Misbehaving:
    """The server, what it was asked, and how many requests were under way at once."""

    port: int = 0
    asked: list[tuple[str, str]] = field(default_factory=list)
    tries: dict[str, int] = field(default_factory=dict)
    clock: Callable[[], float] = lambda: 0.0
    times: list[float] = field(default_factory=list)
    now: int = 0
    most: int = 0

    async def serve(self, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        with suppress(ConnectionError, asyncio.IncompleteReadError, asyncio.LimitOverrunError):
            while True:
                head = (await reader.readuntil(b"\r\n\r\n")).decode("latin-1").split("\r\n")
                method, path, _ = head[0].split(" ")
                headers = {k.lower(): v for k, _, v in (line.partition(": ") for line in head[1:] if line)}
                self.asked.append((method, path))
                self.times.append(self.clock())
                self.tries[path] = self.tries.get(path, 0) + 1
                self.now += 1
                self.most = max(self.most, self.now)
                try:
                    behave = BEHAVIOURS.get(path.partition("?")[0]) or trap(path)
                    await behave(self, writer, {**headers, ":path": path, ":method": method})
                    await writer.drain()
                finally:
                    self.now -= 1
                if writer.is_closing():
                    return
        writer.close()


def answer(writer: asyncio.StreamWriter, body: bytes, status: str = "200 OK", *headers: str) -> None:
    lines = "".join(f"{h}\r\n" for h in headers)
    kind = "" if any(h.lower().startswith("content-type") for h in headers) else "Content-Type: text/html; charset=utf-8\r\n"
    writer.write(f"HTTP/1.1 {status}\r\n{kind}{lines}Content-Length: {len(body)}\r\n\r\n".encode("latin-1") + body)


def says(body: bytes | str, status: str = "200 OK", *headers: str) -> Behave:
    async def behave(_server: Misbehaving, writer: asyncio.StreamWriter, _request: dict[str, str]) -> None:
        answer(writer, body.encode() if isinstance(body, str) else body, status, *headers)

    return behave


def raw(data: bytes, close: bool = True) -> Behave:
    async def behave(_server: Misbehaving, writer: asyncio.StreamWriter, _request: dict[str, str]) -> None:
        writer.write(data)
        if close:
            with suppress(ConnectionError):
                await writer.drain()
            writer.close()

    return behave


def drip(head: bytes, piece: bytes, pause_s: float) -> Behave:
    """Sends a piece again and again, until the other side has had enough."""

    async def behave(_server: Misbehaving, writer: asyncio.StreamWriter, _request: dict[str, str]) -> None:
        writer.write(head)
        with suppress(ConnectionError):
            while not writer.is_closing():
                writer.write(piece)
                await writer.drain()
                await asyncio.sleep(pause_s)

    return behave


async def reset(_server: Misbehaving, writer: asyncio.StreamWriter, _request: dict[str, str]) -> None:
    writer.write(HTML.encode() + b"Content-Length: 1000\r\n\r\n<p>half")
    await writer.drain()
    writer.transport.abort()


async def never(_server: Misbehaving, writer: asyncio.StreamWriter, _request: dict[str, str]) -> None:
    with suppress(ConnectionError):
        while not writer.is_closing():
            await asyncio.sleep(0.05)
            writer.transport.get_extra_info("peername")
            if writer.transport.is_closing():
                return


async def redirects_for_ever(_server: Misbehaving, writer: asyncio.StreamWriter, request: dict[str, str]) -> None:
    number = int(request[":path"].partition("n=")[2] or 0)
    answer(writer, b"", "302 Found", f"Location: /for-ever?n={number + 1}")


def busy(status: str, retry_after: Callable[[], str], times: int) -> Behave:
    async def behave(server: Misbehaving, writer: asyncio.StreamWriter, request: dict[str, str]) -> None:
        if server.tries[request[":path"]] <= times:
            answer(writer, b"wait", status, f"Retry-After: {retry_after()}")
        else:
            answer(writer, b"<h1>now</h1>")

    return behave


async def wants_cookie(_server: Misbehaving, writer: asyncio.StreamWriter, request: dict[str, str]) -> None:
    if "seen=1" in request.get("cookie", ""):
        answer(writer, b"<h1>in</h1>")
    else:
        answer(writer, b"", "302 Found", "Set-Cookie: seen=1", "Location: /wants-cookie")


async def refuses_us(_server: Misbehaving, writer: asyncio.StreamWriter, request: dict[str, str]) -> None:
    ours = "HodcarrierBot" in request.get("user-agent", "")
    answer(writer, b"no robots" if ours else b"<h1>welcome</h1>", "403 Forbidden" if ours else "200 OK")


def trap(path: str) -> Behave:
    """Pages that make ever more pages."""
    name, _, query = path.partition("?")
    if name.startswith("/calendar/"):
        year, month = (int(part) for part in name.split("/")[2:4])
        later = f"/calendar/{year + month // 12}/{month % 12 + 1}"
        return says(f'<a href="{later}">next</a><a href="/calendar/{year + 1}/{month}">year</a>')
    if name.startswith("/grow"):
        return says('<a href="more/">deeper</a><a href="again/more/">and again</a>' if name.endswith("/") else "<p>x")
    if name.startswith("/facets"):
        return says("".join(f'<a href="/facets?{query}&{k}={v}">{k} {v}</a>' for k in "abc" for v in range(4)))
    if name.startswith("/in/"):
        number = sum(map(ord, name)) * 7919
        return says("".join(f'<a href="/in/{number + n:024x}a1/page">page</a>' for n in range(5)))
    return says("not here", "404 Not Found")


BIG_HEADER = b"X-Big: " + b"x" * 2_000_000 + b"\r\n"
BEHAVIOURS: dict[str, Behave] = {
    "/robots.txt": says("User-agent: *\nDisallow: /kept-out\n", "200 OK", "Content-Type: text/plain"),
    "/slow-drip": drip(HTML.encode() + b"\r\n", b"<p>x", 0.1),
    "/slow-headers": drip(b"HTTP/1.1 200 OK\r\n", b"X-A: b\r\n", 0.1),
    "/never": never,
    "/half-body": raw(HTML.encode() + b"Content-Length: 5000\r\n\r\n<p>only this"),
    "/half-chunk": raw(HTML.encode() + b"Transfer-Encoding: chunked\r\n\r\nffff\r\n<p>only this"),
    "/bad-chunk": raw(HTML.encode() + b"Transfer-Encoding: chunked\r\n\r\nzz\r\n<p>x\r\n0\r\n\r\n"),
    "/reset": reset,
    "/closes-at-once": raw(b""),
    "/endless-body": drip(HTML.encode() + b"\r\n", b"<p>" + b"x" * 65_536, 0),
    "/for-ever": redirects_for_ever,
    "/circle-a": says("", "302 Found", "Location: /circle-b"),
    "/circle-b": says("", "302 Found", "Location: /circle-a"),
    "/to-itself": says("", "301 Moved Permanently", "Location: /to-itself"),
    "/to-nowhere": says("", "302 Found"),
    "/to-garbage": says("", "302 Found", "Location: http://[half"),
    "/to-mail": says("", "302 Found", "Location: mailto:x@y.example"),
    "/to-private": says("", "302 Found", "Location: http://127.0.0.2:9/inside"),
    "/bomb": says(gzip.compress(b"<p>" + b"0" * 60_000_000), "200 OK", "Content-Encoding: gzip"),
    "/gzip-twice": says(gzip.compress(gzip.compress(b"<title>Twice</title>")), "200 OK", "Content-Encoding: gzip, gzip"),
    "/bomb-twice": says(gzip.compress(gzip.compress(b"0" * 60_000_000)), "200 OK", "Content-Encoding: gzip, gzip"),
    "/odd-coding": says(b"<title>Odd</title>", "200 OK", "Content-Encoding: lzma-of-ours"),
    "/not-gzip": says("<p>plain", "200 OK", "Content-Encoding: gzip"),
    "/too-short-length": raw(HTML.encode() + b"Content-Length: 5\r\n\r\n<h1>longer than five</h1>"),
    "/wrong-type": says("<h1>a page</h1>", "200 OK", "Content-Type: image/png"),
    "/no-type": raw(b"HTTP/1.1 200 OK\r\nContent-Length: 10\r\n\r\n<h1>a</h1>"),
    "/hundred-mb": drip(HTML.encode() + b"Content-Length: 100000000\r\n\r\n", b"<p>" + b"x" * 65_533, 0),
    "/hundred-mb.pdf": drip(
        b"HTTP/1.1 200 OK\r\nContent-Type: application/pdf\r\nContent-Length: 100000000\r\n\r\n", b"x" * 65_536, 0
    ),
    "/big-headers": raw(b"HTTP/1.1 200 OK\r\n" + BIG_HEADER + b"Content-Length: 0\r\n\r\n"),
    "/many-headers": raw(b"HTTP/1.1 200 OK\r\n" + b"X-A: b\r\n" * 200_000 + b"Content-Length: 0\r\n\r\n"),
    "/old-http": raw(b"HTTP/1.0 200 OK\r\nContent-Type: text/html\r\n\r\n<h1>old</h1>"),
    "/not-http": raw(b"SSH-2.0-banner\r\n\r\n"),
    "/odd-status": raw(b"HTTP/1.1 999 Odd\r\nContent-Length: 0\r\n\r\n"),
    "/teapot": says("short", "418 Teapot"),
    "/garbage-html": says(bytes(range(256)) * 400),
    "/nul-bytes": says(b"<title>a\x00b</title>" + b"\x00" * 5000 + b"<a href=/fine\x00>x"),
    "/deep-html": says("<div>" * 200_000 + '<a href="/fine">x</a>'),
    "/many-attributes": says("<p" + "".join(f" a{n}" for n in range(200_000)) + '><a href="/fine">x</a>'),
    "/nested": says("<div>" * 5_000 + '<a href="/fine">x</a>'),
    "/big-attribute": says(f'<a href="/fine?{"x" * 3_000_000}" title="{"y" * 3_000_000}">big</a><a href="/fine">fine</a>'),
    "/many-links": says("".join(f'<a href="/fine?same#{n}">{n}</a>' for n in range(22_000))),
    "/fine": says("<h1>fine</h1>"),
    "/busy-seconds": busy("429 Too Many Requests", lambda: "2", 1),
    "/busy-date": busy(
        "503 Service Unavailable", lambda: format_datetime(datetime.now(UTC) + timedelta(seconds=3), usegmt=True), 1
    ),
    "/storm": busy("503 Service Unavailable", lambda: "1", 1000),
    "/hour": busy("429 Too Many Requests", lambda: "3600", 1000),
    "/wants-cookie": wants_cookie,
    "/refuses-us": refuses_us,
    "/kept-out": says("<h1>secret</h1>"),
    **{
        f"/legacy/{name}": says(
            f"<title>{text}</title>".encode(name.replace("macintosh", "mac_roman")),
            "200 OK",
            f"Content-Type: text/html; charset={name}",
        )
        for name, text in LEGACY.items()
    },
}


@asynccontextmanager
async def misbehaving(*paths: str, clock: Callable[[], float] = lambda: 0.0) -> AsyncIterator[Misbehaving]:
    """The server on loopback; its front page links to the paths given."""
    server = Misbehaving(clock=clock)
    links = "".join(f'<a href="{path}">{path}</a>' for path in paths)
    BEHAVIOURS["/"] = says(f"<h1>Front</h1>{links}")
    async with listening(server.serve, limit=1 << 22) as server.port:
        yield server
