"""The main terms of a page: one, two and three words that its text repeats, and where else they stand."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from hodcarrier.core.facts.document import Document, attribute
from hodcarrier.core.facts.length import is_without_blanks, spaced
from hodcarrier.core.facts.text import EMPTY_WORDS, main_text
from hodcarrier.core.web.urls import Resolver, split

WORDS_MAX = 3
TERMS_SHOWN = 25
BEGINNING_WORDS = 100
# A single kana is a particle.
_KANA = re.compile("[\u3040-\u30ff]")
_WORD = re.compile(r"[^\W_]+(?:['’‐-][^\W_]+)*")
# A term does not go on over the end of a sentence or of a part of one.
_BREAK = re.compile(r"[.,;:!?()\[\]{}|/\\\n\r\t•·–—“”„\"«»]+(?=\s|$)|[\n\r\t|•·]+")

Words = list[str]


@dataclass(frozen=True)
class Term:
    """A term in lower case: how often it stands in the main text, its ``share`` of the words there in per cent, and how often in the title, the first
    H1, all headings, alternative texts, and in the texts of links that lead to the page."""

    text: str
    words: int
    count: int
    share: float
    title: int
    h1: int
    headings: int
    alts: int
    anchors: int


@dataclass(frozen=True)
class Focus:
    """Where a term that somebody typed in stands; ``beginning`` is the first :data:`BEGINNING_WORDS` words of the main text, ``url`` the path."""

    term: Term
    description: int
    beginning: int
    url: int


@dataclass(frozen=True)
class PageTerms:
    """How many words the main text has, its terms by frequency within each number of words, and the focus term, where one was asked for."""

    words: int
    terms: tuple[Term, ...]
    focus: Focus | None


class _Places:
    """The words of a page by place, each as phrases that a term cannot cross."""

    def __init__(self, document: Document, anchors: Iterable[str]) -> None:
        titles = document.elements.get("title", ())
        self.title = phrases(titles[0].text_lexbor() if titles else "")
        heads = [(level, node.text_lexbor()) for level, node in document.headings]
        self.h1 = phrases(next((text for level, text in heads if level == 1 and text.strip()), ""))
        self.headings = [phrase for _, text in heads for phrase in phrases(text)]
        metas = document.metas.get("description", ())
        self.description = phrases(metas[0].text if metas else "")
        self.alts = [phrase for node in document.elements.get("img", ()) for phrase in phrases(attribute(node, "alt"))]
        self.anchors = [phrase for text in anchors for phrase in phrases(text)]
        self.url = [words_of(re.sub(r"[-_]", " ", part)) for part in split(document.url).path.split("/") if part]
        self.text = phrases(main_text(document))  # last: it cuts the tree


def words_of(text: str) -> Words:
    """The words of a text in lower case; where a script has no blanks, a dictionary divides it."""
    return [word.casefold() for word in _WORD.findall(spaced(text))]


def phrases(text: str) -> list[Words]:
    """The words of a text, in parts that no term goes over."""
    return [words for part in _BREAK.split(text) if (words := words_of(part))]


def occurrences(places: Iterable[Sequence[str]], term: Sequence[str]) -> int:
    """How often a term stands in phrases."""
    size, first = len(term), term[0]
    wanted = list(term)
    return sum(
        words[at] == first and list(words[at : at + size]) == wanted for words in places for at in range(len(words) - size + 1)
    )


def read_terms(body: bytes, url: str, content_type: str, anchors: Iterable[str] = (), focus: str = "") -> PageTerms:
    """The main terms of a document fetched from ``url`` (normalised). ``anchors`` are the texts of links that lead to it. Never raises for any bytes."""
    found = _Places(Document(body, url, content_type, Resolver(), ()), anchors)
    total = sum(map(len, found.text))
    counts: dict[int, Counter[tuple[str, ...]]] = {size: Counter() for size in range(1, WORDS_MAX + 1)}
    for words in found.text:
        for size, counted in counts.items():
            counted.update(tuple(words[at : at + size]) for at in range(len(words) - size + 1) if tells(words[at : at + size]))
    chosen = [
        term
        for counted in counts.values()
        for term in sorted((t for t, n in counted.items() if n > 1), key=lambda t: (-counted[t], t))[:TERMS_SHOWN]
    ]
    terms = tuple(_term(found, term, total) for term in chosen)
    typed = words_of(focus)
    if not typed:
        return PageTerms(total, terms, None)
    beginning: list[Words] = []
    for words in found.text:
        left = BEGINNING_WORDS - sum(map(len, beginning))
        if left <= 0:
            break
        beginning.append(words[:left])
    asked = Focus(
        _term(found, tuple(typed), total),
        occurrences(found.description, typed),
        occurrences(beginning, typed),
        occurrences(found.url, typed),
    )
    return PageTerms(total, terms, asked)


def tells(words: Sequence[str]) -> bool:
    """Whether a term says something of a subject: its first and last word do."""
    return all(
        word not in EMPTY_WORDS and not word.isdigit() and (len(word) > 3 or not word.isascii()) and not _KANA.fullmatch(word)
        for word in (words[0], words[-1])
    )


def _joined(term: Sequence[str]) -> str:
    """A term as its script writes it: words that have no blanks between them get none."""
    return "".join(word if n == 0 or is_without_blanks(term[n - 1][-1] + word[0]) else f" {word}" for n, word in enumerate(term))


def _term(found: _Places, term: tuple[str, ...], total: int) -> Term:
    count = occurrences(found.text, term)
    return Term(
        _joined(term),
        len(term),
        count,
        round(100 * count * len(term) / total, 2) if total else 0.0,
        occurrences(found.title, term),
        occurrences(found.h1, term),
        occurrences(found.headings, term),
        occurrences(found.alts, term),
        occurrences(found.anchors, term),
    )
