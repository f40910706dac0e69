"""The parts that simulated sites are made of: resources, a theme, and a builder."""

from __future__ import annotations

import json
import re
import struct
import zlib
from dataclasses import dataclass, field
from html import escape
from typing import Literal


@dataclass(frozen=True)
class Resource:
    """One answer of a simulated site. ``wait_s`` delays it; ``manner`` is how it fails its reader: the connection is closed before it
    (``none``) or half way through it (``cut``), or it comes as HTTP/1.0 (``old``)."""

    body: bytes = b""
    status: int = 200
    content_type: str = "text/html; charset=utf-8"
    headers: tuple[tuple[str, str], ...] = ()
    wait_s: float = 0.0
    manner: Literal["", "none", "cut", "old"] = ""


@dataclass
class Theme:
    """How a site's pages look to a machine: what its template writes and what it leaves out."""

    name: str
    origin: str
    menu: list[tuple[str, str]]
    lang: str = "en"
    footer: list[tuple[str, str]] = field(default_factory=list)
    viewport: str | None = "width=device-width, initial-scale=1"
    doctype: bool = True
    canonical: bool = True
    social: bool = True
    head_first: str = ""
    menu_extra: str = ""
    icon: bool = True
    # The origin that canonicals name, where it is another than the site's own.
    real: str = ""


@dataclass
class Page:
    """What is particular about one page."""

    path: str
    title: str
    body: str
    description: str | None = None
    h1: str | None = ""
    head: str = ""
    canonical: str | None = None
    robots: str = ""
    lang: str = ""
    alternates: list[tuple[str, str]] = field(default_factory=list)
    data: dict[str, object] | None = None
    broken_data: bool = False


def render(theme: Theme, page: Page) -> bytes:
    """The HTML of a page in a theme."""
    head = ['<meta charset="utf-8">', theme.head_first]
    if page.title is not None:
        head.append(f"<title>{escape(page.title)}</title>")
    if theme.viewport:
        head.append(f'<meta name="viewport" content="{theme.viewport}">')
    if page.description is not None:
        head.append(f'<meta name="description" content="{escape(page.description)}">')
    if page.robots:
        head.append(f'<meta name="robots" content="{page.robots}">')
    if theme.canonical and page.canonical != "":
        head.append(f'<link rel="canonical" href="{page.canonical or (theme.real or theme.origin) + page.path}">')
    if theme.social:
        head.append(f'<meta property="og:title" content="{escape(page.title)}">')
    head += [f'<link rel="alternate" hreflang="{code}" href="{url}">' for code, url in page.alternates]
    if page.data is not None:
        text = json.dumps({"@context": "https://schema.org", **page.data})
        head.append(f'<script type="application/ld+json">{text[:-1] + ",}" if page.broken_data else text}</script>')
    head += [
        '<link rel="stylesheet" href="/static/site.css">',
        '<link rel="icon" href="/static/icon.png">' if theme.icon else "",
        page.head,
    ]
    menu = "".join(f'<li><a href="{href}">{escape(text)}</a></li>' for text, href in theme.menu)
    footer = "".join(f'<a href="{href}">{escape(text)}</a> ' for text, href in theme.footer)
    heading = "" if page.h1 is None else f"<h1>{escape(page.h1 or page.title.partition(' | ')[0])}</h1>"
    lang = page.lang or theme.lang
    html = (
        ("<!doctype html>\n" if theme.doctype else "")
        + (f'<html lang="{lang}">' if lang else "<html>")
        + f"\n<head>\n  {chr(10).join(f'  {each}' for each in head if each).lstrip()}\n</head>\n<body>\n"
        + f'<header><a href="/">{escape(theme.name)}</a><nav><ul>{menu}</ul>{theme.menu_extra}</nav></header>\n'
        + f'<main class="page">{_in_lines(heading + page.body)}\n</main>\n'
        + f"<footer>{footer}<p>{escape(theme.name)}</p></footer>\n</body>\n</html>\n"
    )
    return html.encode()


def _in_lines(body: str) -> str:
    """Every block on a line of its own, as people write it."""
    return re.sub(r"(?=<(?:p|ul|li|h[1-6]|aside|form|table|address)\b)", "\n", body)


@dataclass
class Site:
    """A simulated site in one edition, being built."""

    theme: Theme
    resources: dict[str, Resource] = field(default_factory=dict)
    listed: list[str] = field(default_factory=list)
    headers: tuple[tuple[str, str], ...] = ()
    wait_s: float = 0.0
    gzip: bool = True
    robots: str = ""
    sitemap: bool = True
    certificate_days: int = 200
    # What its certificate and its server are like: see hodcarrier.demo.web.
    certificate: str = ""
    # Paths that answer over http too; a star for all of them.
    plain: tuple[str, ...] = ()
    www: bool = False
    any_url: bool = False
    # What phones are answered instead, by path.
    for_phones: dict[str, Resource] = field(default_factory=dict)
    # Entries of the sitemap as they are.
    listed_raw: list[str] = field(default_factory=list)

    def add(self, page: Page, listed: bool = True) -> None:
        """Add a page, to the sitemap too unless it is left out."""
        self.resources[page.path] = Resource(render(self.theme, page), headers=self.headers, wait_s=self.wait_s)
        if listed:
            self.listed.append(page.path)

    def add_for_phones(self, page: Page) -> None:
        """Answer phones with another page."""
        self.for_phones[page.path] = Resource(render(self.theme, page), headers=self.headers, wait_s=self.wait_s)

    def gone(self, path: str, status: int = 404) -> None:
        """Let a path answer an error."""
        self.resources[path] = Resource(b"<!doctype html><html lang=en><title>Not here</title><h1>Not here</h1>", status)

    def move(self, path: str, to: str, status: int = 301) -> None:
        """Let a path redirect."""
        self.resources[path] = Resource(b"", status, headers=(("Location", to),))

    def picture(self, path: str, size: int = 24_000) -> None:
        """Add a picture of about so many bytes."""
        self.resources[path] = Resource(make_png(size), content_type="image/png", headers=(("Cache-Control", "max-age=604800"),))

    def finish(self) -> dict[str, Resource]:
        """Add what every site has and give back all resources."""
        self.resources.setdefault("/static/site.css", Resource(b"body{font-family:sans-serif}\n" * 40, content_type="text/css"))
        if self.theme.icon:
            self.picture("/static/icon.png", 900)
        if self.robots and "/robots.txt" not in self.resources:
            self.resources["/robots.txt"] = Resource(self.robots.encode(), content_type="text/plain; charset=utf-8")
        if self.sitemap:
            urls = "".join(f"<url><loc>{escape(self.theme.origin + path)}</loc></url>" for path in self.listed)
            urls += "".join(self.listed_raw)
            body = f'<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{urls}</urlset>'
            self.resources["/sitemap.xml"] = Resource(body.encode(), content_type="application/xml")
        return self.resources


def make_png(size: int) -> bytes:
    """A valid one-pixel PNG, filled up with a private chunk to the size that is wanted."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    start = (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", struct.pack(">IIBBBBB", 1, 1, 8, 2, 0, 0, 0))
        + chunk(b"IDAT", zlib.compress(b"\0\x70\x60\x50"))
    )
    end = chunk(b"IEND", b"")
    return start + chunk(b"prVt", bytes(max(0, size - len(start) - len(end) - 12))) + end
