"""A real site from a folder of files, served on loopback by a process of its own: ``python -m bench.folder FOLDER``.

Prints the port. Every file answers under its path; a folder answers with its ``index.html``.
"""

from __future__ import annotations

import asyncio
import mimetypes
import os
import sys
from pathlib import Path
from urllib.parse import unquote


class Files(asyncio.Protocol):
    """As little of HTTP/1.1 as the clients here need."""

    root = Path()

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        self.transport = transport
        self.buffer = b""

    def data_received(self, data: bytes) -> None:
        self.buffer += data
        while (end := self.buffer.find(b"\r\n\r\n")) >= 0:
            head, self.buffer = self.buffer[:end], self.buffer[end + 4 :]
            method, target, _ = head.split(b"\r\n", 1)[0].decode("latin-1").split(" ")
            self.transport.write(self.answer(method, target))  # type: ignore[attr-defined]

    def answer(self, method: str, target: str) -> bytes:
        """The whole answer to a request."""
        path = (self.root / unquote(target.partition("?")[0]).lstrip("/")).resolve()
        if path.is_dir():
            path = path / "index.html"
        status, kind, body = "404 Not Found", "text/plain", b"not here"
        if path.is_file():
            status, kind, body = "200 OK", mimetypes.guess_type(path.name)[0] or "application/octet-stream", path.read_bytes()
        if kind == "text/html":
            kind += "; charset=utf-8"
        head = f"HTTP/1.1 {status}\r\nContent-Type: {kind}\r\nContent-Length: {len(body)}\r\nServer: bench\r\n\r\n"
        return head.encode() + (b"" if method == "HEAD" else body)


async def serve(root: Path) -> None:
    """Serve until the parent process is gone; prints the port."""
    Files.root = root.resolve()
    server = await asyncio.get_running_loop().create_server(Files, "127.0.0.1", 0)
    print(server.sockets[0].getsockname()[1], flush=True)
    parent = os.getppid()
    while os.getppid() == parent:
        await asyncio.sleep(1)


if __name__ == "__main__":
    asyncio.run(serve(Path(sys.argv[1])))
