"""Facts of a document's structured data (JSON-LD)."""

from __future__ import annotations

import json
from collections import deque
from collections.abc import Iterator
from hashlib import blake2b
from typing import Any, NamedTuple

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
        for number, block in enumerate(blocks_of(document), 1):
            if block.error:
                errors.append(block.error)
                wrong.append((number, blake2b(block.text.encode("utf-8", "replace"), digest_size=4).hexdigest()))
            else:
                types.extend(_types_in(block.value))
        other = any(mark in document.text for mark in ("itemscope", "itemtype", "typeof=", "vocab="))
        other = other and document.tree.css_first("[itemscope], [itemtype], [typeof], [vocab]") is not None
        return cls(tuple(dict.fromkeys(types)), tuple(errors), tuple(wrong), other)


class Block(NamedTuple):
    """A block of JSON-LD: its text, and what it says, or the reader's words for why it is no JSON (RFC 8259)."""

    text: str
    value: Any
    error: str


def blocks_of(document: Document) -> list[Block]:
    """The blocks of JSON-LD of a document, read once for all who ask."""
    if document.blocks is None:
        scripts = document.elements.get("script", ())
        document.blocks = [_read(n.text_lexbor()) for n in scripts if _is_json_ld(n)]
    return document.blocks


def _is_json_ld(node: LexborNode) -> bool:
    return attribute(node, "type").partition(";")[0].strip().lower() == "application/ld+json"


def _read(text: str) -> Block:
    try:
        return Block(text, json.loads(text, parse_constant=_refuse), "")
    except (ValueError, RecursionError) as error:
        return Block(text, None, (str(error) or "nested too deeply")[:200])


def main_types(document: Document) -> Iterator[str]:
    """The types of the things that blocks of JSON-LD are about, without those inside them."""
    for block in blocks_of(document):
        value = block.value
        things = value if isinstance(value, list) else value.get("@graph", [value]) if isinstance(value, dict) else []
        for thing in things if isinstance(things, list) else ():
            named = thing.get("@type") if isinstance(thing, dict) else None
            if named:
                yield from (str(kind) for kind in (named if isinstance(named, list) else [named]))


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
