"""The forms that values in structured data must have."""

from __future__ import annotations

from datetime import UTC, date, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.web.codes import COUNTRIES, CURRENCIES, NUMBER, is_duration, is_moment, is_time


@given(st.dates(date(1000, 1, 1)))
def test_every_date_is_a_moment(day: date) -> None:
    assert is_moment(day.isoformat()) and is_moment(day.strftime("%Y%m%d").zfill(8))


@given(st.datetimes(datetime(1000, 1, 1), timezones=st.just(UTC)))
def test_every_instant_is_a_moment(moment: datetime) -> None:
    assert is_moment(moment.isoformat())


@pytest.mark.parametrize(
    "text", ["2026", "2026-05", "2026-W07", "2026-05-01T18:30", "2026-05-01T18:30:00.5+0200", "2026-05-01 18:30Z"]
)
def test_moments(text: str) -> None:
    assert is_moment(text)


@pytest.mark.parametrize(
    "text", ["", "1 May 2026", "2026-02-30", "2026-13-01", "01.05.2026", "26-05-01", "2026-05-01T", "2026-05-01TZ"]
)
def test_no_moments(text: str) -> None:
    assert not is_moment(text)


@pytest.mark.parametrize(("text", "fits"), [("18:30", True), ("18:30:05Z", True), ("T1830", True), ("6 pm", False), ("", False)])
def test_times(text: str, fits: bool) -> None:
    assert is_time(text) is fits


@pytest.mark.parametrize(
    ("text", "fits"),
    [
        ("PT30M", True),
        ("P1DT2H", True),
        ("PT1.5H", True),
        ("P2W", True),
        ("P", False),
        ("PT", False),
        ("30 min", False),
        ("P1H", False),
    ],
)
def test_durations(text: str, fits: bool) -> None:
    assert is_duration(text) is fits


def test_codes_are_of_the_length_that_their_standards_say() -> None:
    assert {len(code) for code in CURRENCIES} == {3} and {len(code) for code in COUNTRIES} == {2}
    assert {"EUR", "GBP", "JPY"} <= CURRENCIES and {"DE", "GB", "ZW"} <= COUNTRIES and "UK" not in COUNTRIES


@given(st.floats(allow_nan=False, allow_infinity=False))
def test_every_number_of_json_is_one(value: float) -> None:
    assert NUMBER.fullmatch(repr(value))
