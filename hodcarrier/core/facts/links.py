"""Facts of a document's references to other URLs."""

from __future__ import annotations

import msgspec

from hodcarrier.core.facts.document import Document
from hodcarrier.core.facts.values import Link

VERSION = 1


class LinkFacts(msgspec.Struct, frozen=True, array_like=True):
    """``all`` references to web addresses, and the attributes that are no URL (``malformed``), as written. ``scripted`` are links that only a
    script follows, with their text and their address as written (empty: none); ``reachable``: there is a link to write or to call;
    ``bare_images`` are images without alt that are all a link has, each with the link's address as written.

    A run file keeps ``all`` by itself, packed for the link graph.
    """

    all: tuple[Link, ...] = ()
    malformed: tuple[str, ...] = ()
    scripted: tuple[tuple[str, str], ...] = ()
    reachable: bool = False
    bare_images: tuple[tuple[str, str], ...] = ()

    @classmethod
    def collect(cls, document: Document) -> LinkFacts:
        """From a parsed document."""
        all_of = document.references
        return cls(
            tuple(all_of.links),
            tuple(all_of.malformed),
            tuple(dict.fromkeys(all_of.scripted)),
            all_of.reachable,
            tuple(dict.fromkeys(all_of.bare_images)),
        )
