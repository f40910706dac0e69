"""Facts of a document's references to other URLs."""

from __future__ import annotations

import msgspec

from hodcarrier.core.facts.document import Document
from hodcarrier.core.facts.values import Link

VERSION = 1


class LinkFacts(msgspec.Struct, frozen=True, array_like=True):
    """``all`` references to web addresses, and the attributes that are no URL (``malformed``), as written.

    A run file keeps ``all`` by itself, packed for the link graph.
    """

    all: tuple[Link, ...] = ()
    malformed: tuple[str, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> LinkFacts:
        """From a parsed document."""
        return cls(tuple(document.references.links), tuple(document.references.malformed))
