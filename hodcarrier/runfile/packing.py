"""Facts and links as compact blobs."""

from __future__ import annotations

import sys
from array import array
from collections.abc import Callable, Iterable, Sequence
from typing import Any

import msgspec
import numpy as np
from isal import isal_zlib as zlib  # the same format, four times as fast

from hodcarrier.core.facts.files import FileFacts
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.values import FOLLOWED_KINDS, Link
from hodcarrier.runfile.schema import KINDS, LANDMARKS

SOURCE_BYTES_MAX = 2 * 1024 * 1024

_KIND = {name: index for index, name in enumerate(KINDS)}
_LANDMARK = {name: index for index, name in enumerate(LANDMARKS)}
# The kind that every code of a packed link stands for: twice the kind's index, one more if the link is followed.
LINK_CODES = {index << 1 | followed: name for index, name in enumerate(KINDS) for followed in (0, 1)}
# The code of a link without any rel, by its kind.
_CODE = {name: index << 1 | (name in FOLLOWED_KINDS) for name, index in _KIND.items()}
_encoder = msgspec.msgpack.Encoder()
_json = msgspec.json.Encoder().encode
_facts_decoder = msgspec.msgpack.Decoder(PageFacts)
_file_decoder = msgspec.msgpack.Decoder(FileFacts)
_any_decoder = msgspec.msgpack.Decoder()
_rest_decoder = msgspec.msgpack.Decoder(list[tuple[str, str, int, tuple[str, ...]]])


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


def pack_source(body: bytes) -> bytes:
    """The source of a document as it was sent, compressed as zlib (RFC 1950); of a very large one the beginning."""
    return zlib.compress(body[:SOURCE_BYTES_MAX], 2)


def unpack_source(blob: bytes) -> bytes:
    """The source of :func:`pack_source`."""
    return bytes(zlib.decompress(blob))


def to_json(value: Any) -> str:
    """JSON, for what other readers of a run file may want to read with SQL."""
    return _json(value).decode()


def pack_facts(facts: PageFacts) -> bytes:
    """A page's facts without its links, the marks of its template and the names within it, which are packed by themselves."""
    links, template = msgspec.structs.replace(facts.links, all=()), msgspec.structs.replace(facts.template, marks=())
    markup = msgspec.structs.replace(facts.markup, fragments=b"")
    return pack(msgspec.structs.replace(facts, links=links, template=template, markup=markup))


def unpack_facts(blob: bytes, links: tuple[Link, ...]) -> PageFacts:
    """The facts of :func:`pack_facts` with links put back."""
    facts = _facts_decoder.decode(zlib.decompress(blob))
    if not links:
        return facts
    return msgspec.structs.replace(facts, links=msgspec.structs.replace(facts.links, all=links))


def unpack_file(blob: bytes) -> FileFacts:
    """What was read of a file, as :func:`pack_small` has packed it."""
    return _file_decoder.decode(blob)


def pack_links(links: Sequence[Link], id_of: Callable[[str], int]) -> bytes:
    """Links with the address ids of their targets: the number of links and the ids as unsigned 32-bit integers (little
    endian), a byte for each link (twice its kind's index, one more if it is followed), and the rest as :func:`pack` does.

    What the link graph is made of comes first and unpacked, because it is read for every page of the site.
    """
    targets = array("I", [len(links)])
    targets.extend([id_of(k.url) for k in links])
    if sys.byteorder == "big":
        targets.byteswap()
    codes = bytes([_CODE[k.kind] if not k.rel else _KIND[k.kind] << 1 | k.followed for k in links])
    return targets.tobytes() + codes + pack([[k.raw, k.text, _LANDMARK[k.landmark], k.rel] for k in links])


def unpack_links(blob: bytes, url_of: Callable[[int], str]) -> tuple[Link, ...]:
    """The links of :func:`pack_links`."""
    targets, codes = link_edges(blob)
    rest = _rest_decoder.decode(zlib.decompress(blob[4 + 5 * len(codes) :]))
    if len(rest) != len(codes):
        raise ValueError(f"{len(codes)} links with {len(rest)} texts")
    if not rest:
        return ()
    raws, texts, places, rels = zip(*rest, strict=True)
    kinds, landmarks = map(LINK_CODES.__getitem__, codes), map(LANDMARKS.__getitem__, places)
    return tuple(map(Link, map(url_of, targets), kinds, raws, texts, landmarks, rels))


def link_edges(blob: bytes) -> tuple[list[int], bytes]:
    """Target ids of all links and their codes (see :func:`pack_links`), without making objects of them."""
    end = 4 + 4 * int.from_bytes(blob[:4], "little")
    targets: list[int] = np.frombuffer(blob[4:end], "<u4").tolist()
    return targets, blob[end : end + len(targets)]


def pack_ids(ids: Iterable[int]) -> bytes:
    """Address ids as compressed unsigned 32-bit integers."""
    return zlib.compress(np.fromiter(ids, dtype="<u4").tobytes(), 1)


def unpack_ids(blob: bytes) -> list[int]:
    """The ids of :func:`pack_ids`."""
    return [int(i) for i in np.frombuffer(zlib.decompress(blob), dtype="<u4")]
