"""Facts of a document's structured data (JSON-LD)."""

from __future__ import annotations

import json
from collections import deque
from collections.abc import Iterator
from hashlib import blake2b
from typing import Any

import msgspec
from selectolax.lexbor import LexborNode

from hodcarrier.core.facts.document import Document, attribute

VERSION = 1


class DataFacts(msgspec.Struct, frozen=True, array_like=True):
    """The types that JSON-LD blocks name, each once, and of each block that is not JSON (RFC 8259) the reader's words, its number among the
    blocks of the document, from 1 on, and a digest of its text. ``other_forms``: there is microdata or RDFa."""

    types: tuple[str, ...] = ()
    errors: tuple[str, ...] = ()
    wrong_blocks: tuple[tuple[int, str], ...] = ()
    other_forms: bool = False

    @classmethod
    def collect(cls, document: Document) -> DataFacts:
        """From a parsed document."""
        types: list[str] = []
        errors: list[str] = []
        wrong: list[tuple[int, str]] = []
        number = 0
        for node in document.elements.get("script", ()):
            if not is_json_ld(node):
                continue
            number += 1
            text = node.text_lexbor()
            try:
                value = json.loads(text, parse_constant=_refuse)
            except (ValueError, RecursionError) as error:
                errors.append((str(error) or "nested too deeply")[:200])
                wrong.append((number, blake2b(text.encode("utf-8", "replace"), digest_size=4).hexdigest()))
                continue
            types.extend(_types_in(value))
        other = any(mark in document.text for mark in ("itemscope", "itemtype", "typeof=", "vocab="))
        other = other and document.tree.css_first("[itemscope], [itemtype], [typeof], [vocab]") is not None
        return cls(tuple(dict.fromkeys(types)), tuple(errors), tuple(wrong), other)


def is_json_ld(node: LexborNode) -> bool:
    """Whether a script is a block of JSON-LD."""
    return attribute(node, "type").partition(";")[0].strip().lower() == "application/ld+json"


def types_of(text: str) -> tuple[str, ...]:
    """The types of the things that a block of JSON-LD is about, without those inside them; none when it is no JSON."""
    try:
        value = json.loads(text)
    except (ValueError, RecursionError):
        return ()
    things = value if isinstance(value, list) else value.get("@graph", [value]) if isinstance(value, dict) else []
    found = [thing.get("@type") for thing in things if isinstance(thing, dict)] if isinstance(things, list) else []
    return tuple(str(kind) for named in found if named for kind in (named if isinstance(named, list) else [named]))


def _refuse(constant: str) -> None:
    raise ValueError(f"{constant} is no number of JSON")


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
