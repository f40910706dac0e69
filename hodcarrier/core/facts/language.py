"""Facts of a document's language and encoding."""

from __future__ import annotations

import msgspec

from hodcarrier.core.facts.document import Document, attribute
from hodcarrier.core.facts.values import Alternate
from hodcarrier.core.web.encodings import EncodingSource

VERSION = 1


class LanguageFacts(msgspec.Struct, frozen=True, array_like=True):
    """The declared language, the encoding with where it was declared (``bom``, ``header``, ``meta``, ``default``), and hreflang
    annotations. ``meta_encoding`` is what the first meta element says that declares one, whether or not it counts."""

    lang: str = ""
    encoding: str = "utf-8"
    encoding_source: EncodingSource = EncodingSource.DEFAULT
    alternates: tuple[Alternate, ...] = ()
    meta_encoding: str = ""

    @classmethod
    def collect(cls, document: Document) -> LanguageFacts:
        """From a parsed document."""
        root = document.tree.root
        return cls(
            lang=attribute(root, "lang").strip() if root else "",
            encoding=document.encoding,
            encoding_source=document.encoding_source,
            alternates=tuple(document.references.alternates),
            meta_encoding=document.declared_encoding(),
        )
