"""Which template a document seems to be made from."""

from __future__ import annotations

import hashlib

import msgspec
from selectolax.lexbor import LexborNode

from hodcarrier.core.facts.document import Document, numbers_of
from hodcarrier.core.web.urls import path_pattern

VERSION = 1
_BLOCKS = numbers_of(
    ["body", "header", "nav", "main", "article", "section", "aside", "footer", "div", "ul", "ol", "table", "form", "dl", "figure"]
)
_LEAVES = numbers_of(["h1", "h2"])


class TemplateFacts(msgspec.Struct, frozen=True, array_like=True):
    """``key`` is equal for documents of one template: the shape of the path, and a hash of the block structure."""

    key: str = ""

    @classmethod
    def collect(cls, document: Document) -> TemplateFacts:
        """From a parsed document."""
        return cls(path_pattern(document.url) + " " + _skeleton(document))


def _skeleton(document: Document) -> str:
    """A short hash of the document's structure: which block elements with which classes stand in which, not how often."""
    shapes: set[str] = set()
    body = document.tree.body
    if body is None:
        return ""
    stack: list[tuple[LexborNode, str, int]] = [(body, "", 0)]
    while stack:
        node, path, depth = stack.pop()
        for child in node.iter():
            number = child.tag_id
            if number in _LEAVES:
                shapes.add(f"{path}/{_LEAVES[number]}")
            elif number in _BLOCKS:
                here = f"{path}/{_BLOCKS[number]}.{child.attributes.get('class') or ''}"
                shapes.add(here)
                if depth < 2:
                    stack.append((child, here, depth + 1))
    return hashlib.blake2b("\n".join(sorted(shapes)).encode("utf-8", "replace"), digest_size=4).hexdigest()
