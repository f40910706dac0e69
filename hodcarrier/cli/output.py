"""What commands print: data on stdout, progress and words on stderr, colour only on a terminal."""

from __future__ import annotations

import json
import os
import re
import sys
from collections.abc import Sequence
from datetime import UTC, date, datetime
from typing import Any, TextIO

from rich.box import Box
from rich.console import Console
from rich.table import Table
from rich.text import Text

from hodcarrier.cli.fitting import Column, fit, shown, without_origin
from hodcarrier.core.progress import Progress
from hodcarrier.core.states import Change, Severity
from hodcarrier.core.words import visible
from hodcarrier.report.tables import to_csv


def _width(stream: TextIO) -> int | None:
    """The width of the terminal or of COLUMNS (``None``); into a file or a pipe there is room for more."""
    return None if stream.isatty() or os.environ.get("COLUMNS") else 160


out = Console(highlight=False, width=_width(sys.stdout))
err = Console(stderr=True, highlight=False, width=_width(sys.stderr))
SOLID_CHARS = 28
# The key of URLs that are of other hosts than those of sites, and so are shown whole.
WHOLE_ADDRESS = "address"
LINES = Box("    \n    \n ── \n    \n    \n    \n    \n    \n")
BRICKS: dict[str, str] = {Severity.LOW: "▂", Severity.MEDIUM: "▄", Severity.HIGH: "▆", Severity.CRITICAL: "█"}
TONES: dict[str, str] = {
    Severity.LOW: "rgb(190,140,110)",
    Severity.MEDIUM: "rgb(204,138,100)",
    Severity.HIGH: "rgb(190,95,60)",
    Severity.CRITICAL: "bold rgb(200,60,40)",
}

SIGNS: dict[str, str] = {
    Change.NEW: "▲",
    Change.NEW_WITH_PAGE: "▲",
    Change.NEW_TO_VIEW: "▲",
    Change.RETURNED: "↺",
    Change.FIXED: "▼",
    Change.GONE_WITH_PAGE: "▽",
    Change.STILL_THERE: "■",
    Change.UNVERIFIED: "▨",
    Change.CHECK_CHANGED: "◇",
}


def severity(name: str) -> Text:
    """A severity as a pile and its word; in a tone of clay where the terminal has more than 16 colours."""
    many = out.color_system in ("256", "truecolor")
    return Text(f"{BRICKS[name]} {name}", style=TONES[name] if many else "")


def course(health: float | None, width: int = 20) -> str:
    """Health as a course of bricks."""
    if health is None:
        return "no page was scored"
    laid = round(health / 100 * width)
    return "▮" * laid + "▯" * (width - laid)


def number(value: float | int | None, digits: int = 1) -> str:
    """A figure with thousands separators; a dash for none."""
    if value is None:
        return "–"
    return f"{value:,.{digits}f}" if isinstance(value, float) else f"{value:,}"


def count(n: int, noun: str) -> str:
    """``1 page``, ``2 pages``; a noun in -x or -s takes -es."""
    return f"{n:,} {noun}" + ("" if n == 1 else "es" if noun.endswith(("x", "s")) else "s")


def progress_line(figures: Progress) -> str:
    """How far a crawl has come, in one line: the figures that the worker tells, the most important first."""
    parts = [
        count(figures.pages_done, "page"),
        f"{figures.queued:,} waiting",
        f"{figures.known:,} known",
        f"{figures.per_s}/s",
    ]
    if figures.pages_done:
        parts.append("time left unknown" if figures.left_s is None else f"{duration(figures.left_s)} left")
    if figures.answers:
        parts.append(", ".join(f"{name} {number:,}" for name, number in sorted(figures.answers.items())))
    if figures.slower > 1:
        parts.append(f"{figures.slower:g} times slower than planned")
    return " · ".join(parts)


def duration(seconds: float) -> str:
    """A span of time in its two largest units."""
    minutes, rest = divmod(round(seconds), 60)
    if minutes < 60:
        return f"{minutes} min {rest} s" if minutes else f"{rest} s"
    return f"{minutes // 60} h {minutes % 60} min"


def local(text: str, host: str) -> str:
    """A text with the URLs of a host as paths, for where the host is told beside it."""
    return re.sub(rf"https?://{re.escape(host)}(?=/)", "", text) if host else text


def table(rows: Sequence[dict[str, Any]], columns: Sequence[tuple[str, str]], empty: str) -> None:
    """Rows as a readable table; ``columns`` are (key, heading) pairs, the least important last. With no rows, a sentence on stderr."""
    if not rows:
        err.print(empty)
        return
    cells = {key: [_cell(key, row.get(key)) for row in rows] for key, _ in columns}
    for key, texts in cells.items():
        if key == WHOLE_ADDRESS:
            continue
        plain = [text.plain for text in texts]
        if (paths := without_origin(plain)) != plain:
            cells[key] = [Text(path) for path in paths]
    shapes = [Column(heading, [c.plain for c in cells[key]], _is_solid(key, rows)) for key, heading in columns]
    kept = fit(shapes, out.width)
    drawn = Table(box=LINES, pad_edge=False, header_style="bold", show_edge=False)
    for (key, heading), shape in zip(columns, kept, strict=False):
        drawn.add_column(
            shown(shape, heading), justify="right" if _is_number(key, rows) else "left", width=shape.width, overflow="fold"
        )
        if shape.is_url or shape.is_host:
            cells[key] = [Text(shown(shape, text.plain)) for text in cells[key]]
    for row in zip(*(cells[key] for (key, _), _ in zip(columns, kept, strict=False)), strict=True):
        drawn.add_row(*row)
    out.print(drawn)
    if left := [heading for _, heading in columns[len(kept) :] if heading]:
        err.print(f"Left out for lack of room: {', '.join(left)}.", style="dim")


def _is_number(key: str, rows: Sequence[dict[str, Any]]) -> bool:
    values = [row.get(key) for row in rows]
    if key in ("gain", "change") or all(isinstance(value, int | float | None) for value in values):
        return True
    return all(isinstance(value, str) and (not value or value == "–" or _FIGURE.fullmatch(value)) for value in values)


def _is_solid(key: str, rows: Sequence[dict[str, Any]]) -> bool:
    """Whether cells must stay whole: figures, days, ids, words of closed sets."""
    values = [str(row.get(key) or "") for row in rows]
    if key == "severity" or _is_number(key, rows):
        return True
    if all(not v or _DAY.fullmatch(v) or _MOMENT.fullmatch(v) for v in values):
        return True
    return all(" " not in v and len(v) <= SOLID_CHARS for v in values)


def _cell(key: str, value: Any) -> Text:
    if key == "severity" and value in BRICKS:
        return severity(value)
    if isinstance(value, bool):
        return Text("yes" if value else "no")
    if isinstance(value, int | float):
        return Text(number(value))
    if isinstance(value, list):
        return Text(visible(", ".join(str(v) for v in value)))
    if isinstance(value, dict):
        return Text(visible(", ".join(f"{name} {v}" for name, v in value.items())))
    return Text("" if value is None else visible(dated(str(value))))


_FIGURE = re.compile(r"[+−]?[\d,]+(\.\d+)?( (%|KiB|ms|words|clicks|points))?")
_DAY = re.compile(r"\d{4}-\d\d-\d\d")
_MOMENT = re.compile(r"\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d[.\d]*(Z|[+-]\d\d:\d\d)")


def dated(text: str) -> str:
    """Days and moments (ISO 8601, in UTC) as people read them: 26 Nov 2026, 14:05. Anything else as it is."""
    if _MOMENT.fullmatch(text):
        return f"{datetime.fromisoformat(text).astimezone(UTC):%d %b %Y, %H:%M}"
    return f"{date.fromisoformat(text):%d %b %Y}" if _DAY.fullmatch(text) else text


def emit(rows: Any, form: str, columns: Sequence[tuple[str, str]], empty: str = "Nothing found.") -> None:
    """Rows in the form a person asked for: ``table`` with its columns, ``json`` or ``csv`` with all there is."""
    if form == "json":
        sys.stdout.write(json.dumps(rows, ensure_ascii=False, indent=2, default=str) + "\n")
        return
    listed = rows if isinstance(rows, list) else [rows]
    if form == "csv":
        sys.stdout.write(to_csv(listed, list(listed[0]) if listed else [key for key, _ in columns]))
    else:
        table(listed, columns, empty)
