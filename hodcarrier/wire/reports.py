"""Reports."""

from __future__ import annotations

from datetime import date, datetime

from hodcarrier.wire.base import Wire


class ReportBody(Wire):
    """A new report over a span of days (both inclusive)."""

    site_id: int
    from_day: date
    to_day: date
    title: str = ""
    note: str = ""


class ReportOut(Wire):
    """A report that was made."""

    id: int
    site_id: int
    site_host: str
    client_name: str
    title: str
    from_day: date
    to_day: date
    note: str
    created_at: datetime
