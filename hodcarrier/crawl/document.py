"""Reading a document without being held up by it.

Building the tree of a hostile document can take the square of its length: elements nested ten thousand deep, one element with
a hundred thousand attributes. Documents that might be such are read in a process of their own, with limits of processor time
and memory. ``python -m hodcarrier.crawl.document`` is that process.
"""

from __future__ import annotations

import asyncio
import resource
import sys
from collections.abc import Sequence

import msgspec

from hodcarrier.core.facts.page import PageFacts, collect
from hodcarrier.core.web.urls import Resolver

HEAVY_BYTES = 50_000
HEAVY_TAGS = 20_000
HEAVY_TAG_BYTES = 100_000
PROCESSOR_S = 30
MEMORY_BYTES = 3 * 1024**3


class Document(msgspec.Struct, frozen=True, array_like=True):
    """A document to read, as it goes to the other process."""

    body: bytes
    url: str
    content_type: str
    expected: tuple[str, ...]


def is_heavy(body: bytes) -> bool:
    """Whether reading a document might take long: very many tags, or a tag that is very long."""
    if len(body) < HEAVY_BYTES:
        return False
    if body.count(b"<") > HEAVY_TAGS:
        return True
    return any(len(piece) - piece.rfind(b"<") > HEAVY_TAG_BYTES for piece in body.split(b">") if len(piece) > HEAVY_TAG_BYTES)


async def read_apart(body: bytes, url: str, content_type: str, expected: Sequence[str]) -> PageFacts | None:
    """The facts of a heavy document, or ``None`` when they cannot be had within the limits."""
    process = await asyncio.create_subprocess_exec(
        *(sys.executable, "-m", __name__, str(PROCESSOR_S)),
        stdin=asyncio.subprocess.PIPE,
        stdout=asyncio.subprocess.PIPE,
        stderr=asyncio.subprocess.DEVNULL,
    )
    try:
        facts, _ = await process.communicate(msgspec.msgpack.encode(Document(body, url, content_type, tuple(expected))))
    finally:
        if process.returncode is None:
            process.kill()
    return msgspec.msgpack.decode(facts, type=PageFacts) if process.returncode == 0 else None


def main() -> None:
    """Read one document from stdin and write its facts to stdout, or die at a limit."""
    limit_s = int(sys.argv[1])
    resource.setrlimit(resource.RLIMIT_CPU, (limit_s, limit_s))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_BYTES, MEMORY_BYTES))
    document = msgspec.msgpack.decode(sys.stdin.buffer.read(), type=Document)
    facts = collect(document.body, document.url, document.content_type, Resolver(), document.expected)
    sys.stdout.buffer.write(msgspec.msgpack.encode(facts))


if __name__ == "__main__":
    main()
