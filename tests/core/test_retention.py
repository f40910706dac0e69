"""Which run files are kept."""

from __future__ import annotations

from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.retention import Dated, removable

TODAY = date(2026, 11, 24)


def weekly(count: int) -> list[Dated]:
    """Runs of so many weeks, the last of them today."""
    return [Dated(f"w{n}", TODAY - timedelta(weeks=count - 1 - n)) for n in range(count)]


def test_all_of_the_last_weeks_then_one_a_month_and_always_the_first() -> None:
    runs = weekly(16)  # from 11 August
    gone = removable(runs, TODAY, 4)
    left = [run.day.isoformat() for run in runs if run.id not in gone]
    assert left == [
        "2026-08-11",
        "2026-08-25",
        "2026-09-29",
        "2026-10-27",
        "2026-11-03",
        "2026-11-10",
        "2026-11-17",
        "2026-11-24",
    ]


def test_the_day_that_is_just_as_old_as_the_rule_says_is_kept() -> None:
    at, before = Dated("at", TODAY - timedelta(weeks=2)), Dated("before", TODAY - timedelta(weeks=2, days=1))
    runs = [Dated("first", date(2026, 11, 1)), before, at, *weekly(2)]
    assert removable(runs, TODAY, 2) == ["before"]


def test_what_reports_name_and_the_last_two_stay() -> None:
    runs = [Dated(f"d{n}", date(2020, 1, 1 + n)) for n in range(6)]
    assert removable(runs, TODAY, 0) == ["d1", "d2", "d3"]
    assert removable(runs, TODAY, 0, {"d2"}) == ["d1", "d3"]
    assert removable(runs[:2], TODAY, 0) == removable([], TODAY, 0) == []


@given(st.lists(st.integers(0, 1500), max_size=60), st.integers(0, 60))
def test_whatever_goes_something_of_its_month_stays_and_a_second_time_nothing_goes(ages: list[int], weeks: int) -> None:
    runs = [Dated(str(n), TODAY - timedelta(days=age)) for n, age in enumerate(sorted(ages, reverse=True))]
    gone = set(removable(runs, TODAY, weeks))
    left = [run for run in runs if run.id not in gone]
    assert {(run.day.year, run.day.month) for run in left} == {(run.day.year, run.day.month) for run in runs}
    assert removable(left, TODAY, weeks) == []
