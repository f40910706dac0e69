"""Facts of a document's text: headings, words of the main text, and texts it should carry."""

from __future__ import annotations

from collections.abc import Iterator

import msgspec
import numpy as np
from selectolax.lexbor import LexborNode
from xxhash import xxh3_64_hexdigest

from hodcarrier.core.facts.document import Document, attribute
from hodcarrier.core.facts.references import TEXT_MAX, clean
from hodcarrier.core.facts.values import Heading

VERSION = 1
_MARKS = b'.,;:!?()[]{}<>"`|/\\*_=+~^#@&%$'
_BLANKS = b"\t\n\r\x0b\x0c"
_JOINING_MARKS = b"'-"
_LOWER_WITHOUT_MARKS = bytes(ord(" ") if c in _MARKS + _BLANKS else ord(chr(c).lower()) if c < 128 else c for c in range(256))
_WIDE_JOINING_MARKS = [mark.encode() for mark in "’‐‑\u00ad"]
_WIDE_MARKS = [mark.encode() for mark in "´“”„‘‚«»‹›…–—·•¶§©®™→←\u00a0\u2028\u3000"]
_NOT_MAIN_TAGS = ("nav", "header", "footer", "aside", "script", "style", "noscript", "template")
_NOT_MAIN_ROLES = frozenset({"navigation", "banner", "contentinfo"})

# All of them begin with one of these bytes, but for the blank of East Asian texts, whose first byte begins half of their letters.
_TWO_BYTES, _THREE_BYTES, _WIDE_BLANK = 0xC2, 0xE2, "\u3000".encode()


class TextFacts(msgspec.Struct, frozen=True, array_like=True):
    """Headings in the order of the document, the number of words in the main text, and a hash that is equal for equal main texts.

    ``expected_missing`` are those of the plan's expected texts that the source does not hold.
    """

    headings: tuple[Heading, ...] = ()
    words: int = 0
    text_hash: str = ""
    expected_missing: tuple[str, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> TextFacts:
        """From a parsed document, whose tree is cut for this: call it last."""
        headings = tuple(_headings(document))
        words, digest = _main_text(document)
        missing = tuple(text for text in document.expected if text not in document.text)
        return cls(headings, words, digest, missing)

    @property
    def h1(self) -> str:
        """The first H1 with text."""
        return next((h.text for h in self.headings if h.level == 1 and h.text), "")


def _headings(document: Document) -> Iterator[Heading]:
    for level, node in document.headings:
        name = clean(node.text_lexbor())
        if not name:
            name = clean(" ".join(attribute(i, "alt") for i in node.css("img[alt]")))
        yield Heading(level, name[:TEXT_MAX])


def _main_text(document: Document) -> tuple[int, str]:
    """Words of the main text and its hash.

    The main text is that of ``<main>`` where there is one, else of the body without navigation, header, footer and
    asides. The tree is cut for this.
    """
    elements, roles = document.elements, document.roles
    main = next(iter(elements.get("main", ())), None) or next((n for role, n in roles if role == "main"), None)
    where = main or document.tree.body
    if where is None:
        return 0, ""
    others = [n for tag in _NOT_MAIN_TAGS for n in elements.get(tag, ())] + [n for role, n in roles if role in _NOT_MAIN_ROLES]
    for node in _outermost_inside(where, others):
        node.decompose()
    return measure_text(where.text(deep=True, separator=" "))


def _outermost_inside(where: LexborNode, nodes: list[LexborNode]) -> list[LexborNode]:
    """Those of the nodes that stand inside ``where`` and in none of the others: what is cut is never touched again."""
    ids = {node.mem_id for node in nodes}
    top = where.mem_id
    found = {}
    for node in nodes:
        above = node.parent
        while above is not None and above.mem_id != top and above.mem_id not in ids:
            above = above.parent
        if above is not None and above.mem_id == top:
            found[node.mem_id] = node
    return list(found.values())


def _wide_there(raw: bytes) -> set[bytes]:
    """Which characters that marks may be a text holds: a text has few of them, and each mark that is looked for costs a pass."""
    row = np.frombuffer(raw, np.uint8)
    there = {raw[at : at + 2] for at in np.flatnonzero(row == _TWO_BYTES).tolist()}
    there |= {raw[at : at + 3] for at in np.flatnonzero(row == _THREE_BYTES).tolist()}
    return there | {_WIDE_BLANK}


def measure_text(text: str) -> tuple[int, str]:
    """How many words a text has, and a hash of its letters and digits that leaves case, marks and spacing aside.

    A word is what is left between white space when marks are taken away; hyphens and apostrophes join what they stand
    between. Worked on UTF-8, as a row of bytes, which is many times faster than on text.
    """
    if text.isascii():
        raw = text.encode()
    else:
        raw = text.lower().encode("utf-8", "replace")
        there = _wide_there(raw)
        for mark in _WIDE_JOINING_MARKS:
            if mark in there:
                raw = raw.replace(mark, b"")
        for mark in _WIDE_MARKS:
            if mark in there:
                raw = raw.replace(mark, b" ")
    raw = raw.translate(_LOWER_WITHOUT_MARKS, _JOINING_MARKS)
    letters = np.frombuffer(b" " + raw, np.uint8) != ord(" ")
    words = int(np.count_nonzero(letters[1:] > letters[:-1]))  # a word begins where a letter follows a blank
    return words, xxh3_64_hexdigest(raw.translate(None, b" ")) if words else ""
