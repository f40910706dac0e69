"""The old seed exchange of Two Rivers: pages that volunteers have made by hand over twenty years, each with a fault of its own.

They show what the catalogue finds on sites that have grown: a generated table in the documents says which check fails where.
"""

from __future__ import annotations

import json
from typing import NamedTuple

from hodcarrier.demo.pages import Resource, Site
from hodcarrier.demo.sites.parts import origin
from hodcarrier.demo.words import SEEDS, paragraphs

HOST = "two-rivers-seedbank.example"
HERE = origin(HOST)
ELSEWHERE = "https://ardmoor-seeds.example"
HTML = "text/html; charset=utf-8"


class Worn(NamedTuple):
    """A page that somebody made by hand: what stands in its head and body beside what every page has."""

    name: str
    title: str
    head: str = ""
    body: str = ""
    html: str = '<html lang="en">'
    whole: str = ""  # the document as it is, in place of all this
    kind: str = HTML
    charset: str = '<meta charset="utf-8">'


def data(**thing: object) -> str:
    """A block of structured data."""
    return f'<script type="application/ld+json">{json.dumps({"@context": "https://schema.org", **thing})}</script>'


def desc(text: str) -> str:
    """A description of a page."""
    return f'<meta name="description" content="{text}">'


def canonical(address: str) -> str:
    """A canonical."""
    return f'<link rel="canonical" href="{address}">'


def version(code: str, address: str) -> str:
    """An annotation of a version in another language."""
    return f'<link rel="alternate" hreflang="{code}" href="{address}">'


ROPE = {"@type": "Offer", "price": "2.40", "priceCurrency": "GBP"}
LONG = "Which seeds of the two rivers were handed on from garden to garden in the dry years, who kept them, and what became of the beans that were thought to be lost"
GARBLED = "<p>Die Bohne fÃ¼r groÃŸe GÃ¤rten</p>"
HARD = "Notwithstanding considerable institutional commitments regarding agricultural biodiversity conservation programmes, participating organisations consistently experience administrative difficulties concerning international distribution agreements. "

PAGES: tuple[Worn, ...] = (
    # titles and descriptions
    Worn("untitled", "Untitled"),
    Worn("no-title", ""),
    Worn("blank-title", " "),
    Worn("title-below", "", body="<title>Beans of the lower river, and who keeps them</title>"),
    Worn("two-titles", "Beans of the upper river", "<title>Beans and peas of the upper river</title>"),
    Worn("title-again", "Peas of the upper river", body="<title>Peas once more</title>"),
    Worn("brand-twice", "Two Rivers | Leeks and onions | Two Rivers"),
    Worn("shouting", "OLD BEANS WANTED FOR THE GARDEN"),
    Worn("desc-twice", "Kale that stands the winter", desc(LONG[:120]) + desc(LONG[10:140])),
    Worn("desc-below", "Turnips that keep until May", body=desc(LONG[:120])),
    Worn("desc-as-title", "Marrows for the shady side of the house", desc("Marrows for the shady side of the house")),
    # directives and canonicals
    Worn("odd-directive", "Radishes for the impatient", '<meta name="robots" content="indexx">'),
    Worn("two-minds", "Salads for the cold frame", '<meta name="robots" content="index"><meta name="robots" content="noindex">'),
    Worn("no-follow", "Herbs of the river bank", '<meta name="robots" content="nofollow">'),
    Worn("to-part", "Squashes and their cousins", canonical(f"{HERE}/exchange/to-part#list")),
    Worn("to-noindex", "Gourds for the birds", canonical(f"{HERE}/exchange/two-minds")),
    Worn("to-moved", "Flax for linen", canonical(f"{HERE}/exchange/moved")),
    Worn("to-other", "Hemp for rope", canonical(f"{HERE}/exchange/to-part-two")),
    Worn("to-part-two", "Hemp for cloth", canonical(f"{HERE}/news/")),
    Worn("to-stranger", "Poppies for the baker", canonical("https://elsewhere.example/poppies")),
    Worn("to-plain", "Mustard for the miller", canonical(f"http://{HOST}/exchange/to-plain")),
    Worn("to-nobody", "Woad for the dyer", canonical(f"{HERE}/exchange/unlinked")),
    Worn("both", "Madder for the dyer", canonical(f"{HERE}/news/") + '<meta name="robots" content="noindex">'),
    Worn("to-nothing", "Weld for the dyer", canonical("https://[")),
    # languages
    Worn("language", "Samen für den Garten", html='<html lang="german">'),
    Worn("versions", "Seeds in four languages", version("de-UK", f"{HERE}/exchange/gone-de") + version("fr", f"{HERE}/exchange/two-minds") + version("es", f"{HERE}/exchange/to-part-two") + version("it", "/exchange/moved") + version("it", f"{HERE}/exchange/plain-it") + version("ga", f"{HERE}/exchange/versions")),
    Worn("versions-below", "Seeds in two languages", body=version("en", f"{HERE}/exchange/versions-below") + version("cy", f"{HERE}/exchange/plain-it")),
    Worn("no-self", "Seeds for the north", version("de", f"{HERE}/exchange/plain-it") + version("fr", f"{HERE}/exchange/untitled")),
    Worn("plain-it", "Semi per l'orto"),
    Worn("no-charset", "Seeds for the south", charset="", kind="text/html"),
    Worn("late-charset", "Seeds for the west", "<!--" + "-" * 1100 + '--><meta charset="utf-8">', charset="", kind="text/html"),
    Worn("two-charsets", "Seeds for the east", charset='<meta charset="iso-8859-2">'),
    Worn("old-charset", "Seeds for the isles", charset='<meta charset="iso-8859-1">', kind="text/html; charset=iso-8859-1"),
    # links
    Worn("strangers", "Other banks that we know", body=f'<a rel="nofollow" href="{ELSEWHERE}/">Ardmoor</a><a href="{ELSEWHERE}/gone-for-good">Their old list</a><a href="{ELSEWHERE}/old">Their new list</a>'),
    Worn("private", "The list on our own machine", body='<a href="http://localhost:8080/list">The list</a>'),
    Worn("scripts", "Seeds by letter", body="<a href=\"javascript:show('b')\">B</a><a onclick=\"show('p')\">P</a>"),
    Worn("vague", "How to send us seeds", body='<a href="/news/">click here</a><a rel="nofollow" href="/collection/">The collection</a><a href="/news/1?utm_source=exchange">News</a><a href="/exchange/pictures#field">A picture</a>'),
    Worn("papers", "Our yearly reports", body='<a href="/exchange/report.pdf">The report</a><a href="/exchange/Old_List.html">The old list</a><a href="/exchange//twice">Twice</a><a href="/exchange/a list">A list</a>'),
    Worn("dead-end", "Nothing more to see", whole="<p>Nothing more to see here, and no way on."),
    # headings and texts
    Worn("empty-h1", "An empty heading", body="<h1></h1><h2></h2>"),
    Worn("long-text", "Everything in one breath", body="<p>" + "We dry the pods on paper in the loft and turn them each day. " * 24 + "</p>"),
    Worn("hard-text", "On agreements between banks", body=f"<p>{HARD * 40}</p>"),
    Worn("filler", "A page that is to come", body="<p>Lorem ipsum dolor sit amet, consectetur adipiscing elit.</p>"),
    Worn("garbled", "Beans from abroad", body=GARBLED),
    Worn("frames", "", whole='<html><head><title>The list in frames</title></head><frameset cols="20%,*"><frame src="/news/"></frameset></html>'),
    Worn("plug-in", "A film in the old way", body='<object data="/exchange/film.swf"></object>'),
    Worn("missing-page", "Page not found", whole='<!doctype html><html lang="en"><title>Page not found</title><h1>Page not found</h1><p>Sorry.</p><a href="/">Home</a>'),
    Worn("comments", "Notes to ourselves", body="<!--" + "remember to ask about the beans " * 900 + "-->"),
    # images and files
    Worn("pictures", "Pictures of pods", body='<a id="pod" href="/news/3"><img src="/img/pod.png"></a>' + "".join(f'<img src="/img/pod-{n}.png" alt="pod-{n}.png">' for n in range(13)) + f'<img src="/img/pod.png" alt="{LONG}"><img src="/img/large.gif" alt="A field" width="20" height="20"><img src="/img/moved.png" alt="A pod"><img src="/img/drawing.svg" alt="A drawing"><video src="/exchange/film.mp4" controls></video>'),
    Worn("scripts-and-styles", "The list with everything on it", '<script src="/exchange/gone.js"></script><script src="/exchange/moved.js"></script><script src="https://elsewhere.example/w.js"></script>' + "".join(f'<link rel="stylesheet" href="/exchange/{n}.css">' for n in range(9)) + '<script src="/exchange/notes.js"></script><script src="/exchange/copy.js"></script>', body=f"<script>var list='{'x' * 103_000}'</script>"),
    Worn("heavy", "All pictures at once", body="".join(f'<img src="/img/big-{n}.png" alt="Field {n}" width="640" height="480">' for n in range(102))),
    Worn("deep", "A table of tables", body="<i></i>" * 1600),
    # safety
    Worn("plain-parts", "A picture over http", body=f'<img src="http://{HOST}/img/pod.png" alt="A pod" width="9" height="9">'),
    Worn("files-", "Index of /exchange/files", whole='<html lang="en"><title>Index of /exchange/files/</title><h1>Index of /exchange/files/</h1><a href="/exchange/">Parent Directory</a>'),
    # structured data
    Worn("data-odd", "Data with odd words", data(**{"@type": "SeedPacket", "name": "Bean"}) + data(name="Pea") + data(**{"@type": "Product", "name": "Data with odd words", "colour": "red", "offers": {**ROPE, "price": "2,40 £"}})),
    Worn("data-short", "Data that lack half", "".join(data(**thing) for thing in ({"@type": "Product", "name": "Data that lack half"}, {"@type": "Article", "author": "The bank"}, {"@type": "Event", "name": "Swap day"}, {"@type": "Recipe", "name": "Bean stew"}, {"@type": "JobPosting", "title": "Keeper"}, {"@type": "VideoObject", "name": "Drying"}, {"@type": "BreadcrumbList", "name": "Path"}, {"@type": "FAQPage", "name": "Questions"}, {"@type": "Review", "author": "A gardener"}, {"@type": "Store", "name": "The barn"}))),
    Worn("data-twice", "Bean of the year", data(**{"@type": "Product", "name": "Bean of the year", "offers": ROPE, "image": "/img/gone.png"}) + data(**{"@type": "Product", "name": "Bean of the year", "offers": {**ROPE, "price": "3.10"}}), body="<p>£2.90 a packet</p>"),
    Worn("letter", "A letter from the loft", '<meta property="og:type" content="article">'),
    # previews and small screens
    Worn("preview", "How we look elsewhere", '<meta property="og:title" content="Seeds"><meta property="og:image" content="/img/gone.png"><meta property="og:url" content="https://elsewhere.example/"><meta property="og:locale" content="de_DE"><meta name="twitter:card" content="huge">'),
    Worn("small", "In small print", '<meta name="viewport" content="width=980"><link rel="amphtml" href="/exchange/amp-gone"><link rel="alternate" media="only screen and (max-width: 640px)" href="/exchange/plain-it">', body='<div style="font-size: 9px">' + paragraphs("small", SEEDS, 12) + "</div>"),
    Worn("amp", "A quick version", '<link rel="amphtml" href="/exchange/plain-it">'),
    # markup
    Worn("markup", "Made with an old editor", '<base href="/exchange/"><base href="/">', body='<center><font color="green">Seeds</font></center><ul><p>Bean</p></ul><table><tr><td>Bean<td>4<tr><td>Pea<td>7<tr><td>Leek<td>2</table><form><input name="q"></form><div aria-hidden="true"><a href="/news/">News</a></div>'),
    Worn("half-xml", "Half of it", kind="application/xhtml+xml", body="<br>"),
    # addresses
    Worn("twin", "The same twice", ""),
    Worn("near", "Nearly the same", ""),
    Worn("nearly", "Nearly the same again", ""),
)  # fmt: skip
TWINS = ("/exchange/twin/", "/exchange/Twin", "/exchange/twin?from=mail")
MORE = ("/exchange/list?sid=1a2b3c", "/exchange/" + "seeds-of-the-two-rivers-" * 5, "/exchange/list?a=1&b=2&c=3&d=4")


def add_exchange(site: Site) -> None:
    """Add the old exchange with everything that its pages use, and a page that leads to it."""
    for page in PAGES:
        path = "/exchange/files/" if page.name == "files-" else f"/exchange/{page.name}"
        site.resources[path] = Resource(
            _html(page).encode("latin-1", "xmlcharrefreplace") if "8859" in page.kind else _html(page).encode(),
            content_type=page.kind,
        )
    twin = site.resources["/exchange/twin"]
    plain = site.resources["/exchange/plain-it"]
    for path in ("/exchange/twin/", "/exchange/Twin"):
        site.resources[path] = twin
    for path in (
        "/exchange/list",
        MORE[1],
        "/exchange/unlinked",
        "/exchange/Old_List.html",
        "/exchange//twice",
        "/exchange/a%20list",
    ):
        site.resources[path] = plain
    site.resources["/exchange/slow"] = Resource(plain.body, wait_s=2.6)
    site.resources["/exchange/cookie"] = Resource(plain.body, headers=(("Set-Cookie", "sid=1"),))
    site.move("/exchange/moved", "/exchange/plain-it")
    site.move("/exchange/beans/old", "/")
    site.move("/img/moved.png", "/img/pod.png")
    site.move("/exchange/moved.js", "/exchange/notes.js")
    _add_files(site)
    site.listed_raw = _slips_of_the_sitemap()
    names = [f"/exchange/{page.name}" for page in PAGES if page.name != "files-"]
    others = [
        *TWINS,
        *MORE,
        "/exchange/files/",
        "/exchange/slow",
        "/exchange/cookie",
        "/exchange/moved",
        "/exchange/beans/old",
        "/exchange/a/b/a/b/a/b/a/b/",
    ]
    found = "".join(
        f'<li><a href="{path.replace("&", "&amp;")}">{path.rpartition("/")[2] or path}</a>' for path in (*names, *others)
    )
    head = '<!doctype html><html lang="en"><head><meta charset="utf-8"><meta http-equiv="refresh" content="900; url=/news/"><title>The old seed exchange of Two Rivers</title></head>'
    site.resources["/exchange/"] = Resource(
        f'{head}<body><h1>The old seed exchange</h1><ul>{found}</ul><a href="/">Home</a></body></html>'.encode()
    )


def _slips_of_the_sitemap() -> list[str]:
    listed = (f"{ELSEWHERE}/", f"http://{HOST}/news/", f"{HERE}/exchange/moved", f"{HERE}/news/", f"{HERE}/news/")
    return [f"<url><loc>{address}</loc><lastmod>1 May 2026</lastmod></url>" for address in listed]


def _html(page: Worn) -> str:
    if page.whole:
        return page.whole
    title = f"<title>{page.title}</title>" if page.title else ""
    text = paragraphs(page.name if page.name not in ("near", "nearly") else "near", SEEDS, 5) + (
        "<p>Ask for it.</p>" if page.name == "nearly" else ""
    )
    heading = "" if "<h1>" in page.body else f"<h1>{page.title.strip() or 'Seeds'}</h1>"
    links = (
        ""
        if page.name == "dead-end"
        else '<p><a href="/exchange/">The old exchange</a> <a href="/collection/">The collection</a></p>'
    )
    return f"<!doctype html>{page.html}<head>{page.charset}{title}{page.head}</head><body>{heading}{page.body}{text}{links}</body></html>"


def _add_files(site: Site) -> None:
    for name, size in (
        ("/img/pod.png", 9_000),
        *((f"/img/pod-{n}.png", 9_000 + n) for n in range(13)),
        *((f"/img/big-{n}.png", 64_000 + n) for n in range(102)),
    ):
        site.picture(name, size)
    site.resources["/img/large.gif"] = Resource(b"GIF89a\xe8\x03\xe8\x03\x00\x00\x00;", content_type="image/png")
    drawing = b'<svg xmlns="http://www.w3.org/2000/svg"><script>grow()</script></svg>'
    site.resources["/img/drawing.svg"] = Resource(drawing, content_type="image/svg+xml")
    notes = ("/* what we meant */\n" * 400 + "var seeds = 1;\n" * 40).encode()
    for path in ("/exchange/notes.js", "/exchange/copy.js"):
        site.resources[path] = Resource(notes, content_type="text/javascript", headers=(("Cache-Control", "max-age=60"),))
    faces = "".join(f"@font-face{{font-family:f{n};src:url(f{n}.woff2)}}" for n in range(5)).encode()
    for n in range(9):
        site.resources[f"/exchange/{n}.css"] = Resource(faces if n == 0 else f"i{{top:{n}px}}".encode(), content_type="text/css")
    for n in range(5):
        site.resources[f"/exchange/f{n}.woff2"] = Resource(b"wOF2" + bytes([n]) * 900, content_type="font/woff2")
    site.resources["/exchange/film.mp4"] = Resource(b"\0\0\0\x18ftypmp42", content_type="video/mp4")
    site.resources["/exchange/film.swf"] = Resource(b"FWS", content_type="application/x-shockwave-flash")
    site.resources["/exchange/report.pdf"] = Resource(b"%PDF-1.7\n" + b"0" * 10_600_000, content_type="application/pdf")
