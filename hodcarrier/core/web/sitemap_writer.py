"""Writing sitemaps (sitemaps.org protocol 0.9) with images and versions in other languages, divided where a file would be too large."""

from __future__ import annotations

import gzip
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape, quoteattr

from hodcarrier.core.web.sitemaps import BYTES_MAX, ENTRIES_MAX, NAMESPACE

IMAGES_MAX = 1_000
_IMAGE = "http://www.google.com/schemas/sitemap-image/1.1"
_XHTML = "http://www.w3.org/1999/xhtml"
_HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n'
_END = "</urlset>\n"


@dataclass(frozen=True)
class Listing:
    """One page of a sitemap: its URL, the day of its last change (ISO 8601, empty: unknown), the URLs of its images, and its versions by code."""

    url: str
    lastmod: str = ""
    images: Sequence[str] = ()
    versions: Sequence[tuple[str, str]] = ()


@dataclass(frozen=True)
class Written:
    """A file: its name, its bytes as they are sent, and how many pages or files it lists."""

    name: str
    body: bytes
    entries: int


def write_files(listings: Iterable[Listing], base: str, *, packed: bool) -> list[Written]:
    """The files of a sitemap, the one to name in robots.txt first: an index where there are several. ``base`` is the URL of the folder that they are to
    stand in; ``packed`` compresses the parts of an index by gzip."""
    texts = list(_parts(listings))
    if len(texts) == 1:
        return [Written("sitemap.xml", texts[0][0].encode(), texts[0][1])]
    parts = [_file(n, text, entries, packed) for n, (text, entries) in enumerate(texts, 1)]
    lines = [f"<sitemap><loc>{escape(base + part.name)}</loc></sitemap>" for part in parts]
    index = f'{_HEAD}<sitemapindex xmlns="{NAMESPACE}">\n' + "\n".join(lines) + "\n</sitemapindex>\n"
    return [Written("sitemap.xml", index.encode(), len(parts)), *parts]


def _file(number: int, text: str, entries: int, packed: bool) -> Written:
    body = text.encode()
    if not packed:
        return Written(f"sitemap-{number}.xml", body, entries)
    # Without a time in its head, the same pages make the same file.
    return Written(f"sitemap-{number}.xml.gz", gzip.compress(body, 6, mtime=0), entries)


def _parts(listings: Iterable[Listing]) -> Iterator[tuple[str, int]]:
    """The texts of files, each with as many entries and bytes as the protocol allows at most; one without entries where there are none."""
    head = f'{_HEAD}<urlset xmlns="{NAMESPACE}" xmlns:xhtml="{_XHTML}" xmlns:image="{_IMAGE}">\n'
    held: list[str] = []
    size = room = len(head) + len(_END)
    written = 0
    for listing in listings:
        entry = entry_of(listing)
        length = len(entry.encode())
        if held and (len(held) >= ENTRIES_MAX or size + length > BYTES_MAX):
            yield head + "".join(held) + _END, len(held)
            written += 1
            held, size = [], room
        held.append(entry)
        size += length
    if held or not written:
        yield head + "".join(held) + _END, len(held)


def entry_of(listing: Listing) -> str:
    """One page as an element of a sitemap."""
    lines = [f"<url><loc>{escape(listing.url)}</loc>"]
    if listing.lastmod:
        lines.append(f"<lastmod>{escape(listing.lastmod)}</lastmod>")
    lines += [f'<xhtml:link rel="alternate" hreflang={quoteattr(code)} href={quoteattr(url)}/>' for code, url in listing.versions]
    lines += [f"<image:image><image:loc>{escape(url)}</image:loc></image:image>" for url in listing.images[:IMAGES_MAX]]
    return "".join(lines) + "</url>\n"
