"""Sitemaps: XML, index, plain text, RSS and Atom (sitemaps.org protocol 0.9).

The XML is read as a stream with entity declarations and external references refused, so a hostile document costs no
more than its length. Of a file with more entries than the protocol allows, only as many are read.
"""

from __future__ import annotations

import io
import re
import zlib
from dataclasses import dataclass
from xml.etree.ElementTree import Element, ParseError

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import iterparse

NAMESPACE = "http://www.sitemaps.org/schemas/sitemap/0.9"
XHTML_LINK = "{http://www.w3.org/1999/xhtml}link"
ENTRIES_MAX = 50_000
BYTES_MAX = 50 * 1024 * 1024
_DATETIME = re.compile(
    r"\d{4}(?:-(?:0[1-9]|1[0-2])(?:-(?:0[1-9]|[12]\d|3[01])(?:T(?:[01]\d|2[0-3]):[0-5]\d(?::[0-5]\d(?:\.\d+)?)?(?:Z|[+-]\d\d:\d\d))?)?)?"
)
DEPTH_MAX = 50
ELEMENTS_MAX = 2_000_000


@dataclass(frozen=True, slots=True)
class Entry:
    """One listed address as written, with its ``lastmod`` as written, and its versions in other languages (``xhtml:link``): codes and
    addresses as written."""

    loc: str
    lastmod: str = ""
    alternates: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class Sitemap:
    """What a sitemap file holds.

    ``kind`` is ``urlset``, ``index``, ``feed``, ``text`` or ``unknown``; ``problems`` are message keys in the order
    met: ``not-well-formed``, ``wrong-root``, ``wrong-namespace``, ``no-loc``, ``too-large``, ``too-many``, ``not-gzip``.
    """

    kind: str
    entries: tuple[Entry, ...]
    problems: tuple[str, ...] = ()
    size_bytes: int = 0


def is_w3c_datetime(text: str) -> bool:
    """Whether a date is in one of the forms of W3C's note on date and time formats, on which the protocol rests."""
    return bool(_DATETIME.fullmatch(text))


def read(body: bytes) -> Sitemap:
    """Read a sitemap of any form from its bytes (gzip is recognised by its magic number). Never fails."""
    problems: list[str] = []
    if body[:2] == b"\x1f\x8b":
        try:
            inflater = zlib.decompressobj(31)
            body = inflater.decompress(body, BYTES_MAX + 1)
        except zlib.error:
            return Sitemap("unknown", (), ("not-gzip",), len(body))
    if len(body) > BYTES_MAX:
        problems.append("too-large")
        body = body[:BYTES_MAX]
    head = body[:1024].lstrip(b"\xef\xbb\xbf \t\r\n")
    if not head.startswith(b"<"):
        kind, entries = _read_text(body)
        if kind == "unknown":
            problems.append("not-well-formed")
    else:
        kind, entries = _read_xml(body, problems)
    if "too-large" in problems:
        problems = ["too-large"]  # what was cut off cannot be judged
    if len(entries) > ENTRIES_MAX:
        problems.append("too-many")
    return Sitemap(kind, tuple(entries[:ENTRIES_MAX]), tuple(dict.fromkeys(problems)), len(body))


def _read_text(body: bytes) -> tuple[str, list[Entry]]:
    any_line, web = False, []
    for line in io.TextIOWrapper(io.BytesIO(body), "utf-8-sig", "replace"):
        text = line.strip()
        any_line = any_line or bool(text)
        if text.startswith(("http://", "https://")):
            web.append(Entry(text))
            if len(web) > ENTRIES_MAX:
                break
    return ("text" if web or not any_line else "unknown"), web


class _InLargeParts(io.BytesIO):
    """Gives a megabyte whenever it is asked for less. The parser begins a comment or a text that does not end in a part anew with the next one: in parts
    of 16 KB, a comment of 50 MB took it two minutes."""

    def read(self, _size: int | None = -1, /) -> bytes:
        return super().read(1 << 20)


def _read_xml(body: bytes, problems: list[str]) -> tuple[str, list[Entry]]:
    entries: list[Entry] = []
    kind = "unknown"
    above: list[Element] = []
    count = 0
    try:
        for event, node in iterparse(_InLargeParts(body), events=("start", "end"), forbid_dtd=False):
            if event == "start":
                above.append(node)
                count += 1
                if len(above) == 1:
                    kind = _kind_of(node, problems)
                    if kind == "unknown":
                        return kind, []
                elif len(above) > DEPTH_MAX or count > ELEMENTS_MAX:
                    problems.append("too-large")
                    break
                continue
            above.pop()
            if len(above) == 1 or (len(above) == 2 and _local(above[-1]) == "channel"):
                if _local(node) in ("url", "sitemap", "item", "entry"):
                    entry = _entry(node)
                    if entry.loc:
                        entries.append(entry)
                        if len(entries) > ENTRIES_MAX:
                            break
                    else:
                        problems.append("no-loc")
                above[-1].remove(node)  # what has been read is forgotten, whatever it was
    except (ParseError, DefusedXmlException, ValueError, LookupError):
        problems.append("not-well-formed")
    return kind, entries


def _kind_of(root: Element, problems: list[str]) -> str:
    name = _local(root)
    kind = {"urlset": "urlset", "sitemapindex": "index", "rss": "feed", "feed": "feed"}.get(name, "unknown")
    if kind == "unknown":
        problems.append("wrong-root")
    elif kind in ("urlset", "index") and not root.tag.startswith("{" + NAMESPACE + "}"):
        problems.append("wrong-namespace")
    return kind


def _entry(node: Element) -> Entry:
    loc = lastmod = ""
    alternates = []
    for child in node:
        name, text = _local(child), (child.text or "").strip()
        if child.tag == XHTML_LINK:
            if "alternate" in child.get("rel", "").lower().split() and child.get("hreflang"):
                alternates.append((child.get("hreflang", "").strip(), child.get("href", "").strip()))
        elif name == "loc" or (name == "link" and not loc):
            loc = text or child.get("href", "")
        elif name in ("lastmod", "pubDate", "updated"):
            lastmod = text
    return Entry(loc, lastmod, tuple(alternates))


def _local(node: Element) -> str:
    return node.tag.rpartition("}")[2] if isinstance(node.tag, str) else ""
