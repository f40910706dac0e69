"""Facts of a document's markup: its size, its doctype, its ids, and scripts that hold it up."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence

import msgspec

from hodcarrier.core.facts.document import Document

VERSION = 1
# Atomic and possessive: a page that begins with many comments must not be tried in every way to divide them.
_DOCTYPE = re.compile(r"\s*+(?>(?><!--.*?-->)\s*+)*+<!doctype\s+html", re.I | re.S)


class MarkupFacts(msgspec.Struct, frozen=True, array_like=True):
    """The size of the HTML (decoded bytes), whether it has a doctype, ids used twice, the number of elements, and the scripts of
    the head that hold up drawing."""

    html_bytes: int = 0
    doctype: bool = False
    twice_ids: tuple[str, ...] = ()
    elements: int = 0
    blocking_scripts: tuple[str, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> MarkupFacts:
        """From a parsed document."""
        return cls(
            html_bytes=document.html_bytes,
            doctype=bool(_DOCTYPE.match(document.text[:4096].lstrip("\ufeff"))),
            twice_ids=_twice(document.ids),
            elements=document.elements_count,
            blocking_scripts=tuple(_blocking(document)),
        )


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
