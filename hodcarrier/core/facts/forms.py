"""Facts of a document's forms."""

from __future__ import annotations

import msgspec

from hodcarrier.core.facts.document import Document, attribute
from hodcarrier.core.facts.flaws import KEPT_MAX, unlabelled

VERSION = 1


class FormFacts(msgspec.Struct, frozen=True, array_like=True):
    """Targets of forms that send over plain http, the number of password fields, and fields without a label."""

    insecure: tuple[str, ...] = ()
    password_fields: int = 0
    unlabelled: tuple[str, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> FormFacts:
        """From a parsed document."""
        inputs = document.elements.get("input", ())
        passwords = sum(1 for node in inputs if attribute(node, "type").strip().lower() == "password")
        fields = tuple(dict.fromkeys(unlabelled(document)))[:KEPT_MAX]
        return cls(tuple(document.references.insecure_forms), passwords, fields)
