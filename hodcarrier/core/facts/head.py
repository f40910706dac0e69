"""Facts of a document's head: what titles it, describes it and tells search engines about it."""

from __future__ import annotations

from collections.abc import Iterator

import msgspec
from selectolax.lexbor import LexborHTMLParser

from hodcarrier.core.facts.document import Document, is_inside
from hodcarrier.core.facts.references import clean
from hodcarrier.core.facts.values import Placed

VERSION = 1


class HeadFacts(msgspec.Struct, frozen=True, array_like=True):
    """Titles, descriptions, robots directives, canonicals, viewport and refresh, each in the order of the document.

    ``base`` is the raw ``<base href>``, ``refresh`` the URL that a refresh leads to; both empty when there is none. ``refresh_s`` are the seconds
    until then, ``None`` also where an older release has read the document, ``bases`` how many base elements there are.
    """

    titles: tuple[Placed, ...] = ()
    descriptions: tuple[Placed, ...] = ()
    robots: tuple[Placed, ...] = ()
    canonicals: tuple[Placed, ...] = ()
    viewport: str | None = None
    refresh: str = ""
    base: str = ""
    refresh_s: int | None = None
    bases: int = 0

    @classmethod
    def collect(cls, document: Document) -> HeadFacts:
        """From a parsed document."""
        named = document.metas
        return cls(
            titles=tuple(_titles(document)),
            descriptions=tuple(named["description"]),
            robots=tuple(named["robots"]),
            canonicals=tuple(document.references.canonicals),
            viewport=next((meta.text for meta in named["viewport"]), None),
            refresh=document.references.refresh,
            base=document.base_raw,
            refresh_s=document.references.refresh_s,
            bases=len(document.elements.get("base", ())),
        )

    @property
    def title(self) -> str:
        """The title browsers show: the first in the document; empty if there is none."""
        return self.titles[0].text if self.titles else ""

    @property
    def description(self) -> str:
        """The first meta description inside the head; empty if there is none."""
        return next((d.text for d in self.descriptions if d.in_head), "")

    @property
    def canonical(self) -> str:
        """The URL the document itself names as canonical, if it counts (inside the head); empty if none."""
        return next((c.url for c in self.canonicals if c.in_head and c.url), "")

    def directives(self) -> frozenset[str]:
        """Robots directives of the document's metas that count, in lower case."""
        return frozenset(
            part.strip().lower() for meta in self.robots if meta.in_head for part in meta.text.split(",") if part.strip()
        )


def _titles(document: Document) -> Iterator[Placed]:
    for node in document.elements.get("title", ()):
        inside = node.mem_id in document.head_ids
        if inside or not is_inside(node, "svg"):
            yield Placed(clean(node.text_lexbor())[:2000], inside)


def generator_of(source: bytes) -> str:
    """The program that a page says it was made with (``meta name=generator``, WHATWG HTML, 4.2.5.1); empty when it says nothing."""
    found = LexborHTMLParser(source.decode("utf-8", "replace")).css_first('meta[name="generator" i][content]')
    return clean(found.attributes.get("content") or "")[:100] if found is not None else ""
