"""Facts of a document's images."""

from __future__ import annotations

from collections.abc import Iterator

import msgspec

from hodcarrier.core.facts.document import Document, attribute
from hodcarrier.core.facts.references import TEXT_MAX
from hodcarrier.core.facts.values import Image

VERSION = 1


class MediaFacts(msgspec.Struct, frozen=True, array_like=True):
    """Every ``<img>``, in the order of the document, and the addresses, as written, of videos that show no picture before they play."""

    images: tuple[Image, ...] = ()
    posterless: tuple[str, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> MediaFacts:
        """From a parsed document."""
        return cls(tuple(document.references.images), tuple(_posterless(document)))


def _posterless(document: Document) -> Iterator[str]:
    for node in document.elements.get("video", ()):
        attributes = node.attributes
        if not attributes.get("poster") and "autoplay" not in attributes:
            source = node.css_first("source[src]")
            yield (attributes.get("src") or (attribute(source, "src") if source is not None else ""))[:TEXT_MAX]
