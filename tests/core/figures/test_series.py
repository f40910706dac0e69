"""Figures from outside over time, and what is said of them."""

from __future__ import annotations

from datetime import date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.figures.series import Day, followed, over_time, period_of, periods
from hodcarrier.core.judge.trend import assess
from hodcarrier.core.judge.trend_words import Happening, between_words, verdict_words
from hodcarrier.core.states import Every, FigureKind

MONDAY = date(2026, 11, 2)
DAYS = st.dates(date(2024, 1, 1), date(2027, 1, 1))
PERIODS = st.sampled_from([Every.WEEK, Every.MONTH])


@given(first=DAYS, length=st.integers(0, 400), every=PERIODS)
def test_periods_stand_side_by_side_and_hold_every_day(first: date, length: int, every: Every) -> None:
    last = first + timedelta(days=length)
    found = periods(first, last, every)
    assert found[0].first <= first <= found[0].last and found[-1].first <= last <= found[-1].last
    for earlier, later in zip(found, found[1:], strict=False):  # noqa: RUF007
        assert later.first - earlier.last == timedelta(days=1)
    assert all(each.first.weekday() == 0 if every == Every.WEEK else each.first.day == 1 for each in found)


@given(days=st.dictionaries(DAYS, st.integers(0, 1000), min_size=1, max_size=60), every=PERIODS)
def test_whole_periods_are_the_sum_of_their_days(days: dict[date, int], every: Every) -> None:
    for each in over_time({day: Day(float(value)) for day, value in days.items()}, every, adds_up=True):
        inside = [value for day, value in days.items() if each.period.first <= day <= each.period.last]
        whole = len(inside) == (each.period.last - each.period.first).days + 1
        assert each.value == (sum(inside) if whole else None)
        assert bool(each.note) == (not whole)


def test_a_month_ends_where_it_ends() -> None:
    assert period_of(date(2028, 2, 5), Every.MONTH).last == date(2028, 2, 29)
    assert period_of(date(2026, 12, 31), Every.MONTH).last == date(2026, 12, 31)


def test_a_mean_is_weighted_and_a_state_is_what_it_was_last() -> None:
    week = {MONDAY + timedelta(days=n): Day(10.0 * n, 2.0 if n else 0.0) for n in range(7)}
    assert [each.value for each in over_time(week, Every.WEEK, adds_up=True)] == [210 / 12]
    nothing = {day: Day(0.0, 0.0) for day in week}
    assert [each.value for each in over_time(nothing, Every.WEEK, adds_up=True)] == [None]
    looks = {MONDAY: Day(4.0), MONDAY + timedelta(days=3): Day(6.0), MONDAY + timedelta(days=15): Day(7.0)}
    found = over_time(looks, Every.WEEK, adds_up=False)
    assert [(each.value, each.note) for each in found] == [(6.0, ""), (None, "no figures"), (7.0, "")]
    assert over_time({}, Every.WEEK, adds_up=True) == []


def test_what_can_be_followed_is_known_by_its_name() -> None:
    clicks, own = followed("search.clicks"), followed("site.Referring domains")
    assert clicks is not None and (clicks.kind, clicks.high_is_good) == (FigureKind.SEARCH, True)
    assert own is not None and (own.label, own.high_is_good) == ("Referring domains", None)
    assert followed("health") is None and followed("site.") is None and followed("check.x") is None


@pytest.mark.parametrize("figures, state", [((1, 2, 3), "rising"), ((3, 2, 1), "falling"), ((2, 2, 2), "steady")])
def test_a_figure_without_a_good_direction_rises_or_falls(figures: tuple[int, ...], state: str) -> None:
    points = [(datetime(2026, 11, 1) + timedelta(weeks=n), float(value)) for n, value in enumerate(figures)]
    assert assess(points, None, steady=0.1).state == state


def test_what_lies_between_two_days_is_told() -> None:
    first, last = (date(2026, 9, 29), 86.1), (date(2026, 12, 1), 13.0)
    assert between_words("Health", first, last, []) == (
        "Health: from 86.1 to 13.0 (−73.1) between 29 September and 1 December 2026."
    )
    happened = [Happening(date(2026, 11, n), f"“Thing {n}”") for n in (9, 3, 20, 25, 26)]
    said = between_words(
        "Health", first, last, [*happened, Happening(first[0], "“before”"), Happening(date(2027, 1, 1), "“later”")]
    )
    assert said.endswith(
        "In between: “Thing 3” on 3 November; “Thing 9” on 9 November; “Thing 20” on 20 November; and 2 things more."
    )
    same = between_words("Visits", (date(2025, 12, 30), 1200.0), (date(2026, 1, 6), 1200.0), [])
    assert same == "Visits: no change between 30 December 2025 and 6 January 2026."


@pytest.mark.parametrize(
    "count, noun, words", [(0, "week", "0 weeks are too few"), (1, "month", "1 month is too few"), (2, "run", "2 runs are")]
)
def test_too_few_are_told_by_what_they_are(count: int, noun: str, words: str) -> None:
    assert words in verdict_words("Visits", assess([]), count, noun)
