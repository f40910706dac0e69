"""Facts of a document's images."""

from __future__ import annotations

import msgspec

from hodcarrier.core.facts.document import Document
from hodcarrier.core.facts.values import Image

VERSION = 1


class MediaFacts(msgspec.Struct, frozen=True, array_like=True):
    """Every ``<img>``, in the order of the document."""

    images: tuple[Image, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> MediaFacts:
        """From a parsed document."""
        return cls(tuple(document.references.images))
