"""Facts of a document's text: headings, words of the main text, and texts it should carry."""

from __future__ import annotations

import re
from collections.abc import Iterator

import msgspec
import numpy as np
from selectolax.lexbor import LexborNode
from xxhash import xxh3_64_hexdigest

from hodcarrier.core.facts.document import Document, attribute
from hodcarrier.core.facts.length import words_without_blanks
from hodcarrier.core.facts.reading import effort_of, fillers_in, garbled_in, language_of, simhash
from hodcarrier.core.facts.references import TEXT_MAX, clean
from hodcarrier.core.facts.values import Heading

VERSION = 1
_MARKS = b'.,;:!?()[]{}<>"`|/\\*_=+~^#@&%$'
_BLANKS = b"\t\n\r\x0b\x0c"
_BLANK = ord(" ")
_JOINING_MARKS = b"'-"
_LOWER_WITHOUT_MARKS = bytes(ord(" ") if c in _MARKS + _BLANKS else ord(chr(c).lower()) if c < 128 else c for c in range(256))
_WIDE_JOINING_MARKS = "’‐‑\u00ad"
_WIDE_MARKS = "´“”„‘‚«»‹›…–—·•¶§©®™→←\u00a0\u2028"
_WIDE_BLANK = "\u3000".encode()  # of East Asian texts; its first byte begins half of their letters
_NOT_SEEN_TAGS = ("script", "style", "noscript", "template")
# A term is a word of a script that divides words by blanks: Latin, Greek, Cyrillic, in lower case.
_TERM = re.compile(r"[a-z\u00df-\u052f]{4,}")
# Words of four letters and more that say nothing of a subject, in the languages that titles are most often in.
EMPTY_WORDS = frozenset(
    _TERM.findall(
        "about after also among because been before best between could does done each even every first from good have here into just know like made"
        " make many more most much need only other over page some such take than that their them then there these they this those through under until"
        " very want well were what when where which while will with would year your yours aber alle alles auch beim damit dann dass denn dich dein"
        " deine diese dieser dieses doch durch eine einem einen einer eines eure euer ganz gegen haben hier ihre ihrem ihren ihrer immer jede jeder"
        " kann kein keine mehr mein meine nach nicht noch ohne oder schon sehr seine seiner sich sind über unser unsere unserem unserer unter viele"
        " wenn werden wird wurde zwischen aussi avec avant cette chez comme dans dont elle entre leur mais notre nous pour quand sans sont sous"
        " tous tout toute très vers votre vous ainda como cuando desde donde ella esta este esto hasta para pero porque sobre todo todos alla"
        " anche come dalla dalle della delle degli dove nella nelle nostro nostra ogni perché questa questo sono tutti tutto"
    )
)
BEGINNING_CHARS = 6_000
PARAGRAPH_CHARS_MIN = 500
PARAGRAPH_WORDS_MIN = 100
PARAGRAPHS_KEPT = 5
_NOT_MAIN_TAGS = ("nav", "header", "footer", "aside", "script", "style", "noscript", "template")
_NOT_MAIN_ROLES = frozenset({"navigation", "banner", "contentinfo"})

# All marks but one begin with 0xC2, and have one byte more (U+0080 to U+00BF), or with 0xE2, and have two (U+2000 to U+2FFF).
# What becomes of a character by the bits of those: itself, blanks, or joining marks, which are taken out afterwards.
_TWO, _THREE = 0xC2, 0xE2
_KEEP, _AS_BLANK, _AS_JOIN = range(3)
# Bytes that begin characters of scripts without blanks between words.
_MAY_LACK_BLANKS = np.zeros(256, bool)
_MAY_LACK_BLANKS[[0xE0, 0xE1, *range(0xE3, 0xEA), 0xEF, 0xF0]] = True
# Bytes that begin characters with another lower case. In the block of 0xE2 it is told character by character.
_CAPITALS = np.zeros(256, bool)
_CAPITALS[[*range(0xC3, 0xE0), 0xE1, 0xEA, 0xEF, *range(0xF0, 0xF5)]] = True


class TextFacts(msgspec.Struct, frozen=True, array_like=True):
    """Headings in the order of the document, the number of words in the main text, and a hash that is equal for equal main texts.

    ``expected_missing`` are those of the plan's expected texts that the source does not hold. ``visible_bytes`` are those of all text of the
    page, without white space (-1: not measured), ``simhash`` tells main texts that are nearly alike (0: too short to tell), ``language`` is
    the one that the main text is in, where that is certain, ``fillers`` and ``garbled`` what is wrong in it, ``long_paragraphs`` the words and
    the beginning of its longest paragraphs, ``effort`` the sentences, words and long words of its paragraphs, ``topic`` the terms that title
    and H1 share, ``topic_missing`` those of them that nothing but headings uses.
    """

    headings: tuple[Heading, ...] = ()
    words: int = 0
    text_hash: str = ""
    expected_missing: tuple[str, ...] = ()
    visible_bytes: int = -1
    simhash: int = 0
    language: str = ""
    fillers: tuple[str, ...] = ()
    garbled: tuple[tuple[str, str], ...] = ()
    long_paragraphs: tuple[tuple[int, str], ...] = ()
    effort: tuple[int, int, int] = (0, 0, 0)
    topic: tuple[str, ...] = ()
    topic_missing: tuple[str, ...] = ()

    @classmethod
    def collect(cls, document: Document) -> TextFacts:
        """From a parsed document, whose tree is cut for this: call it last."""
        headings = tuple(_headings(document))
        visible = _visible_bytes(document)
        paragraphs = [node.text_lexbor() for node in document.elements.get("p", ())]
        text = main_text(document)
        words, digest, near = measure_text(text)
        missing = tuple(text for text in document.expected if text not in document.text)
        topic, unused = _topic(document, headings, text)
        return cls(
            headings,
            words,
            digest,
            missing,
            visible_bytes=visible,
            simhash=near,
            language=language_of(text),
            fillers=fillers_in(text),
            garbled=garbled_in(text),
            long_paragraphs=tuple(_long(paragraphs)),
            effort=effort_of(paragraphs),
            topic=topic,
            topic_missing=unused,
        )

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


def _visible_bytes(document: Document) -> int:
    """The bytes of all text of the body, scripts and white space apart."""
    body = document.tree.body
    if body is None:
        return 0
    apart = [n for tag in _NOT_SEEN_TAGS for n in document.elements.get(tag, ()) if n.mem_id not in document.head_ids]
    return _inked(body.text_lexbor()) - sum(_inked(node.text_lexbor()) for node in apart)


def _inked(text: str) -> int:
    return int(np.count_nonzero(np.frombuffer(text.encode("utf-8", "replace"), np.uint8) > _BLANK))


def _long(paragraphs: list[str]) -> list[tuple[int, str]]:
    """The longest of the paragraphs, of those that may be too long for some plan."""
    found = []
    for text in paragraphs:
        if len(text) > PARAGRAPH_CHARS_MIN and (words := len(text.split())) >= PARAGRAPH_WORDS_MIN:
            found.append((words, clean(text[:400])[:80]))
    return sorted(found, reverse=True)[:PARAGRAPHS_KEPT]


def _topic(document: Document, headings: tuple[Heading, ...], text: str) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """The terms that title and H1 share, and those of them that the main text uses nowhere but in the H1. Endings are left aside."""
    titles = document.elements.get("title", ())
    main = next((h.text for h in headings if h.level == 1 and h.text), "").lower()
    if not titles or not main:
        return (), ()
    said = set(_TERM.findall(main))
    terms = tuple(dict.fromkeys(t for t in _TERM.findall(titles[0].text_lexbor().lower()) if t in said and t not in EMPTY_WORDS))
    if not terms:
        return (), ()
    stems = {term: term[: max(4, len(term) - 2)] for term in terms}
    # Most terms are found in the beginning; only for the others the whole text is put in lower case.
    for part in (text[:BEGINNING_CHARS], text):
        lower = part.lower()
        stems = {term: stem for term, stem in stems.items() if lower.count(stem) <= main.count(stem)}
        if not stems:
            break
    return terms, tuple(stems)


def main_text(document: Document) -> str:
    """The main text.

    The main text is that of ``<main>`` where there is one, else of the body without navigation, header, footer and
    asides. The tree is cut for this.
    """
    elements, roles = document.elements, document.roles
    main = next(iter(elements.get("main", ())), None) or next((n for role, n in roles if role == "main"), None)
    where = main or document.tree.body
    if where is None:
        return ""
    others = [n for tag in _NOT_MAIN_TAGS for n in elements.get(tag, ())] + [n for role, n in roles if role in _NOT_MAIN_ROLES]
    for node in _outermost_inside(where, others):
        node.decompose()
    return where.text(deep=True, separator=" ")


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


def _fate(first: int, count: int) -> np.ndarray:
    """What becomes of each of the characters from ``first`` on."""
    characters = map(chr, range(first, first + count))
    return np.array(
        [_AS_JOIN if c in _WIDE_JOINING_MARKS else _AS_BLANK if c in _WIDE_MARKS else _KEEP for c in characters], np.uint8
    )


_FATE_OF_TWO = _fate(0x80, 64)
_FATE_OF_THREE = _fate(0x2000, 4096)
_CAPITAL_OF_THREE = np.array([chr(c).lower() != chr(c) for c in range(0x2000, 0x3000)])


def _utf8(text: str) -> bytearray:
    """The text as UTF-8 with marks beyond ASCII as blanks or joining marks, and letters beyond ASCII in lower case."""
    raw = bytearray(text.encode("utf-8", "replace"))
    row = np.frombuffer(raw, np.uint8)
    threes = (row == _THREE).nonzero()[0]
    which = (row[threes + 1] & 0x3F).astype(np.intp) << 6 | row[threes + 2] & 0x3F
    if _CAPITALS[row[row > _TWO]].any() or _CAPITAL_OF_THREE[which].any():
        lower = text.lower().encode("utf-8", "replace")
        if lower != raw:
            raw = bytearray(lower)
            row = np.frombuffer(raw, np.uint8)
            threes = (row == _THREE).nonzero()[0]
            which = (row[threes + 1] & 0x3F).astype(np.intp) << 6 | row[threes + 2] & 0x3F
    twos = (row == _TWO).nonzero()[0]
    for starts, fates, length in ((twos, _FATE_OF_TWO[row[twos + 1] & 0x3F], 2), (threes, _FATE_OF_THREE[which], 3)):
        for fate, byte in ((_AS_BLANK, _BLANK), (_AS_JOIN, _JOINING_MARKS[0])):
            places = starts[fates == fate]
            for at in range(length if len(places) else 0):
                row[places + at] = byte
    return raw.replace(_WIDE_BLANK, b" ") if _WIDE_BLANK in raw else raw


def measure_text(text: str) -> tuple[int, str, int]:
    """How many words a text has, a hash of its letters and digits that leaves case, marks and spacing aside, and one that is nearly equal
    for texts that are nearly so (0 where the text is short, or in a script without blanks).

    A word is what is left between white space when marks are taken away; hyphens and apostrophes join what they stand
    between. Where a script has no blanks, a dictionary divides it. Worked on UTF-8, as a row of bytes, which is many times faster than on text.
    """
    if text.isascii():
        raw: bytes | bytearray = text.encode()
    else:
        raw = _utf8(text)
        row = np.frombuffer(raw, np.uint8)
        if _MAY_LACK_BLANKS[row[row > _TWO]].any():
            apart, rest = words_without_blanks(text)
            if apart:
                return apart + measure_text(rest)[0], _digest(raw), 0
    raw = raw.translate(_LOWER_WITHOUT_MARKS, _JOINING_MARKS)
    letters = np.frombuffer(raw, np.uint8) != _BLANK
    # A word begins where a letter follows a blank, or the text begins.
    words = int(np.count_nonzero(letters[1:] > letters[:-1])) + bool(letters[:1].any())
    return words, xxh3_64_hexdigest(raw.translate(None, b" ")) if words else "", simhash(raw)


def _digest(raw: bytearray) -> str:
    return xxh3_64_hexdigest(raw.translate(_LOWER_WITHOUT_MARKS, _JOINING_MARKS).translate(None, b" "))
