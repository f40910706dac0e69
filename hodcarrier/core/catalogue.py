"""The catalogue: every check with its prose, limits and examples, read from ``hodcarrier/core/checks/<area>/``.

The name of a file is the id of its check (underscores for hyphens), the folder is its area. A module holds ``CHECK``
(the metadata) and ``find`` (the rule); a group check also holds ``key``. Adding a check touches that one file.
"""

from __future__ import annotations

import importlib
import pkgutil
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any, Literal

from hodcarrier.core import checks
from hodcarrier.core.errors import NotFound

CATALOGUE_VERSION = "1"

AREAS = {
    "reach": "Reachability",
    "index": "Indexing",
    "files": "robots.txt and sitemaps",
    "titles": "Titles and descriptions",
    "copies": "Duplication",
    "text": "Headings and text",
    "links": "Links",
    "media": "Pictures",
    "speed": "Weight and speed",
    "secure": "Safety",
    "lang": "Languages and encoding",
    "data": "Structured data",
    "share": "Previews",
    "mobile": "Small screens",
    "markup": "Soundness of the HTML",
    "trust": "Trust",
}
Severity = Literal["critical", "high", "medium", "low"]
Subject = Literal["page", "file", "site", "group"]
Needs = Literal["address", "answer", "document"]
Effort = Literal["small", "medium", "large"]
Grouping = Literal["target", "element", "template", "group", "site", "alone"]


@dataclass(frozen=True, slots=True)
class Fail:
    """The check fails: a message key, the place (never a position), data for the message and the evidence.

    ``cause`` names the cause when the check's grouping needs more than the place (an element's signature, a rule).
    """

    key: str
    place: str = ""
    data: Mapping[str, Any] = field(default_factory=dict)
    cause: str = ""


@dataclass(frozen=True, slots=True)
class Unsure:
    """The check could not be examined at this place; neither passed nor failed."""

    place: str = ""
    reason: str = ""


Outcome = Fail | Unsure


@dataclass(frozen=True, slots=True)
class Limit:
    """A threshold of a check that a plan may change."""

    default: float
    unit: str
    meaning: str


@dataclass(frozen=True, slots=True)
class Sample:
    """One answer of a made-up site; ``failure`` stands for no answer at all, ``cut`` for a body that does not arrive whole."""

    path: str = "/"
    body: str | bytes = ""
    status: int = 200
    headers: tuple[tuple[str, str], ...] = (("content-type", "text/html; charset=utf-8"),)
    failure: str = ""
    cut: str = ""
    first_byte_ms: float = 40.0
    wire_bytes: int | None = None


@dataclass(frozen=True, slots=True)
class Example:
    """A made-up site (host ``shop.example``) and the message keys the check yields on it; none means it passes."""

    expect: tuple[str, ...]
    answers: tuple[Sample, ...]
    plan: Mapping[str, Any] = field(default_factory=dict)
    note: str = ""
    before: tuple[Sample, ...] = ()


@dataclass(frozen=True)
class Check:
    """The declared part of a check. See ``docs/catalogue.md`` for the words these fields become."""

    severity: Severity
    subject: Subject
    summary: str
    why: str
    fix: str
    effort: Effort
    standard: str
    messages: Mapping[str, str]
    cause: Grouping
    examples: tuple[Example, ...]
    needs: Needs = "document"
    cause_line: str = ""
    limits: Mapping[str, Limit] = field(default_factory=dict)
    revision: int = 1
    since: str = "0.1.0"


Find = Callable[[Any, Mapping[str, float]], Iterable[Outcome]]


@dataclass(frozen=True)
class Entry:
    """A check with the id and area that its file gives it, and its rule."""

    id: str
    area: str
    check: Check
    find: Find
    key: Callable[[Any], str]

    def limits(self, thresholds: Mapping[str, float]) -> dict[str, float]:
        """The check's limits by name, with a plan's thresholds in place of the defaults."""
        return {name: float(thresholds.get(name, limit.default)) for name, limit in self.check.limits.items()}

    def message(self, key: str, data: Mapping[str, Any]) -> str:
        """The sentence for a finding; data that is missing shows as a dash, so that old runs stay readable."""
        template = self.check.messages.get(key)
        return fill(template, data) if template else self.check.summary


class _Count(int):
    """A number in a message: ``{links}`` shows 1,312 and ``{links:page}`` shows 1,312 pages (or 1 page)."""

    def __format__(self, noun: str) -> str:
        return f"{int(self):,}" + (f" {noun}{'s' * (self != 1)}" if noun else "")


class _Missing(str):
    """What stands for a value that is not there."""

    def __format__(self, _noun: str) -> str:
        return "–"


class _Dashes(dict[str, Any]):
    def __missing__(self, _key: str) -> str:
        return _Missing()


def fill(template: str, data: Mapping[str, Any]) -> str:
    """A template with its placeholders filled; numbers get thousands separators."""
    counted = {k: _Count(v) for k, v in data.items() if isinstance(v, int) and not isinstance(v, bool) and k != "status"}
    return template.format_map(_Dashes({**data, **counted}))


@lru_cache(maxsize=1)
def load() -> dict[str, Entry]:
    """All checks by id, in the order of areas and then of ids."""
    entries: list[Entry] = []
    for area in AREAS:
        try:
            package = importlib.import_module(f"{checks.__name__}.{area}")
        except ModuleNotFoundError:
            continue
        for module_info in pkgutil.iter_modules(package.__path__):
            module = importlib.import_module(f"{package.__name__}.{module_info.name}")
            identity = module_info.name.replace("_", "-")
            entries.append(Entry(identity, area, module.CHECK, module.find, getattr(module, "key", lambda _page: "")))
    return {entry.id: entry for entry in entries}


def get(check_id: str) -> Entry:
    """One check. Raises :class:`NotFound` with near ids for a wrong one."""
    entries = load()
    if check_id in entries:
        return entries[check_id]
    near = [name for name in entries if check_id and (name.startswith(check_id) or check_id in name)][:4]
    raise NotFound(
        f"No check is called “{check_id}”.",
        "Did you mean " + ", ".join(near) + "?" if near else "See `hodcarrier catalogue list`.",
    )


def describe(entry: Entry) -> dict[str, Any]:
    """A check as plain values."""
    check = entry.check
    return {
        "id": entry.id,
        "area": entry.area,
        "area_name": AREAS[entry.area],
        "severity": check.severity,
        "subject": check.subject,
        "summary": check.summary,
        "why": check.why,
        "fix": check.fix,
        "effort": check.effort,
        "standard": check.standard,
        "limits": {n: {"default": k.default, "unit": k.unit, "meaning": k.meaning} for n, k in check.limits.items()},
        "messages": dict(check.messages),
        "revision": check.revision,
        "since": check.since,
    }


def doc(body: str = "<h1>Rope</h1>", head: str = "<title>Rope for small boats</title>", lang: str = "en") -> str:
    """A whole sample document around a body and a head."""
    return f'<!doctype html><html lang="{lang}"><head><meta charset="utf-8">{head}</head><body>{body}</body></html>'


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
