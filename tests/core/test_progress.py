"""How long a crawl still takes: known only where the site's end can be seen."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.progress import Mark, pace, time_left

HOUR = 3600.0


@pytest.mark.parametrize(
    ("marks", "pages_max", "left"),
    [
        pytest.param([], 1000, None, id="before the first page"),
        pytest.param([Mark(5, 0, 1)], 1000, None, id="one mark"),
        pytest.param([Mark(0, 0, 1), Mark(10, 0, 1)], 1000, None, id="no page in ten seconds"),
        pytest.param([Mark(0, 0, 100), Mark(10, 50, 50)], 1000, 10, id="nothing new"),
        pytest.param([Mark(0, 0, 100), Mark(10, 50, 62)], 1000, pytest.approx(62 / 0.76 / 5), id="one new for four fetched"),
        pytest.param([Mark(0, 0, 100), Mark(10, 50, 75)], 1000, None, id="one new for two fetched"),
        pytest.param([Mark(0, 0, 100), Mark(10, 50, 500)], 1000, None, id="the queue grows"),
        pytest.param([Mark(0, 0, 100), Mark(10, 50, 500)], 500, 90, id="the queue grows, but reaches the limit"),
        pytest.param([Mark(0, 0, 100), Mark(10, 50, 500)], 50, 0, id="the limit is reached"),
        pytest.param([Mark(HOUR - 10, 0, 1000), Mark(HOUR - 4, 6, 994)], 5000, 4, id="the limit of time comes first"),
        pytest.param([Mark(0, 400, 100), Mark(10, 450, 50)], 1000, 10, id="after a restart"),
    ],
)
def test_time_left(marks: list[Mark], pages_max: int, left: float | None) -> None:
    assert time_left(marks, pages_max, HOUR) == left


@given(st.lists(st.tuples(st.floats(0, 100), st.integers(0, 50), st.integers(0, 5000)), max_size=10), st.integers(1, 10_000))
def test_it_is_never_negative_nor_beyond_the_limits(steps: list[tuple[float, int, int]], pages_max: int) -> None:
    marks, at, done = [], 0.0, 0
    for seconds, pages, waiting in steps:
        at, done = at + seconds, done + pages
        marks.append(Mark(at, done, waiting))
    left = time_left(marks, pages_max, HOUR)
    if left is not None:
        assert 0 <= left <= HOUR
        assert left * pace(marks) <= max(0, pages_max - done) + 1e-6
