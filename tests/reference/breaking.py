"""One way to break the site for every check: what is changed, and what else is rightly said of it."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from hodcarrier.core.catalogue import Sample
from tests.reference.site import ORIGIN, url

Site = dict[str, Sample]
Change = Callable[[Site], Site]


@dataclass(frozen=True)
class Break:
    """A change of the site, what is said beside the check that it is made for, and what the plan and the probes say then."""

    changes: tuple[Change, ...]
    also: frozenset[str] = frozenset()
    plan: Mapping[str, Any] = field(default_factory=dict)
    after_good: bool = False  # a run of the site in order came before


def swap(path: str, old: str, new: str, times: int = 0) -> Change:
    """Another text in a body; everywhere in it, unless ``times`` says how often from the beginning."""

    def change(site: Site) -> Site:
        body = site[path].body
        assert isinstance(body, str) and old in body, (path, old)
        return {**site, path: replace(site[path], body=body.replace(old, new, times or -1))}

    return change


def everywhere(old: str, new: str) -> Change:
    """Another text in every page that has it."""

    def change(site: Site) -> Site:
        found = [
            p for p, sample in site.items() if isinstance(sample.body, str) and old in sample.body and "<html" in sample.body
        ]
        assert found, old
        return {**site, **{p: replace(site[p], body=str(site[p].body).replace(old, new)) for p in found}}

    return change


def put(path: str, **values: Any) -> Change:
    """Another answer at a path."""
    return lambda site: {**site, path: replace(site[path], **values)}


def header(path: str, name: str, value: str | None) -> Change:
    """Another header of an answer; none at all where the value is ``None``."""

    def change(site: Site) -> Site:
        kept = tuple((n, v) for n, v in site[path].headers if n != name)
        return {**site, path: replace(site[path], headers=kept if value is None else (*kept, (name, value)))}

    return change


def headers_everywhere(name: str, value: str | None) -> Change:
    """Another header of all pages."""

    def change(site: Site) -> Site:
        for path, sample in site.items():
            if any(v.startswith("text/html") for _, v in sample.headers):
                site = header(path, name, value)(site)
        return site

    return change


def add(*samples: Sample) -> Change:
    """Further answers."""
    return lambda site: {**site, **{sample.path: sample for sample in samples}}


def drop(path: str) -> Change:
    """An answer less."""
    return lambda site: {p: sample for p, sample in site.items() if p != path}


def html(path: str, body: str = "<h1>Old</h1>", status: int = 200, **headers: str) -> Sample:
    """A small answer."""
    return Sample(path, body, status, (("content-type", "text/html; charset=utf-8"), *headers.items()))


def moved(path: str, to: str, status: int = 301) -> Sample:
    """A redirect."""
    return Sample(
        path,
        "",
        status,
        (("location", to), ("content-type", "text/html; charset=utf-8"), ("strict-transport-security", "max-age=31536000")),
    )


HOME, LAID, BRAIDED, KNOTS, CARE, ABOUT, CONTACT, PRIVACY = (
    "/",
    "/ropes/laid",
    "/ropes/braided",
    "/guides/knots",
    "/guides/care",
    "/about",
    "/contact",
    "/privacy",
)
ROPES = "/ropes/"


def into_main(path: str, html_text: str) -> Change:
    """Something more at the end of a page's main part."""
    return swap(path, "</main>", f"{html_text}</main>")


def into_head(path: str, html_text: str) -> Change:
    """Something more at the end of a page's head."""
    return swap(path, "</head>", f"{html_text}</head>")


def b(*changes: Change, also: str = "", after_good: bool = False, **plan: Any) -> Break:
    """A row of the table; ``also`` are ids, divided by blanks."""
    return Break(changes, frozenset(also.split()), plan, after_good)


def shown(**changes: Any) -> dict[str, Any]:
    """A certificate with something wrong."""
    return {"sample_certificate": changes}


def link(path: str, to: str, text: str = "Rope of the old kind") -> Change:
    """A link more, in the main part."""
    return into_main(path, f'<a href="{to}">{text}</a>')


LAID_TITLE = "<title>Laid rope of three strands | Tidal Rope</title>"
LAID_DESC = (
    '<meta name="description" content="Everything that our yard by the harbour knows of laid rope and hemp, for small boats.">'
)
LAID_IMAGE = '<img src="/img/ropes/laid.webp" alt="laid rope, hemp" width="400" height="300">'
CANONICAL = f'<link rel="canonical" href="{url(LAID)}">'
NOINDEX = '<meta name="robots" content="noindex">'


def no_versions(body: str) -> str:
    """A body without the annotations of versions in other languages."""
    return re.sub(r'<link rel="alternate" hreflang[^>]*>', "", body)


TAR = ("Tar and pitch for old boats", "tar", "pitch")


def extra_page(site: Site, path: str, names: tuple[str, str, str] = TAR) -> Sample:
    """One more page, in order by itself, without versions in other languages."""
    body = no_versions(str(site[PRIVACY].body)).replace(url(PRIVACY), ORIGIN + path)
    for old, new in zip(("Privacy notice of the yard", "customer list", "order book"), names, strict=True):
        head, footer, tail = body.partition("<footer>")
        body = head.replace(old, new) + footer + tail
    return replace(site[PRIVACY], path=path, body=body)


def extra(path: str, *linked_from: str, listed: bool = True, names: tuple[str, str, str] = TAR) -> Change:
    """One more page, linked from two others (or from those that are named), and listed in the sitemap."""

    def change(site: Site) -> Site:
        site = {**site, path: extra_page(site, path, names)}
        for source in linked_from or (CONTACT, KNOTS):
            site = link(source, path, "Tar for old boats")(site)
        return list_too(ORIGIN + path)(site) if listed else site

    return change


def twin(of: str, path: str) -> Change:
    """The same page once more, which names itself as its canonical."""

    def change(site: Site) -> Site:
        body = no_versions(str(site[of].body)).replace(url(of), ORIGIN + path)
        site = {**site, path: replace(site[of], path=path, body=body)}
        return list_too(ORIGIN + path)(link(CONTACT, path, "Once more")(link(KNOTS, path, "Once more")(site)))

    return change


def list_too(address: str) -> Change:
    """An entry more in the sitemap."""
    return swap("/sitemap.xml", "</urlset>", f"<url><loc>{address.replace('&', '&amp;')}</loc></url></urlset>")


def short(path: str) -> Change:
    """A page with next to no text."""

    def change(site: Site) -> Site:
        return {**site, path: replace(site[path], body=re.sub(r"<p>.*</p>", "<p>Sorry.</p>", str(site[path].body), flags=re.S))}

    return change


def hard(path: str) -> Change:
    """A page whose paragraphs are one long sentence of long words."""
    text = "Considering comprehensive maintenance requirements concerning traditional waterproofing substances regarding wooden vessels throughout demanding operational conditions"

    def change(site: Site) -> Site:
        body = re.sub(r"<p>.*</p>", f"<p>{(text + ' and pitch ') * 14}.</p>", str(site[path].body), flags=re.S)
        return {**site, path: replace(site[path], body=body)}

    return change


def no_links(path: str) -> Change:
    """A page without any link."""

    def change(site: Site) -> Site:
        return {
            **site,
            path: replace(site[path], body=re.sub(r"<nav>.*?</nav>|<a [^>]*>.*?</a>", "", str(site[path].body), flags=re.S)),
        }

    return change


def twin_at(of: str, path: str) -> Change:
    """The very same page at another address: it names the first as its canonical."""
    return lambda site: {**site, path: replace(site[of], path=path)}


def framed(path: str) -> Change:
    """A page that is nothing but frames."""

    def change(site: Site) -> Site:
        body = re.sub(r"<body>.*</body>", f'<frameset><frame src="{ABOUT}"></frameset>', str(site[path].body), flags=re.S)
        return {**site, path: replace(site[path], body=body)}

    return change


def over_http(site: Site) -> Site:
    """The same site over http, with nothing over https."""
    plain = ORIGIN.replace("https", "http")

    def told(sample: Sample) -> Sample:
        body = sample.body.replace(ORIGIN, plain) if isinstance(sample.body, str) else sample.body
        return replace(sample, path=plain + sample.path, body=body)

    return {plain + path: told(sample) for path, sample in site.items()}


def http_page(path: str, more: str = "") -> Change:
    """A page over http beside the site over https, which names a page over https as its canonical."""

    def change(site: Site) -> Site:
        sample = replace(
            site[PRIVACY],
            path=f"http://shop.example{path}",
            body=re.sub(r'(href|src)="/', rf'\1="{ORIGIN}/', no_versions(str(site[PRIVACY].body))).replace(
                "</main>", f"{more}</main>"
            ),
        )
        return {**link(KNOTS, sample.path)(site), sample.path: sample}

    return change


STOCK = {
    "/stock/tar": ("Tar for the planks of old boats", "tar", "brushes"),
    "/stock/pitch": ("Pitch for the seams of old boats", "pitch", "kettles"),
    "/stock/resin": ("Resin for the masts of old boats", "resin", "scrapers"),
}


def stock(site: Site) -> Site:
    """Three pages of a kind of their own; the third is linked from the other two alone."""
    for path, names in STOCK.items():
        sample = extra_page(site, path, names)
        site = {**site, path: replace(sample, body=str(sample.body).replace('"plain', '"stock'))}
        site = list_too(ORIGIN + path)(site)
    tar, pitch, resin = STOCK
    for source, target in ((CONTACT, tar), (KNOTS, tar), (CONTACT, pitch), (KNOTS, pitch), (tar, resin), (pitch, resin)):
        site = link(source, target, STOCK[target][0])(site)
    return site
