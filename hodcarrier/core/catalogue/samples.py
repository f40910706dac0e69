"""Made-up sites on which checks show what they find: samples of answers, and examples made of them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True, slots=True)
class Sample:
    """One answer of a made-up site; ``failure`` stands for no answer at all, ``cut`` for a body that does not arrive whole. Where ``wire_bytes``
    are given, no header announces them to who asks by HEAD."""

    path: str = "/"
    body: str | bytes = ""
    status: int = 200
    headers: tuple[tuple[str, str], ...] = (("content-type", "text/html; charset=utf-8"),)
    failure: str = ""
    cut: str = ""
    first_byte_ms: float = 40.0
    wire_bytes: int | None = None
    http_version: str = "1.1"


@dataclass(frozen=True, slots=True)
class Example:
    """A made-up site (host ``shop.example``) and the message keys the check yields on it; none means it passes."""

    expect: tuple[str, ...]
    answers: tuple[Sample, ...]
    plan: Mapping[str, Any] = field(default_factory=dict)
    note: str = ""
    before: tuple[Sample, ...] = ()


def doc(body: str = "<h1>Rope</h1>", head: str = "<title>Rope for small boats</title>", lang: str = "en") -> str:
    """A whole sample document around a body and a head."""
    return f'<!doctype html><html lang="{lang}"><head><meta charset="utf-8">{head}</head><body>{body}</body></html>'


def ld(text: str) -> str:
    """A whole sample document with a block of JSON-LD."""
    return doc(f'<h1>Rope</h1><script type="application/ld+json">{text}</script>')


def doc_of_size(size: int) -> str:
    """A sample document of so many bytes."""
    return doc("<p>" + "a" * (size - len(doc("<p>"))))


def page(body: str = "", path: str = "/", **more: Any) -> Sample:
    """A sample HTML page."""
    return Sample(path, body, **more)


def gone(path: str, status: int = 404) -> Sample:
    """A sample error answer."""
    return Sample(path, "<h1>Not here</h1>", status)


def moved(path: str, to: str, status: int = 301) -> Sample:
    """A sample redirect."""
    return Sample(path, "", status, (("location", to), ("content-type", "text/html")))


def text_file(path: str, body: str, status: int = 200, content_type: str = "text/plain") -> Sample:
    """A sample robots.txt, sitemap or other file."""
    return Sample(path, body, status, (("content-type", content_type),))


def script(*headers: tuple[str, str]) -> Sample:
    """A sample script with some headers."""
    return Sample("/a.js", "var a", 200, (("content-type", "text/javascript"), *headers))


def certificate(**changes: object) -> dict[str, object]:
    """A plan whose made-up site shows a certificate in order but for these changes."""
    return {"sample_certificate": changes}


def sitemap(*paths: str) -> Sample:
    """A sample ``/sitemap.xml`` that lists these paths of the made-up site."""
    urls = "".join(f"<url><loc>https://shop.example{path}</loc></url>" for path in paths)
    body = f'<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">{urls}</urlset>'
    return text_file("/sitemap.xml", body, content_type="application/xml")


def fails(*keys: str) -> Callable[..., Example]:
    """``fails("short")(page(...))``: an example on which the check yields exactly these message keys."""

    def make(*answers: Sample, plan: Mapping[str, Any] | None = None, before: tuple[Sample, ...] = ()) -> Example:
        return Example(keys, answers, plan or {}, before=before)

    return make


def passes(*answers: Sample, plan: Mapping[str, Any] | None = None, before: tuple[Sample, ...] = ()) -> Example:
    """An example on which the check is silent."""
    return Example((), answers, plan or {}, before=before)
