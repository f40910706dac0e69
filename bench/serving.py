"""As little of an HTTP/1.1 server as the clients here need, on loopback, in a process of its own."""

from __future__ import annotations

import asyncio
import os


class Answering(asyncio.Protocol):
    """A connection; what is answered is for those who inherit."""

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        self.transport = transport
        self.buffer = b""

    def data_received(self, data: bytes) -> None:
        self.buffer += data
        while (end := self.buffer.find(b"\r\n\r\n")) >= 0:
            head, self.buffer = self.buffer[:end], self.buffer[end + 4 :]
            method, target, _ = head.split(b"\r\n", 1)[0].decode("latin-1").split(" ")
            status, kind, body = self.answer(target)
            lines = f"HTTP/1.1 {status}\r\nContent-Type: {kind}\r\nContent-Length: {len(body)}\r\nServer: bench\r\nCache-Control: max-age=600\r\n\r\n"
            self.transport.write(lines.encode() + (b"" if method == "HEAD" else body))  # type: ignore[attr-defined]

    def answer(self, target: str) -> tuple[str, str, bytes]:
        """Status, content type and body for a path."""
        raise NotImplementedError


async def serve(kind: type[Answering]) -> None:
    """Serve until the parent process is gone; prints the port."""
    server = await asyncio.get_running_loop().create_server(kind, "127.0.0.1", 0)
    print(server.sockets[0].getsockname()[1], flush=True)
    parent = os.getppid()
    while os.getppid() == parent:
        await asyncio.sleep(1)
