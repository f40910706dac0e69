"""What a document shows of the template it is made from."""

from __future__ import annotations

import hashlib

import msgspec
from selectolax.lexbor import LexborNode

from hodcarrier.core.facts.data import main_types
from hodcarrier.core.facts.document import Document, attribute, numbers_of
from hodcarrier.core.web.urls import path_pattern

VERSION = 1
_BLOCKS = numbers_of(
    ["body", "header", "nav", "main", "article", "section", "aside", "footer", "div", "ul", "ol", "table", "form", "dl", "figure"]
)
_LEAVES = numbers_of(["h1", "h2"])
_BARE = numbers_of(
    ["img", "picture", "video", "iframe", "button", "pre", "blockquote", "details", "hr", "svg", "time", "address"]
)
_LANDMARKS = frozenset({"header", "nav", "main", "article", "section", "aside", "footer", "form"})
# Repeated blocks look alike, and what lies deep is the author's.
CHILDREN_MAX = 40
DEPTH_MAX = 4
MARKS_MAX = 200


class TemplateFacts(msgspec.Struct, frozen=True, array_like=True):
    """``key`` tells when a document is built otherwise than before: the shape of its path, and a hash of its block structure. ``marks`` are what
    templates leave in documents, from which a whole site tells its templates apart (:mod:`hodcarrier.core.judge.templates`); a run file keeps them by
    themselves.
    """

    key: str = ""
    marks: tuple[str, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> TemplateFacts:
        """From a parsed document."""
        return cls(path_pattern(document.url) + " " + _skeleton(document), tuple(sorted(_marks(document))))


def _marks(document: Document) -> set[str]:
    """Classes of blocks and of the body, landmarks, what the main part is made of, and the kinds of thing that data says the page is about."""
    found = {f"data {kind[:60]}" for kind in main_types(document)}
    found.update(f"og {value[:60]}" for name, value in document.social if name == "og:type")
    body = document.tree.body
    if body is None:
        return found
    found.update(f"body.{name[:60]}" for name in attribute(body, "class").split())
    stack: list[tuple[LexborNode, int, bool]] = [(body, 0, False)]
    while stack and len(found) < MARKS_MAX:
        node, depth, in_main = stack.pop()
        for _, child in zip(range(CHILDREN_MAX), node.iter(), strict=False):
            name = _BLOCKS.get(child.tag_id)
            if name is None:
                if in_main and child.tag_id in _BARE:
                    found.add(f"main>{_BARE[child.tag_id]}")
                continue
            classes = child.attributes.get("class")
            if classes:
                found.update(f"{name}.{each[:60]}" for each in classes.split())
            elif name in _LANDMARKS:
                found.add(name)
            if in_main:
                found.add(f"main>{name}")
            if depth < DEPTH_MAX:
                stack.append((child, depth + 1, name in ("main", "article")))
    return found


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
