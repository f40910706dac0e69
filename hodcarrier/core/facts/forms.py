"""Facts of a document's forms."""

from __future__ import annotations

import msgspec

from hodcarrier.core.facts.document import Document, attribute

VERSION = 1


class FormFacts(msgspec.Struct, frozen=True, array_like=True):
    """Targets of forms that send over plain http, and the number of password fields."""

    insecure: tuple[str, ...] = ()
    password_fields: int = 0

    @classmethod
    def collect(cls, document: Document) -> FormFacts:
        """From a parsed document."""
        inputs = document.elements.get("input", ())
        passwords = sum(1 for node in inputs if attribute(node, "type").strip().lower() == "password")
        return cls(tuple(document.references.insecure_forms), passwords)
