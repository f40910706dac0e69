"""Facts that make a page's preview where it is shared: Open Graph and its like."""

from __future__ import annotations

import msgspec

from hodcarrier.core.facts.document import Document

VERSION = 1


class PreviewFacts(msgspec.Struct, frozen=True, array_like=True):
    """Names (in lower case) and contents of the metas that previews are made from."""

    social: tuple[tuple[str, str], ...] = ()

    @classmethod
    def collect(cls, document: Document) -> PreviewFacts:
        """From a parsed document."""
        return cls(tuple(document.social))
