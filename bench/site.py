"""A generated site of any number of pages, served on loopback by a process of its own: ``python -m bench.site PAGES [FAULTS]``.

A page has 24 KB of HTML and 60 links on average, which differ from page to page as they do on real sites: a tenth of the pages is a sixth of
that, a tenth three and a half times as much. The links are those of the navigation, of children in a tree, so that the whole site
is found by following links, and of other pages. Everything is decided by the number of the page. With ``FAULTS`` every page also has that
many pictures without an alternative text, each of them a finding.
"""

from __future__ import annotations

import asyncio
import sys
from functools import lru_cache

from bench.serving import Answering, serve

FAN_OUT = 6
NAVIGATION = 10
LINKS, PARTS = 60, 38
# Tenths of the pages of Debian's python3-doc, by size and by links, which go together: times their mean.
SPREAD = (0.17, 0.25, 0.32, 0.43, 0.56, 0.71, 0.93, 1.2, 1.86, 3.57)
WORDS = [
    "rope",
    "anchor",
    "tide",
    "harbour",
    "fender",
    "pump",
    "paint",
    "splice",
    "deck",
    "sail",
    "mast",
    "keel",
    "buoy",
    "cleat",
    "chart",
    "lamp",
    "oar",
    "tar",
    "cork",
    "net",
]


def path_of(number: int) -> str:
    """The path of a page: three levels of folders."""
    return "/" if number == 0 else f"/{WORDS[number % 20]}/{WORDS[number // 20 % 20]}/page-{number}"


@lru_cache(maxsize=1)
def _paragraphs() -> list[str]:
    return [" ".join(WORDS[(n * 7 + i * (n % 5 + 1)) % 20] for i in range(90)) for n in range(200)]


def body_of(number: int, pages: int, faults: int = 0) -> bytes:
    """The HTML of a page."""
    texts = _paragraphs()
    children = range(number * FAN_OUT + 1, min(number * FAN_OUT + FAN_OUT + 1, pages))
    size = SPREAD[(number * 7 + number // 10) % 10]
    siblings = [(number * 31 + i * 17) % pages for i in range(round(LINKS * size) - NAVIGATION - len(children))]
    menu = "".join(
        f'<li><a class="menu-link" href="{path_of(n % pages)}">{WORDS[n % 20].title()} {n}</a></li>' for n in range(NAVIGATION)
    )
    lists = "".join(f'<li><a href="{path_of(n)}">Page {n} about {WORDS[n % 20]}</a></li>' for n in (*children, *siblings))
    text = "".join(f"<h2>Part {i}</h2><p>{texts[(number + i * 13) % 200]}</p>" for i in range(round(PARTS * size)))
    pictures = "".join(f'<img src="/picture.png?{i}" width="4" height="4">' for i in range(faults))
    return (
        f'<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Page {number}: all about {WORDS[number % 20]}</title>'
        f'<meta name="description" content="What there is to know about {WORDS[number % 20]}, page {number} of a long list of pages.">'
        f'<link rel="canonical" href="{path_of(number)}"><meta name="viewport" content="width=device-width">'
        f'<link rel="stylesheet" href="/style.css"></head><body><header><nav><ul>{menu}</ul></nav></header>'
        f'<main><h1>Page {number}</h1><img src="/picture.png" alt="A picture" width="4" height="4">{pictures}{text}<ul>{lists}</ul></main>'
        f"<footer><p>The end of page {number}</p></footer></body></html>"
    ).encode()


class Server(Answering):
    """Answers with generated pages."""

    pages = 0
    faults = 0

    def answer(self, target: str) -> tuple[str, str, bytes]:
        """The page of a path, or one of the files that all pages use."""
        tail = target.rpartition("-")[2]
        if target == "/":
            return "200 OK", "text/html; charset=utf-8", body_of(0, self.pages, self.faults)
        if target.partition("?")[0] in ("/style.css", "/picture.png"):
            return "200 OK", "text/css" if target.endswith("css") else "image/png", b"x" * 100
        if tail.isdigit() and int(tail) < self.pages and target == path_of(int(tail)):
            return "200 OK", "text/html; charset=utf-8", body_of(int(tail), self.pages, self.faults)
        return "404 Not Found", "text/plain", b"not here"


if __name__ == "__main__":
    Server.pages, Server.faults = int(sys.argv[1]), int(sys.argv[2]) if len(sys.argv) > 2 else 0
    asyncio.run(serve(Server))
