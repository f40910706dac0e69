"""Facts and links as compact blobs."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

import msgspec
import numpy as np
from isal import isal_zlib as zlib  # the same format, four times as fast

from hodcarrier.core.facts import Link, PageFacts
from hodcarrier.runfile.schema import KINDS, LANDMARKS

_KIND = {name: index for index, name in enumerate(KINDS)}
_LANDMARK = {name: index for index, name in enumerate(LANDMARKS)}
_encoder = msgspec.msgpack.Encoder()
_facts_decoder = msgspec.msgpack.Decoder(PageFacts)
_any_decoder = msgspec.msgpack.Decoder()


def pack(value: Any) -> bytes:
    """MessagePack, compressed as zlib (RFC 1950)."""
    return zlib.compress(_encoder.encode(value), 1)


def pack_small(value: Any) -> bytes:
    """MessagePack as it is: compressing a few hundred bytes costs more than it saves."""
    return _encoder.encode(value)


def unpack_small(blob: bytes) -> Any:
    """The value of :func:`pack_small`."""
    return _any_decoder.decode(blob)


def unpack(blob: bytes) -> Any:
    """The value of :func:`pack`."""
    return _any_decoder.decode(zlib.decompress(blob))


def pack_facts(facts: PageFacts) -> bytes:
    """A page's facts without its links, which are packed by themselves."""
    return pack(msgspec.structs.replace(facts, links=()))


def unpack_facts(blob: bytes, links: tuple[Link, ...]) -> PageFacts:
    """The facts of :func:`pack_facts` with links put back."""
    return msgspec.structs.replace(_facts_decoder.decode(zlib.decompress(blob)), links=links)


def pack_links(links: Iterable[Link], id_of: Callable[[str], int]) -> bytes:
    """Links with the address ids of their targets."""
    return pack([[id_of(k.url), _KIND[k.kind], k.raw, k.text, _LANDMARK[k.landmark], k.rel] for k in links])


def unpack_links(blob: bytes, url_of: Callable[[int], str]) -> tuple[Link, ...]:
    """The links of :func:`pack_links`."""
    return tuple(Link(url_of(t), KINDS[k], raw, text, LANDMARKS[m], tuple(rel)) for t, k, raw, text, m, rel in unpack(blob))


def link_edges(blob: bytes) -> list[tuple[int, int, bool]]:
    """(target id, kind index, followed) for every link, without making objects of them."""
    return [(t, k, k <= 1 and "nofollow" not in rel) for t, k, _raw, _text, _place, rel in unpack(blob)]


def pack_ids(ids: Iterable[int]) -> bytes:
    """Address ids as compressed unsigned 32-bit integers."""
    return zlib.compress(np.fromiter(ids, dtype="<u4").tobytes(), 1)


def unpack_ids(blob: bytes) -> list[int]:
    """The ids of :func:`pack_ids`."""
    return [int(i) for i in np.frombuffer(zlib.decompress(blob), dtype="<u4")]
