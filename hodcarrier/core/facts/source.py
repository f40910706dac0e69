"""The source of a document: where an element stands in it, as it was written, and a selector that finds that element alone.

The tree tells which element a selector means; the place in the source is found by its start tag, because the parser keeps no positions.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from collections.abc import Iterator
from functools import cached_property
from html import unescape

import msgspec
from selectolax.lexbor import LexborHTMLParser, LexborNode, SelectolaxError

from hodcarrier.core.facts.references import clean
from hodcarrier.core.web import encodings

SNIPPET_MAX = 400
HOLDS_MAX = 60
# Elements whose content is text up to their end tag, and comments: what looks like a tag in there is none (WHATWG HTML, 13.2.5).
_HIDING = re.compile(
    r"<!--.*?(?:-->|--!>|\Z)|<(?P<name>script|style|textarea|title|xmp|iframe|noembed|noframes)(?=[\s/>]).*?(?:</(?P=name)(?=[\s/>])|\Z)",
    re.DOTALL | re.IGNORECASE,
)
_ATTRIBUTE = (
    r"""(?P<name>[^\s/>=][^\s/>=]*+)(?:\s*+=\s*+(?:"(?P<double>[^"]*+)"|'(?P<single>[^']*+)'|(?P<bare>[^\s>"'][^\s>]*+)))?+"""
)
ATTRIBUTE = re.compile(_ATTRIBUTE)
_INSIDE = r"""(?:[\s/]++|[^\s/>=][^\s/>=]*+(?:\s*+=\s*+(?:"[^"]*+"|'[^']*+'|[^\s>"'][^\s>]*+))?+|=)*+"""
START_TAG = re.compile(rf"<(?P<tag>[a-zA-Z][^\s/>]*+)(?P<inside>{_INSIDE})>")
_LINE_END = re.compile(r"\r\n|\r|\n")
# Elements without an end tag (WHATWG HTML, 13.1.2), and those of which only the start tag is shown.
_ALONE = frozenset(
    [
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "source",
        "track",
        "wbr",
        "html",
        "head",
        "body",
        "frameset",
    ]
)


class Spot(msgspec.Struct, frozen=True):
    """Where something stands: line and column from 1 on (0: not in the source, the parser has added it), as it is written there, and the
    selector that finds it alone in the parsed document (empty: it is no element)."""

    line: int
    column: int
    snippet: str
    selector: str


class Source:
    """The source of one document. Never raises for any bytes; ``encoding`` is the one that it was read in."""

    def __init__(self, body: bytes, encoding: str) -> None:
        self.text = encodings.decode(body, encoding)

    @cached_property
    def tree(self) -> LexborHTMLParser:
        """The document as browsers build it."""
        return LexborHTMLParser(self.text.replace("\x00", "\ufffd"))

    @cached_property
    def _lines(self) -> list[int]:
        return [0, *(found.end() for found in _LINE_END.finditer(self.text))]

    @cached_property
    def _hidden(self) -> tuple[list[int], list[int]]:
        spans = [found.span() for found in _HIDING.finditer(self.text)]
        return [start for start, _ in spans], [end for _, end in spans]

    def find(self, selector: str, holds: str = "", number: int = 1) -> Spot | None:
        """The element that a selector means: of several the first that holds a text, or else the one of this number. ``None``: there is none."""
        nodes = self._all(selector)
        if not nodes:
            return None
        node = nodes[number - 1] if 1 <= number <= len(nodes) else nodes[0]
        if holds and len(nodes) > 1:
            wanted = clean(holds)[:HOLDS_MAX]
            node = next((each for each in nodes if _holds(each, wanted)), node)
        exact = selector if len(nodes) == 1 else self._path(node) or selector
        start = self._start_of(node)
        if start is None:
            return Spot(0, 0, "", exact)
        line, column = self._place(start)
        return Spot(line, column, self._snippet(node.tag or "", start), exact)

    def _all(self, selector: str) -> list[LexborNode]:
        """The elements that a selector finds; none for one that cannot be read, such as the name of an element that holds a quote."""
        try:
            return self.tree.css(selector)
        except (SelectolaxError, ValueError, RuntimeError):
            return []

    def find_text(self, text: str) -> Spot | None:
        """The line in which a text stands, white space apart; ``None`` when it does not stand there as it is."""
        words = text.split()
        if not words:
            return None
        found = re.search(r"\s+".join(map(re.escape, words)), self.text)
        if found is None:
            return None
        line, column = self._place(found.start())
        return Spot(line, column, found.group()[:SNIPPET_MAX], "")

    def line(self, number: int, column: int = 1) -> Spot | None:
        """A line of the source; ``None`` when it has no line of that number."""
        if not 1 <= number <= len(self._lines):
            return None
        start = self._lines[number - 1]
        end = self._lines[number] if number < len(self._lines) else len(self.text)
        return Spot(number, column, self.text[start:end].strip()[:SNIPPET_MAX], "")

    def _place(self, offset: int) -> tuple[int, int]:
        line = bisect_right(self._lines, offset)
        return line, offset - self._lines[line - 1] + 1

    def _start_tags(self, tag: str) -> Iterator[re.Match[str]]:
        """The start tags of a name, in the order of the source."""
        starts, ends = self._hidden
        for found in re.finditer(rf"<{re.escape(tag)}(?=[\s/>])", self.text, re.IGNORECASE):
            at = found.start()
            span = bisect_right(starts, at) - 1
            if span >= 0 and starts[span] < at < ends[span]:
                continue
            whole = START_TAG.match(self.text, at)
            if whole is not None:
                yield whole

    def _start_of(self, node: LexborNode) -> int | None:
        """Where the start tag of an element begins: that with its attributes, the first for the first element that has just these, and so on."""
        tag = node.tag or ""
        own = _attributes_of(node)
        alike = [each for each in self._all(tag) if _attributes_of(each) == own]
        tags = [found for found in self._start_tags(tag) if attributes_in(found["inside"]) == own]
        position = next((n for n, each in enumerate(alike) if each.mem_id == node.mem_id), None)
        return tags[position].start() if position is not None and position < len(tags) else None

    def _snippet(self, tag: str, start: int) -> str:
        opened = START_TAG.match(self.text, start)
        if opened is None:
            return ""
        end = opened.end()
        if tag not in _ALONE:
            closed = re.compile(rf"</{re.escape(tag)}\s*>", re.IGNORECASE).search(self.text, end, start + SNIPPET_MAX)
            inner = re.compile(rf"<{re.escape(tag)}(?=[\s/>])", re.IGNORECASE)
            if closed is not None and not inner.search(self.text, end, closed.start()):
                return self.text[start : closed.end()]
        if end - start > SNIPPET_MAX:
            return self.text[start : start + SNIPPET_MAX] + "…"
        return self.text[start:end] + ("" if tag in _ALONE else "…")

    def _path(self, node: LexborNode) -> str:
        """A path of elements that leads to one alone; empty when there is none that does."""
        steps: list[str] = []
        at: LexborNode | None = node
        while at is not None and at.tag not in ("html", "-undef", None):
            name = _attributes_of(at).get("id", "")
            if name and '"' not in name and "\\" not in name and len(self._all(f'[id="{name}"]')) == 1:
                steps.append(f'[id="{name}"]')
                break
            steps.append(_step(at))
            at = at.parent
        path = " > ".join(reversed(steps))
        found = self._all(path) if path else []
        return path if len(found) == 1 and found[0].mem_id == node.mem_id else ""


def _step(node: LexborNode) -> str:
    tag = node.tag or ""
    alike = [each for each in node.parent.iter() if each.tag == tag] if node.parent is not None else []
    if len(alike) < 2:
        return tag
    return f"{tag}:nth-of-type({next(n for n, each in enumerate(alike, 1) if each.mem_id == node.mem_id)})"


def _holds(node: LexborNode, wanted: str) -> bool:
    return wanted in clean(node.text(deep=True)) or wanted in map(clean, _attributes_of(node).values())


def _attributes_of(node: LexborNode) -> dict[str, str]:
    return {name: value or "" for name, value in node.attributes.items()}


def attributes_in(inside: str) -> dict[str, str]:
    """The attributes that are written in a start tag; of a name that stands there twice the first counts."""
    found: dict[str, str] = {}
    for match in ATTRIBUTE.finditer(inside):
        value = match["double"] or match["single"] or match["bare"] or ""
        found.setdefault(match["name"].lower(), _LINE_END.sub("\n", unescape(value)) if value else "")
    return found
