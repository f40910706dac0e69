"""Which days a scheduled report covers, and when it is made."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import UTC, date, datetime, time, timedelta
from itertools import takewhile
from zoneinfo import ZoneInfo

from hodcarrier.core.judge.todos import add_working_days
from hodcarrier.core.states import ReportSpan

_MONTHS = {ReportSpan.MONTH: 1, ReportSpan.QUARTER: 3}


def span_before(span: ReportSpan, day: date) -> tuple[date, date]:
    """The first and the last day of the last whole week (Monday to Sunday, ISO 8601), month or quarter that was over before ``day``."""
    if span == ReportSpan.WEEK:
        last = day - timedelta(days=day.weekday() + 1)
        return last - timedelta(days=6), last
    size = _MONTHS[span]
    begin = date(day.year, (day.month - 1) // size * size + 1, 1)
    return _months_on(begin, -size), begin - timedelta(days=1)


def due_after(span: ReportSpan, working_day: int, at: time, zone: str, now: datetime, holidays: Sequence[date] = ()) -> datetime:
    """When the next report is made, in UTC: at a wall time on the so-manieth working day (from 1; Monday to Friday without ``holidays``) after a span has ended, later than
    ``now``. A wall time that the clocks skip is taken an hour later (RFC 5545, 3.3.5)."""
    return next(due for due in _dues(span, working_day, at, zone, now, holidays) if due > now)


def due_by(span: ReportSpan, working_day: int, at: time, zone: str, now: datetime, holidays: Sequence[date] = ()) -> datetime:
    """When the latest report was to be made that is due by ``now``, in UTC; told as in :func:`due_after`."""
    dues = _dues(span, working_day, at, zone, now, holidays)
    return list(takewhile(lambda due: due <= now, dues))[-1]


def covered(span: ReportSpan, working_day: int, due: date, holidays: Sequence[date] = ()) -> tuple[date, date]:
    """The span whose report is made on ``due``, a day in the zone of its schedule: the latest that has so many working days behind it by then."""
    first, last = span_before(span, due)
    while add_working_days(last, working_day, holidays) > due:
        first, last = span_before(span, first)
    return first, last


def _dues(span: ReportSpan, working_day: int, at: time, zone: str, now: datetime, holidays: Sequence[date]) -> Iterator[datetime]:
    """When reports are made, one after another, from one that is surely due by ``now``."""
    today = now.astimezone(ZoneInfo(zone)).date()
    # Twenty working days can reach beyond the end of the next week or month: spans that ended a while ago may still be due.
    _, last = span_before(span, today - timedelta(days=120))
    while True:
        day = add_working_days(last, working_day, holidays)
        yield datetime.combine(day, at, ZoneInfo(zone)).astimezone(UTC)
        last = _next_last(span, last)


def _next_last(span: ReportSpan, last: date) -> date:
    """The last day of the span that follows one."""
    if span == ReportSpan.WEEK:
        return last + timedelta(days=7)
    return _months_on(last + timedelta(days=1), _MONTHS[span]) - timedelta(days=1)


def _months_on(first: date, months: int) -> date:
    """The first day of a month that lies so many months on."""
    number = first.year * 12 + first.month - 1 + months
    return date(number // 12, number % 12 + 1, 1)
