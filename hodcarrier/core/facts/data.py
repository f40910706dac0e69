"""Facts of a document's structured data (JSON-LD)."""

from __future__ import annotations

import json
from collections import deque
from collections.abc import Iterator
from typing import Any

import msgspec

from hodcarrier.core.facts.document import Document, attribute

VERSION = 1


class DataFacts(msgspec.Struct, frozen=True, array_like=True):
    """The types that JSON-LD blocks name, each once, and the reader's words for each block that is not JSON."""

    types: tuple[str, ...] = ()
    errors: tuple[str, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> DataFacts:
        """From a parsed document."""
        types: list[str] = []
        errors: list[str] = []
        for node in document.elements.get("script", ()):
            if attribute(node, "type").strip().lower() != "application/ld+json":
                continue
            try:
                value = json.loads(node.text_lexbor(), strict=False)
            except (ValueError, RecursionError) as error:
                errors.append(str(error)[:200])
                continue
            types.extend(_types_in(value))
        return cls(tuple(dict.fromkeys(types)), tuple(errors))


def _types_in(value: Any) -> Iterator[str]:
    queue = deque([value])
    while queue:
        item = queue.popleft()
        if isinstance(item, list):
            queue.extend(item)
        elif isinstance(item, dict):
            named = item.get("@type", [])
            yield from (str(t) for t in (named if isinstance(named, list) else [named]))
            queue.extend(v for v in item.values() if isinstance(v, dict | list))
