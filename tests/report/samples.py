"""Facts for every section: none, one, and many, with names that are long or run from right to left."""

from __future__ import annotations

from typing import Any

from hodcarrier.core.states import EventKind, SectionKind, Typeface
from hodcarrier.report.drawn import DrawnReport, Marks, drawn
from hodcarrier.report.values import Brand, ReportValues, SectionValues

LONG = "The Honourable Company of Chandlers, Ropewalkers, Sailmakers and Riggers of the Eastern Estuaries " * 2
HEBREW = "חברת החבלים של הנמל"


def line(count: int) -> list[dict[str, Any]]:
    return [{"day": f"2026-{n // 28 + 1:02d}-{n % 28 + 1:02d}", "value": None if n == 2 else 80.0 + n % 15} for n in range(count)]


def _fault(n: int, name: str) -> dict[str, Any]:
    return {
        "check": "title-missing",
        "title": name or "Title missing",
        "why": "It is the link in search results. More.",
        "severity": "high",
        "findings": n + 1,
        "gain": 1.2,
        "examples": [f"https://rope.example/{name}/{n}"],
        "more": n,
        "fix": "Write one.",
    }


def facts(kind: SectionKind, count: int, name: str = "") -> dict[str, Any]:
    """Facts of a section, with so many of everything; texts of people are ``name``."""
    shown = name or "Rope"
    work = {
        "title": shown,
        "check": "title-missing",
        "named": "Title missing",
        "why": "It is the link. More.",
        "places": 3,
        "day": "2026-11-10",
        "gain": 0.5,
        "who": shown,
    }
    row = {"text": shown, "now": 12, "before": 9, "position": 2.5}
    link = {"source": f"https://a.example/{shown}", "page": "https://rope.example/gone", "day": "2026-11-02", "status": 404}
    days = {"first": "2026-11-03", "last": "2026-11-30"}
    remarks = [{"day": f"2026-01-{n + 3:02d}", "text": shown} for n in range(min(count, 5))]
    found: dict[SectionKind, dict[str, Any]] = {
        SectionKind.MONTH: {"health": 91.5, "health_before": 90.0, "before_day": "2026-10-27", "audits": count, "fixed": count, "new": count, "done": count, "hand": count, "hand_dated": count // 2, "clicks": count, "clicks_before": 1, "keywords_up": count, "keywords_down": count, "lead": count, "trail": count, "competitors": max(1, count), "limit": 7},
        SectionKind.LAST: {"to_day": "2026-10-31", "health": 80.0, "health_now": 91.5, "open_faults": 40, "open_faults_now": 30, "promised": count, "kept": count // 2} if count else {},
        SectionKind.HEALTH: {"health": 91.5 if count else None, "health_before": 90.0, "before_day": "2026-10-27", "day": "2026-11-24", "pages": count, "trend": "improving", "line": line(count), "remarks": remarks},
        SectionKind.DONE: {"items": [work] * count, "more": count // 2},
        SectionKind.HAND: {"items": [{**work, "day": ""}] * count},
        SectionKind.NEXT: {"items": [work] * count},
        SectionKind.HAPPENED: {"first": "2026-10-27", "last": "2026-11-24", "events": [{"kind": kind.value, "about": "Disallow: /shop (line 3)", "pages": n, "page": f"/{shown}" if n == 1 else "", "check": "title-missing", "title": "Title missing", "checks": n, "findings": n, "joined": n, "share": n - 1.5} for kind in EventKind for n in range(3)] if count else [], "more": count},
        SectionKind.AREAS: {"areas": [{"area": "links", "score": 99.5, "before": 98.0, "pages": 12}] * count},
        SectionKind.FINDINGS: {"faults": [_fault(n, shown) for n in range(count)], "passed": ["Title empty"] * min(count, 1), "passed_ids": ["title-empty"] * min(count, 1)},
        SectionKind.APPENDIX: {"faults": [_fault(n, shown) for n in range(count)], "findings": [{"check": "title-missing", "subject": f"https://rope.example/{shown}", "since": "2026-11-03", "place": "x"}] * count, "more": count},
        SectionKind.BENCHMARK: {"hosts": ["rope.example", *(f"rival-{n}.example" for n in range(count))], "rows": [{"id": "health", "name": "Health", "unit": "points", "high_is_good": True, "values": [91.5, *([80.0] * count)], "ranks": [1, *([2] * count)], "lead": "ahead"}, {"id": "html_bytes_median", "name": "HTML size, median", "unit": "bytes", "high_is_good": False, "values": [30_000.0, *([20_000.0] * count)], "ranks": [2, *([1] * count)], "lead": "behind"}] if count else [], "at": "2026-11-20", "thin": [{"host": "thin.example", "pages": 2, "known": 40}], "health": 90.0},
        SectionKind.SEARCH: {**days, "clicks": 40 * count, "clicks_before": 30, "impressions": 900, "impressions_before": 1000, "position": 9.8, "position_before": 9.6, "brand_clicks": 4, "weeks": line(count), "remarks": remarks, "top": [row] * count, "rising": [row] * count, "falling": [{**row, "before": 0}] * count, "sources": [shown]} if count else {},
        SectionKind.VISITS: {**days, "visits": 40 * count, "visits_before": 30, "conversions": 3.0, "weeks": line(count), "channels": [row] * count, "pages": [row] * count} if count else {},
        SectionKind.POSITIONS: {**days, "total": count, "up": count, "down": count, "bands": [{"first": 1, "last": 3, "now": count, "before": 2}, {"first": None, "last": None, "now": 0, "before": 1}], "items": [{"keyword": shown, "device": "phone", "place": "Cardiff", "rank": 2, "before": 5, "best": 1, "change": 3}, {"keyword": shown}] * count} if count else {},
        SectionKind.LINKS: {"since": "2026-11-03", "domains": count, "domains_new": count, "domains_lost": count, "new": [link] * count, "lost": [{**link, "day": ""}] * count, "to_gone": [link] * count} if count else {},
        SectionKind.SPEED: {"now": {"first_byte_ms_median": 200.0, "html_bytes_median": 20480.0, "compressed_ratio": 100.0}, "before": {"first_byte_ms_median": 240.0, "compressed_ratio": 100.0}, "line": line(count)} if count else {},
        SectionKind.REVIEW: {"name": "First visit of a site", "day": "2026-11-20", "before": "2026-09-20", "passed": count, "open": count, "better": count, "recommended": [{"text": shown, "note": shown, "difference": "worse"}] * count} if count else {},
    }  # fmt: skip
    return found.get(kind, {})


def report(
    count: int,
    code: str = "en",
    name: str = "",
    *,
    without: tuple[SectionKind, ...] = (),
    marks: Marks = Marks(),
    face: Typeface = Typeface.SANS,
) -> DrawnReport:
    """A report of all sections with so many of everything."""
    shown = name or "Rope"
    values = ReportValues(
        title=f"{shown}: November 2026",
        agency=name or "Cobble & Lantern",
        client=shown,
        host="rope.example",
        from_day="2026-11-01",
        to_day="2026-11-30",
        made="2026-12-01",
        language=code,
        brand=Brand(typeface=face),
        sections=[
            SectionValues(
                kind,
                "",
                f"**{shown}**, and [more](https://rope.example/)." if count else "",
                facts(kind, count, name),
                kind.value,
            )
            for kind in SectionKind
            if kind not in without
        ],
    )
    return drawn(values, marks)
