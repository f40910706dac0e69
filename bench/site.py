"""A generated site of any number of pages, served on loopback by a process of its own: ``python -m bench.site PAGES [FAULTS]``.

Every page has about 28 KB of HTML and 60 links: navigation, breadcrumbs, siblings, and its children in a tree, so that the
whole site is found by following links. Everything is decided by the number of the page. With ``FAULTS`` every page also has that
many pictures without an alternative text, each of them a finding.
"""

from __future__ import annotations

import asyncio
import os
import sys
from functools import lru_cache

FAN_OUT = 20
NAVIGATION = 24
WORDS = [
    "rope",
    "anchor",
    "tide",
    "harbour",
    "fender",
    "pump",
    "paint",
    "splice",
    "deck",
    "sail",
    "mast",
    "keel",
    "buoy",
    "cleat",
    "chart",
    "lamp",
    "oar",
    "tar",
    "cork",
    "net",
]


def path_of(number: int) -> str:
    """The path of a page: three levels of folders."""
    return "/" if number == 0 else f"/{WORDS[number % 20]}/{WORDS[number // 20 % 20]}/page-{number}"


@lru_cache(maxsize=1)
def _paragraphs() -> list[str]:
    return [" ".join(WORDS[(n * 7 + i * (n % 5 + 1)) % 20] for i in range(90)) for n in range(200)]


def body_of(number: int, pages: int, faults: int = 0) -> bytes:
    """The HTML of a page."""
    texts = _paragraphs()
    children = range(number * FAN_OUT + 1, min(number * FAN_OUT + FAN_OUT + 1, pages))
    siblings = [(number * 31 + i * 17) % pages for i in range(60 - NAVIGATION - len(children))]
    menu = "".join(
        f'<li><a class="menu-link" href="{path_of(n % pages)}">{WORDS[n % 20].title()} {n}</a></li>' for n in range(NAVIGATION)
    )
    lists = "".join(f'<li><a href="{path_of(n)}">Page {n} about {WORDS[n % 20]}</a></li>' for n in (*children, *siblings))
    text = "".join(f"<h2>Part {i}</h2><p>{texts[(number + i * 13) % 200]}</p>" for i in range(38))
    pictures = "".join(f'<img src="/picture.png?{i}" width="4" height="4">' for i in range(faults))
    return (
        f'<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Page {number}: all about {WORDS[number % 20]}</title>'
        f'<meta name="description" content="What there is to know about {WORDS[number % 20]}, page {number} of a long list of pages.">'
        f'<link rel="canonical" href="{path_of(number)}"><meta name="viewport" content="width=device-width">'
        f'<link rel="stylesheet" href="/style.css"></head><body><header><nav><ul>{menu}</ul></nav></header>'
        f'<main><h1>Page {number}</h1><img src="/picture.png" alt="A picture" width="4" height="4">{pictures}{text}<ul>{lists}</ul></main>'
        f"<footer><p>The end of page {number}</p></footer></body></html>"
    ).encode()


class Server(asyncio.Protocol):
    """As little of HTTP/1.1 as the clients here need."""

    pages = 0
    faults = 0

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        self.transport = transport
        self.buffer = b""

    def data_received(self, data: bytes) -> None:
        self.buffer += data
        while (end := self.buffer.find(b"\r\n\r\n")) >= 0:
            head, self.buffer = self.buffer[:end], self.buffer[end + 4 :]
            method, path, _ = head.split(b"\r\n", 1)[0].decode().split(" ")
            self.transport.write(answer(method, path, self.pages, self.faults))  # type: ignore[attr-defined]


def answer(method: str, path: str, pages: int, faults: int = 0) -> bytes:
    """The whole answer to a request."""
    status, kind, body = "200 OK", "text/html; charset=utf-8", b""
    tail = path.rpartition("-")[2]
    if path == "/":
        body = body_of(0, pages, faults)
    elif path.partition("?")[0] in ("/style.css", "/picture.png"):
        kind, body = ("text/css" if path.endswith("css") else "image/png"), b"x" * 100
    elif tail.isdigit() and int(tail) < pages and path == path_of(int(tail)):
        body = body_of(int(tail), pages, faults)
    else:
        status, kind, body = "404 Not Found", "text/plain", b"not here"
    head = f"HTTP/1.1 {status}\r\nContent-Type: {kind}\r\nContent-Length: {len(body)}\r\nServer: bench\r\nCache-Control: max-age=600\r\n\r\n"
    return head.encode() + (b"" if method == "HEAD" else body)


async def serve(pages: int, faults: int) -> None:
    """Serve until the parent process is gone; prints the port."""
    Server.pages, Server.faults = pages, faults
    server = await asyncio.get_running_loop().create_server(Server, "127.0.0.1", 0)
    print(server.sockets[0].getsockname()[1], flush=True)
    parent = os.getppid()
    while os.getppid() == parent:
        await asyncio.sleep(1)


if __name__ == "__main__":
    asyncio.run(serve(int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 0))
