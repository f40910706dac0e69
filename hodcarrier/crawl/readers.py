"""Processes that read heavy documents, kept from one to the next: ``python -m hodcarrier.crawl.readers FD`` is one of them.

A reader is forked before its worker has threads, so that it begins with everything loaded; one that is needed later (because one before
it ended at a limit, or inside the service) is started anew. Each document has limits of processor time and memory. A reader takes
one document after the other from a socket: its length (32-bit, big endian), then MessagePack; and answers with facts in the same form.
"""

from __future__ import annotations

import asyncio
import os
import resource
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Sequence
from contextlib import suppress

import msgspec

from hodcarrier.core.facts.page import PageFacts, collect
from hodcarrier.core.web.urls import Resolver

READERS = 2
PROCESSOR_S = 30
MEMORY_BYTES = 3 * 1024**3
_HEAD_BYTES = 4
_decoder = msgspec.msgpack.Decoder(PageFacts)


class Document(msgspec.Struct, frozen=True, array_like=True):
    """A document to read, as it goes to a reader. ``processor_s`` is what it may take."""

    body: bytes
    url: str
    content_type: str
    expected: tuple[str, ...]
    processor_s: int


class Reader:
    """One process, and the line to it."""

    def __init__(self) -> None:
        self.line, end = socket.socketpair()
        if threading.active_count() == 1:
            self.pid, self._process = _fork(end), None
        else:
            command = [sys.executable, "-m", __name__, str(end.fileno())]
            self._process = subprocess.Popen(
                command, pass_fds=[end.fileno()], stdin=subprocess.DEVNULL, stderr=subprocess.DEVNULL
            )
            self.pid = self._process.pid
        end.close()
        self.line.setblocking(False)

    async def read(self, document: Document) -> PageFacts | None:
        """The facts of a document; ``None`` when the process has ended at a limit."""
        loop, body = asyncio.get_running_loop(), msgspec.msgpack.encode(document)
        try:
            await loop.sock_sendall(self.line, len(body).to_bytes(_HEAD_BYTES, "big"))
            await loop.sock_sendall(self.line, body)
            size = int.from_bytes(await self._take(_HEAD_BYTES), "big")
            return _decoder.decode(await self._take(size))
        except (OSError, EOFError):
            return None

    async def _take(self, size: int) -> bytes:
        parts, loop = [], asyncio.get_running_loop()
        while size:
            part = await loop.sock_recv(self.line, min(size, 1 << 20))
            if not part:
                raise EOFError
            parts.append(part)
            size -= len(part)
        return b"".join(parts)

    def end(self) -> None:
        """Let it go, whatever it is at."""
        self.line.close()
        with suppress(ProcessLookupError):
            os.kill(self.pid, signal.SIGKILL)
        if self._process is not None:
            self._process.wait()
        else:
            with suppress(ChildProcessError):
                os.waitpid(self.pid, 0)


class Readers:
    """A bounded pool of readers, each of which is begun when it is needed first."""

    def __init__(self) -> None:
        self._free: list[Reader] = []
        self._turns = asyncio.Semaphore(READERS)

    def begin(self) -> None:
        """Have one ready, best before there are threads."""
        self._free.append(Reader())

    async def read(self, body: bytes, url: str, content_type: str, expected: Sequence[str]) -> PageFacts | None:
        """The facts of a heavy document, or ``None`` when they cannot be had within the limits."""
        async with self._turns:
            reader = self._free.pop() if self._free else Reader()
            try:
                facts = await reader.read(Document(body, url, content_type, tuple(expected), PROCESSOR_S))
            except BaseException:
                reader.end()
                raise
            if facts is None:
                reader.end()
            else:
                self._free.append(reader)
            return facts

    def end(self) -> None:
        """Let all of them go."""
        while self._free:
            self._free.pop().end()


def _fork(end: socket.socket) -> int:
    """Go on as two processes, of which one is a reader until its line ends, and nothing else: it never comes back from here."""
    pid = os.fork()
    if pid:
        return pid
    try:
        signal.set_wakeup_fd(-1)
        signal.signal(signal.SIGTERM, signal.SIG_DFL)
        signal.signal(signal.SIGINT, signal.SIG_IGN)
        # What the worker holds open is not the reader's: least of all the lock on its run.
        kept = end.fileno()
        os.closerange(3, kept)
        os.closerange(kept + 1, resource.getrlimit(resource.RLIMIT_NOFILE)[0])
        serve(end)
    finally:
        os._exit(0)


def serve(line: socket.socket) -> None:
    """Read documents from a line until it ends, or die at a limit."""
    line.setblocking(True)
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, resource.getrlimit(resource.RLIMIT_AS)[1]))
    resolver = Resolver()
    with line, line.makefile("rb") as coming, line.makefile("wb") as going:
        while head := coming.read(_HEAD_BYTES):
            document = msgspec.msgpack.decode(coming.read(int.from_bytes(head, "big")), type=Document)
            spent = int(time.process_time()) + 1
            resource.setrlimit(resource.RLIMIT_CPU, (spent + document.processor_s, resource.getrlimit(resource.RLIMIT_CPU)[1]))
            facts = msgspec.msgpack.encode(
                collect(document.body, document.url, document.content_type, resolver, document.expected)
            )
            going.write(len(facts).to_bytes(_HEAD_BYTES, "big") + facts)
            going.flush()


if __name__ == "__main__":
    serve(socket.socket(fileno=int(sys.argv[1])))
