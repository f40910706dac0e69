"""Taking content codings off a body, piece by piece and within bounds."""

from __future__ import annotations

import zlib
from collections.abc import Callable
from dataclasses import dataclass

import brotli

CODINGS_MAX = 3
# Of a body that is compressed twice, one chunk may unpack to this much that is still compressed.
INNER_BYTES_MAX = 16 * 1024 * 1024


def inflater(encoding: str) -> Callable[[bytes, int], bytes]:
    """A bounded decompressor for a ``Content-Encoding``: never yields more than asked for, however small the input.

    Codings are listed in the order in which they were applied (RFC 9110, 8.4), so the last one is taken off first. Raises
    :class:`UnknownCoding` for one that we did not ask for.
    """
    codings = [name for name in (part.strip().lower() for part in encoding.split(",")) if name not in ("", "identity")]
    if len(codings) > CODINGS_MAX:
        raise UnknownCoding(encoding)
    steps = [_step(name, encoding) for name in reversed(codings)]
    if not steps:
        return lambda data, _most: data
    return steps[0] if len(steps) == 1 else _Chain(steps)


def _step(name: str, encoding: str) -> Callable[[bytes, int], bytes]:
    if name in ("gzip", "x-gzip"):
        return zlib.decompressobj(31).decompress
    if name == "deflate":
        return _Deflate()
    if name == "br":
        reader = brotli.Decompressor()
        return lambda data, most: bytes(reader.process(data, output_buffer_limit=most))
    raise UnknownCoding(encoding)


class UnknownCoding(Exception):
    """A body in a coding that cannot be read, or wrapped too often."""


@dataclass
class _Chain:
    """Several decompressors after one another. What is in between is bounded too: it is compressed still."""

    steps: list[Callable[[bytes, int], bytes]]

    def __call__(self, data: bytes, most: int) -> bytes:
        for step in self.steps[:-1]:
            data = step(data, INNER_BYTES_MAX + 1)
            if len(data) > INNER_BYTES_MAX:
                raise zlib.error("compressed too well to be a document")
        return self.steps[-1](data, most)


class _Deflate:
    """``deflate`` as servers send it: in a zlib wrapper by the standard, bare by habit."""

    def __init__(self) -> None:
        self.reader = zlib.decompressobj()
        self.begun = False

    def __call__(self, data: bytes, most: int) -> bytes:
        try:
            piece = self.reader.decompress(data, most)
        except zlib.error:
            if self.begun:
                raise
            self.reader = zlib.decompressobj(-15)
            piece = self.reader.decompress(data, most)
        self.begun = True
        return piece


DECODE_ERRORS = (zlib.error, brotli.error, UnknownCoding)
