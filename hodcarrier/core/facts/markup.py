"""Facts of a document's markup: its size, its doctype, its ids, and scripts that hold it up."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Sequence
from functools import lru_cache
from itertools import islice

import msgspec
from xxhash import xxh3_64_intdigest

from hodcarrier.core.facts import flaws
from hodcarrier.core.facts.document import Document
from hodcarrier.core.facts.parse_errors import ParseError, parse_errors
from hodcarrier.core.web.doctype import doctype_of
from hodcarrier.core.web.urls import are_strangers, is_web, split

VERSION = 1


class MarkupFacts(msgspec.Struct, frozen=True, array_like=True):
    """The size of the HTML (decoded bytes), whether it has a doctype, ids used twice, the number of elements, the scripts of the head
    that hold up drawing, whether browsers draw it in quirks mode, and why a document that is XML by its type is none.

    ``head_breaker`` is what ends the head before its end, ``head_lost`` what of the head comes after it; ``obsolete`` elements with their
    number; ``hidden_focus``, ``broken_lists``, ``headless_tables`` as :mod:`hodcarrier.core.facts.flaws` tells them; ``inline_bytes`` those
    of scripts and styles in the page; ``small_text_ratio`` the share of its text that its own styles set very small; ``unpinned`` scripts of
    other hosts without a digest; ``fragments`` what links may point at within the page: three bytes of a hash of each name, sorted; ``errors`` of parsing, ``None`` where they were not
    looked for."""

    html_bytes: int = 0
    doctype: bool = False
    twice_ids: tuple[str, ...] = ()
    elements: int = 0
    blocking_scripts: tuple[str, ...] = ()
    quirks: bool = False
    xml_error: str = ""
    head_breaker: str = ""
    head_lost: tuple[str, ...] = ()
    obsolete: tuple[tuple[str, int], ...] = ()
    hidden_focus: tuple[str, ...] = ()
    broken_lists: tuple[str, ...] = ()
    headless_tables: tuple[str, ...] = ()
    inline_bytes: int = 0
    small_text_ratio: float = 0.0
    unpinned: tuple[str, ...] = ()
    fragments: bytes = b""
    errors: tuple[ParseError, ...] | None = None

    @classmethod
    def collect(cls, document: Document, inspect: bool = False) -> MarkupFacts:
        """From a parsed document; ``inspect``: with the errors of its source."""
        doctype, quirks = doctype_of(document.text)
        breaker, lost = flaws.head_breaker(document)
        return cls(
            html_bytes=document.html_bytes,
            doctype=doctype,
            quirks=quirks,
            xml_error=document.xml_error[:300],
            twice_ids=_twice(document.ids),
            elements=document.elements_count,
            blocking_scripts=tuple(_blocking(document)),
            head_breaker=breaker,
            head_lost=lost,
            obsolete=flaws.obsolete_in(document),
            hidden_focus=_some(flaws.hidden_focus(document)),
            broken_lists=_some(flaws.broken_lists(document)),
            headless_tables=_some(flaws.headless_tables(document)),
            inline_bytes=flaws.inline_bytes(document),
            small_text_ratio=round(flaws.small_text(document), 3),
            unpinned=_some(_unpinned(document)),
            fragments=pack_prints((*document.ids, *document.references.anchor_names)),
            errors=parse_errors(document.text) if inspect else None,
        )


@lru_cache(maxsize=65_536)
def fragment_print(name: str) -> int:
    """A number of 24 bits that stands for a name within a page. Two names share one once in 17 million."""
    return xxh3_64_intdigest(name.encode("utf-8", "surrogatepass")) & 0xFFFFFF


def pack_prints(names: Iterable[str]) -> bytes:
    """The prints of names, sorted, three bytes each (big endian)."""
    return b"".join(number.to_bytes(3, "big") for number in sorted({fragment_print(name) for name in names if name}))


def unpack_prints(packed: bytes) -> frozenset[int]:
    """The prints that :func:`pack_prints` has packed."""
    return frozenset(int.from_bytes(packed[at : at + 3], "big") for at in range(0, len(packed), 3))


def _some(found: Iterable[str]) -> tuple[str, ...]:
    """The first of what was found, each once."""
    return tuple(islice(dict.fromkeys(found), flaws.KEPT_MAX))


def _unpinned(document: Document) -> Iterator[str]:
    """Scripts of other sites that nothing keeps from being changed (Subresource Integrity)."""
    host = split(document.url).host
    for node in document.elements.get("script", ()):
        attributes = node.attributes
        raw = attributes.get("src")
        if raw and not attributes.get("integrity"):
            url = document.references.resolve(raw)
            if is_web(url) and are_strangers(split(url).host, host):
                yield url


def _twice(ids: Sequence[str]) -> tuple[str, ...]:
    if len(set(ids)) == len(ids):
        return ()
    return tuple(name for name, times in Counter(ids).items() if times > 1)


def _blocking(document: Document) -> Iterator[str]:
    for node in document.elements.get("script", ()):
        attributes = node.attributes
        waits = "async" not in attributes and "defer" not in attributes and attributes.get("type") != "module"
        if waits and attributes.get("src") and node.mem_id in document.head_ids:
            yield attributes["src"] or ""
