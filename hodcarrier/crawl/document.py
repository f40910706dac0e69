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
    return body.count(b"<") > HEAVY_TAGS or _has_long_tag(body)


def _has_long_tag(body: bytes) -> bool:
    """Whether more than :data:`HEAVY_TAG_BYTES` follow a ``<`` without a ``>``."""
    at, end = 0, len(body)
    while end - at > HEAVY_TAG_BYTES:
        # Leap from one ``>`` to the last one within reach: where none is, the stretch begins with text or with a long tag.
        near = body.rfind(b">", at, at + HEAVY_TAG_BYTES)
        if near < 0:
            near = body.find(b">", at)
            near = end if near < 0 else near
            begin = body.rfind(b"<", at, near)
            if begin >= 0 and near - begin > HEAVY_TAG_BYTES:
                return True
        at = near + 1
    return False


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
