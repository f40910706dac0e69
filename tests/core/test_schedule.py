"""When runs are due, over the turns of the clocks."""

from datetime import UTC, date, datetime, time, timedelta
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.errors import InvalidSchedule
from hodcarrier.core.schedule import read_recurrence, spread_starts

ANCHOR = datetime(2026, 1, 1, tzinfo=UTC)


def due(rule: str, at: str, zone: str, now: str) -> str:
    moment = read_recurrence(rule, at, zone, ANCHOR).next_due(datetime.fromisoformat(now).replace(tzinfo=UTC))
    return "never" if moment is None else moment.strftime("%Y-%m-%d %H:%M")


@pytest.mark.parametrize(
    ("rule", "at", "zone", "now", "expected"),
    [
        ("daily", "02:00", "UTC", "2026-11-24 01:59", "2026-11-24 02:00"),
        ("daily", "02:00", "UTC", "2026-11-24 02:00", "2026-11-25 02:00"),
        ("weekly:TU", "02:00", "UTC", "2026-11-24 03:00", "2026-12-01 02:00"),
        ("weekly:TU,FR", "02:00", "UTC", "2026-11-24 03:00", "2026-11-27 02:00"),
        ("monthly:1", "06:30", "UTC", "2026-11-24 00:00", "2026-12-01 06:30"),
        ("monthly:31", "06:30", "UTC", "2026-11-24 00:00", "2026-12-31 06:30"),
        ("FREQ=MONTHLY;BYDAY=MO;BYSETPOS=1", "06:30", "UTC", "2026-11-24 00:00", "2026-12-07 06:30"),
        ("RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=TH", "02:00", "UTC", "2026-01-01 03:00", "2026-01-15 02:00"),
        ("daily", "02:00", "Europe/London", "2026-07-01 00:00", "2026-07-01 01:00"),
        ("daily", "02:00", "Asia/Kolkata", "2026-11-24 00:00", "2026-11-24 20:30"),
        # The clocks go forward in London on 29 March 2026 at 01:00: 01:30 does not exist and is taken an hour later.
        ("daily", "01:30", "Europe/London", "2026-03-28 12:00", "2026-03-29 01:30"),
        ("daily", "01:30", "Europe/London", "2026-03-29 02:00", "2026-03-30 00:30"),
        # They go back on 25 October 2026 at 02:00: 01:30 happens twice and the first is meant.
        ("daily", "01:30", "Europe/London", "2026-10-24 12:00", "2026-10-25 00:30"),
        ("daily", "01:30", "Europe/London", "2026-10-25 00:30", "2026-10-26 01:30"),
        ("FREQ=DAILY;COUNT=3", "02:00", "UTC", "2026-11-24 00:00", "never"),
        ("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30", "02:00", "UTC", "2026-11-24 00:00", "never"),
        ("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29", "02:00", "UTC", "2026-11-24 00:00", "2028-02-29 02:00"),
        ("FREQ=DAILY;INTERVAL=1000", "02:00", "UTC", "2026-11-24 03:00", "2028-09-27 02:00"),
        ("FREQ=MONTHLY;BYDAY=MO,TU;BYSETPOS=8", "02:00", "UTC", "2026-11-24 03:00", "2026-12-28 02:00"),
        ("FREQ=DAILY;UNTIL=20261125T000000", "02:00", "UTC", "2026-11-24 00:00", "2026-11-24 02:00"),
    ],
)
def test_next_due(rule: str, at: str, zone: str, now: str, expected: str) -> None:
    assert due(rule, at, zone, now) == expected


@given(
    st.datetimes(datetime(2026, 1, 2), datetime(2027, 12, 1)),
    st.sampled_from(["Europe/London", "America/New_York", "Australia/Lord_Howe", "UTC"]),
    st.integers(0, 23),
)
def test_due_is_later_than_now_and_within_a_day_or_so(now: datetime, zone: str, hour: int) -> None:
    moment = now.replace(tzinfo=UTC)
    found = read_recurrence("daily", f"{hour:02d}:15", zone, ANCHOR).next_due(moment)
    assert found is not None
    assert timedelta(0) < found - moment <= timedelta(hours=26)


@pytest.mark.parametrize(
    ("rule", "at", "zone", "field"),
    [
        ("hourly", "02:00", "UTC", "rule"),
        ("FREQ=MINUTELY", "02:00", "UTC", "rule"),
        ("weekly:XX", "02:00", "UTC", "rule"),
        ("FREQ=DAILY;BYMONTHDAY=31;BYMONTH=4", "02:00", "UTC", "rule"),
        ("FREQ=DAILY;BYSETPOS=366;BYDAY=MO", "02:00", "UTC", "rule"),
        ("FREQ=MONTHLY;BYDAY=1MO;BYMONTHDAY=20", "02:00", "UTC", "rule"),
        ("FREQ=MONTHLY;BYDAY=MO;BYSETPOS=5", "02:00", "UTC", "rule"),
        ("FREQ=YEARLY;BYWEEKNO=53;BYMONTH=6", "02:00", "UTC", "rule"),
        ("FREQ=DAILY;INTERVAL=0", "02:00", "UTC", "rule"),
        ("FREQ=DAILY;INTERVAL=1001", "02:00", "UTC", "rule"),
        ("FREQ=WEEKLY;BYDAY=2MO", "02:00", "UTC", "rule"),
        ("", "02:00", "UTC", "rule"),
        ("daily", "25:00", "UTC", "at"),
        ("daily", "noon", "UTC", "at"),
        ("daily", "02:00", "Middle/Earth", "zone"),
        ("daily", "02:00", "../etc/passwd", "zone"),
        ("daily", "02:00", "", "zone"),
    ],
)
def test_bad_schedules_name_the_field(rule: str, at: str, zone: str, field: str) -> None:
    with pytest.raises(InvalidSchedule) as caught:
        read_recurrence(rule, at, zone, ANCHOR)
    assert caught.value.field == field


@pytest.mark.parametrize(
    ("rule", "words"),
    [
        ("daily", "every day at 02:00 (UTC)"),
        ("weekly:TU", "every Tuesday at 02:00 (UTC)"),
        ("weekly:MO,FR", "every Monday and Friday at 02:00 (UTC)"),
        ("weekly:Monday, fri", "every Monday and Friday at 02:00 (UTC)"),
        ("monthly:1", "every month on day 1 at 02:00 (UTC)"),
        ("FREQ=WEEKLY;INTERVAL=2", "every 2 weeks at 02:00 (UTC)"),
    ],
)
def test_words(rule: str, words: str) -> None:
    assert read_recurrence(rule, "02:00", "UTC", ANCHOR).words == words


@pytest.mark.parametrize(
    ("rule", "words"),
    [
        ("daily", "every day at 02:04 (UTC)"),
        ("weekly:TU", "every Tuesday at 02:04 (UTC)"),
        ("weekly:MO,WE,FR", "every Monday, Wednesday and Friday at 02:04 (UTC)"),
        ("FREQ=WEEKLY;INTERVAL=2;BYDAY=TU", "every 2 weeks on Tuesday at 02:04 (UTC)"),
        ("monthly:1", "every month on day 1 at 02:04 (UTC)"),
        ("FREQ=MONTHLY;BYMONTHDAY=1,15", "every month on day 1 and day 15 at 02:04 (UTC)"),
        ("FREQ=MONTHLY;BYMONTHDAY=-1", "every month on the last day at 02:04 (UTC)"),
        ("FREQ=MONTHLY;BYDAY=1MO", "every month on the first Monday at 02:04 (UTC)"),
        ("FREQ=MONTHLY;BYDAY=-1FR", "every month on the last Friday at 02:04 (UTC)"),
        ("FREQ=MONTHLY;INTERVAL=3;BYDAY=2TU", "every 3 months on the second Tuesday at 02:04 (UTC)"),
        ("FREQ=MONTHLY;BYDAY=MO;BYSETPOS=1", "every month on Monday at 02:04 (UTC), BYSETPOS=1"),
        ("FREQ=YEARLY", "every year at 02:04 (UTC)"),
    ],
)
def test_a_recurrence_says_what_it_does(rule: str, words: str) -> None:
    assert read_recurrence(rule, "02:04", "UTC", datetime(2026, 11, 3, tzinfo=UTC)).words == words


@pytest.mark.parametrize(
    ("blackout", "expected"),
    [
        ([], "2026-11-26 02:00"),
        (["2026-11-26", "2026-11-27"], "2026-11-28 02:00"),
        (["2026-11-27"], "2026-11-26 02:00"),
    ],
)
def test_a_blackout_day_is_passed_over(blackout: list[str], expected: str) -> None:
    days = [date.fromisoformat(day) for day in blackout]
    found = read_recurrence("daily", "02:00", "UTC", ANCHOR).next_due(datetime(2026, 11, 25, 3, tzinfo=UTC), days)
    assert found is not None and found.strftime("%Y-%m-%d %H:%M") == expected


def test_a_blackout_day_is_one_of_the_schedules_zone() -> None:
    """02:00 on the 26th in Kolkata is still the 25th by UTC."""
    recurrence = read_recurrence("daily", "02:00", "Asia/Kolkata", ANCHOR)
    now = datetime(2026, 11, 25, 12, tzinfo=UTC)
    assert (
        recurrence.next_due(now, [date(2026, 11, 25)]) == recurrence.next_due(now) == datetime(2026, 11, 25, 20, 30, tzinfo=UTC)
    )
    assert recurrence.next_due(now, [date(2026, 11, 26)]) == datetime(2026, 11, 26, 20, 30, tzinfo=UTC)


def test_a_rule_whose_every_day_is_ruled_out_comes_after_them() -> None:
    days = [date(2026, 11, 24) + timedelta(weeks=n) for n in range(10)]
    found = read_recurrence("weekly:TU", "02:00", "UTC", ANCHOR).next_due(datetime(2026, 11, 23, tzinfo=UTC), days)
    assert found == datetime(2027, 2, 2, 2, tzinfo=UTC)


@given(st.integers(0, 1439), st.integers(0, 1439), st.integers(1, 300))
def test_starts_are_spread_evenly_over_their_span(first: int, last: int, count: int) -> None:
    begins, ends = (time(minute // 60, minute % 60) for minute in sorted((first, last)))
    starts = spread_starts(begins, ends, count)
    assert len(starts) == count and starts[0] == begins and (count == 1 or starts[-1] == ends) and starts == sorted(starts)
    minutes = [each.hour * 60 + each.minute for each in starts]
    steps = {b - a for a, b in pairwise(minutes)}
    assert not steps or max(steps) - min(steps) <= 1


def test_starts_are_not_spread_over_midnight() -> None:
    with pytest.raises(InvalidSchedule, match="comes before"):
        spread_starts(time(22), time(4), 3)
