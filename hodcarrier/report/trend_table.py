"""A figure over time as a table: its points, with what explains them, and remarks among them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from hodcarrier.core.states import Every
from hodcarrier.report.workbook import Sheet
from hodcarrier.wire.trends import TrendOut


def trend_table(trend: TrendOut) -> Sheet:
    """A row for each point and each remark, the earlier first."""
    runs = {"at": "When (UTC)", "value": trend.label, "pages": "Pages examined"}
    spans = {"first": "From", "last": "To", "value": trend.label}
    heads = {**(runs if trend.every == Every.RUN else spans), "note": "Note"}
    return heads, tuple(heads), _rows(trend)


def _rows(trend: TrendOut) -> Iterator[dict[str, Any]]:
    rows: list[tuple[str, dict[str, Any]]] = []
    for point in trend.points:
        first, last = (day.isoformat() if day else "" for day in (point.first, point.last))
        at = point.at.strftime("%Y-%m-%d %H:%M")
        row = {"at": at, "first": first, "last": last, "value": point.value, "pages": point.pages, "note": point.note}
        rows.append((last or at, row))
    for remark in trend.remarks:
        day = remark.day.isoformat()
        row = {"at": day, "first": day, "last": day, "value": None, "pages": None, "note": f"remark: {remark.text}"}
        rows.append((day, row))
    for _, row in sorted(rows, key=lambda each: each[0]):
        yield row
