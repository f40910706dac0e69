"""Which days a report covers, and when it is made: over months, quarters, holidays and changes of the clocks."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.judge.todos import add_working_days
from hodcarrier.core.reports.days import covered, due_after, due_by, span_before
from hodcarrier.core.states import ReportSpan

WEEK, MONTH, QUARTER = ReportSpan.WEEK, ReportSpan.MONTH, ReportSpan.QUARTER
DAYS = st.dates(date(2020, 1, 1), date(2035, 12, 31))
SPANS = st.sampled_from(list(ReportSpan))


@pytest.mark.parametrize(
    ("span", "day", "first", "last"),
    [
        (MONTH, date(2026, 12, 1), date(2026, 11, 1), date(2026, 11, 30)),
        (MONTH, date(2026, 1, 31), date(2025, 12, 1), date(2025, 12, 31)),
        (MONTH, date(2028, 3, 15), date(2028, 2, 1), date(2028, 2, 29)),
        (QUARTER, date(2026, 12, 2), date(2026, 7, 1), date(2026, 9, 30)),
        (QUARTER, date(2026, 1, 1), date(2025, 10, 1), date(2025, 12, 31)),
        (WEEK, date(2026, 12, 2), date(2026, 11, 23), date(2026, 11, 29)),
        (WEEK, date(2026, 11, 30), date(2026, 11, 23), date(2026, 11, 29)),
        (WEEK, date(2026, 11, 29), date(2026, 11, 16), date(2026, 11, 22)),
    ],
)
def test_the_last_whole_span(span: ReportSpan, day: date, first: date, last: date) -> None:
    assert span_before(span, day) == (first, last)


@given(SPANS, DAYS)
def test_a_span_is_over_and_the_next_one_is_not(span: ReportSpan, day: date) -> None:
    first, last = span_before(span, day)
    assert first <= last < day
    following_first, following_last = span_before(
        span, last + timedelta(days=100 if span == QUARTER else 35 if span == MONTH else 8)
    )
    assert following_first == last + timedelta(days=1)
    assert following_last >= day


@pytest.mark.parametrize(
    ("now", "working_day", "holidays", "due"),
    [
        ("2026-11-20T12:00", 1, [], "2026-12-01T08:00"),
        ("2026-12-01T08:00", 1, [], "2027-01-01T08:00"),
        ("2026-12-01T07:59", 1, [], "2026-12-01T08:00"),
        ("2026-12-02T12:00", 1, [date(2027, 1, 1)], "2027-01-04T08:00"),
        ("2026-10-20T12:00", 1, [], "2026-11-02T08:00"),
        ("2026-11-20T12:00", 3, [], "2026-12-03T08:00"),
        ("2026-06-20T12:00", 1, [], "2026-07-01T07:00"),
    ],
)
def test_the_first_working_day_of_a_month_in_london(now: str, working_day: int, holidays: list[date], due: str) -> None:
    moment = datetime.fromisoformat(now).replace(tzinfo=UTC)
    found = due_after(MONTH, working_day, time(8), "Europe/London", moment, holidays)
    assert found == datetime.fromisoformat(due).replace(tzinfo=UTC)


@given(
    SPANS,
    st.integers(1, 20),
    st.datetimes(datetime(2021, 1, 1), datetime(2034, 12, 31)),
    st.lists(DAYS, max_size=5),
    st.sampled_from(["UTC", "Europe/London", "Pacific/Auckland"]),
)
def test_what_is_due_covers_the_span_that_it_is_counted_from(
    span: ReportSpan, working_day: int, now: datetime, holidays: list[date], zone: str
) -> None:
    moment = now.replace(tzinfo=UTC)
    due = due_after(span, working_day, time(8), zone, moment, holidays)
    by_now = due_by(span, working_day, time(8), zone, moment, holidays)
    assert by_now <= moment < due
    assert due_after(span, working_day, time(8), zone, by_now, holidays) == due, "nothing is due between the two"
    day = due.astimezone(ZoneInfo(zone)).date()
    first, last = covered(span, working_day, day, holidays)
    assert add_working_days(last, working_day, holidays) == day, "the span that is told of is the one whose day has come"
    assert first <= last < day
    # No span between is left out: none falls due from now on and before.
    earlier_last = first - timedelta(days=1)
    before = datetime.combine(add_working_days(earlier_last, working_day, holidays), time(8), ZoneInfo(zone))
    assert before <= moment or before.date() == day
