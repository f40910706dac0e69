"""A report drawn from its values: one template for the web page and for the PDF."""

from __future__ import annotations

import base64
from collections.abc import Sequence
from datetime import date
from functools import lru_cache
from pathlib import Path
from typing import Any

from jinja2 import Environment
from markupsafe import Markup

from hodcarrier.core.colours import ink_on
from hodcarrier.core.errors import Unavailable
from hodcarrier.core.judge.health import gain_words
from hodcarrier.core.words import figure
from hodcarrier.report.templating import make_environment
from hodcarrier.report.values import DatedText, HealthPoint, ReportValues

FONTS = Path(__file__).parent / "fonts"
CHART_WIDTH, CHART_HEIGHT = 640, 150
# The colour of reports for clients who have none of their own.
ACCENT = "#0d5c5f"


@lru_cache(maxsize=1)
def _environment() -> Environment:
    return make_environment({"day": _day, "figure": figure, "count": _count, "gain": gain_words, "css_string": _css_string})


def _day(text: str) -> str:
    if not text:
        return "no date yet"
    day = date.fromisoformat(text)
    return f"{day:%a} {day.day} {day:%b %Y}"


def _css_string(text: str) -> Markup:
    """A text as a string of CSS (CSS Syntax, 4.3.7): what could end the string or the style element is escaped."""
    return Markup('"' + "".join(c if c.isalnum() or c in " .,:;'()-" else f"\\{ord(c):06x} " for c in text) + '"')


def _count(value: int | None) -> str:
    return "–" if value is None else f"{value:,}"


def chart(line: Sequence[HealthPoint], remarks: Sequence[DatedText]) -> dict[str, Any]:
    """Points of the health line in the chart's units (0 to 640 by 0 to 150), and where remarks stand.

    The vertical scale is always 0 to 100, so that a small change looks small. A run without health leaves a gap.
    """
    days = [date.fromisoformat(point.day).toordinal() for point in line]
    if not days:
        return {"segments": [], "points": [], "remarks": [], "width": CHART_WIDTH, "height": CHART_HEIGHT}
    low, span = min(days), max(1, max(days) - min(days))

    def place(day: int) -> float:
        return round(10 + (day - low) / span * (CHART_WIDTH - 20), 1)

    segments: list[list[str]] = [[]]
    points = []
    for point, day in zip(line, days, strict=True):
        if point.health is None:
            segments.append([])
            continue
        x, y = place(day), round(CHART_HEIGHT - point.health / 100 * CHART_HEIGHT, 1)
        segments[-1].append(f"{x},{y}")
        points.append({"x": x, "y": y, "health": point.health, "day": point.day})
    marks = [
        {"x": place(at), "text": r.text, "day": r.day, "number": n}
        for n, r in enumerate(remarks, 1)
        if low <= (at := date.fromisoformat(r.day).toordinal()) <= max(days)
    ]
    return {
        "segments": [" ".join(s) for s in segments if s],
        "points": points,
        "remarks": marks,
        "width": CHART_WIDTH,
        "height": CHART_HEIGHT,
    }


def draw_html(values: ReportValues) -> str:
    """The report as one HTML page that needs nothing else: fonts and pictures are inside it."""
    fonts = {
        weight: base64.b64encode((FONTS / f"ibm-plex-sans-latin-{weight}-normal.woff2").read_bytes()).decode()
        for weight in ("400", "600")
    }
    brand = values.colour or ACCENT
    shown = chart(values.line, values.remarks)
    return _environment().get_template("report.html").render(v=values, chart=shown, fonts=fonts, brand=brand, ink=ink_on(brand))


def draw_pdf(values: ReportValues) -> bytes:
    """The report as a PDF. Raises :class:`Unavailable` when the system lacks the text layout library."""
    try:
        from weasyprint import HTML
    except OSError as error:
        raise Unavailable(
            f"PDFs cannot be made here: {error}.", "Install the Pango library (Debian: libpango-1.0-0 libpangoft2-1.0-0)."
        ) from error
    document: bytes = HTML(string=draw_html(values)).write_pdf()
    return document
