"""Figures the crawl cannot know, imported from tables."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterator
from datetime import date

from sqlalchemy import select

from hodcarrier.core.errors import InvalidInput
from hodcarrier.register.models import Member, Metric, Site
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.metrics import MetricRow

METRIC_ROWS_MAX = 100_000


def import_metrics(work: Workspace, site_id: int, text: str, member: Member | None) -> list[MetricRow]:
    """Read a CSV of figures (``day``, ``name``, ``value``, ``source``); a figure for a day replaces the one before.

    Nothing is imported unless every row can be read. Raises :class:`InvalidInput` naming the row.
    """
    rows = []
    for number, row in enumerate(_table(text), 2):
        try:
            found = MetricRow(
                name=(row["name"] or "").strip(),
                day=date.fromisoformat((row["day"] or "").strip()),
                value=float(row["value"] or ""),
                source=row.get("source") or "",
            )
            if not found.name or not math.isfinite(found.value):
                raise ValueError("a figure has a name and a finite value")
        except (ValueError, TypeError):
            raise InvalidInput(
                f"Row {number} cannot be read: {row}.", "Write the day as YYYY-MM-DD, a name, and the value as a number.", "csv"
            ) from None
        rows.append(found)
        if len(rows) > METRIC_ROWS_MAX:
            raise InvalidInput("The table has more than 100,000 rows.", "Import it in parts.", "csv")
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        known = {(m.name, m.day): m for m in session.scalars(select(Metric).where(Metric.site_id == site_id))}
        for given in rows:
            metric = known.get((given.name, given.day))
            if metric is None:
                metric = known[(given.name, given.day)] = Metric(site_id=site_id, name=given.name, day=given.day)
                session.add(metric)
            metric.value, metric.source = given.value, given.source
        log(session, work.now(), member.id if member else None, "metrics imported", f"{len(rows)} rows")
    return rows


def list_metrics(work: Workspace, site_id: int) -> list[MetricRow]:
    """Imported figures of a site by name and day."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        rows = session.scalars(select(Metric).where(Metric.site_id == site_id).order_by(Metric.name, Metric.day))
        return [MetricRow(name=m.name, day=m.day, value=m.value, source=m.source) for m in rows]


def _table(text: str) -> Iterator[dict[str, str | None]]:
    """The rows of a CSV, whatever ends its lines. Raises :class:`InvalidInput` for what is no such table."""
    reader = csv.DictReader(io.StringIO(text.removeprefix("\ufeff"), newline=None))
    try:
        missing = {"day", "name", "value"} - set(reader.fieldnames or ())
        if missing:
            raise InvalidInput(
                f"The table lacks the column {', '.join(sorted(missing))}.", "Give day, name, value and, if known, source.", "csv"
            )
        yield from reader
    except csv.Error as error:
        raise InvalidInput(f"The table cannot be read: {error}.", "Write it as CSV with commas.", "csv") from None
