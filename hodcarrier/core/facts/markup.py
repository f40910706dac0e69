"""Facts of a document's markup: its size, its doctype, its ids, and scripts that hold it up."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence

import msgspec

from hodcarrier.core.facts.document import Document
from hodcarrier.core.web.doctype import doctype_of

VERSION = 1


class MarkupFacts(msgspec.Struct, frozen=True, array_like=True):
    """The size of the HTML (decoded bytes), whether it has a doctype, ids used twice, the number of elements, the scripts of the head
    that hold up drawing, whether browsers draw it in quirks mode, and why a document that is XML by its type is none."""

    html_bytes: int = 0
    doctype: bool = False
    twice_ids: tuple[str, ...] = ()
    elements: int = 0
    blocking_scripts: tuple[str, ...] = ()
    quirks: bool = False
    xml_error: str = ""

    @classmethod
    def collect(cls, document: Document) -> MarkupFacts:
        """From a parsed document."""
        doctype, quirks = doctype_of(document.text)
        return cls(
            html_bytes=document.html_bytes,
            doctype=doctype,
            quirks=quirks,
            xml_error=document.xml_error[:300],
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
