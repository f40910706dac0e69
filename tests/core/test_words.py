"""Figures as they are shown, and what is told of them."""

from __future__ import annotations

import pytest

from hodcarrier.core.errors import TooMany
from hodcarrier.core.words import as_shown, difference, figure, gap


@pytest.mark.parametrize(
    ("value", "unit", "shown"),
    [
        (12.345, "points", 12.3),
        (12.35, "%", 12.3),
        (12.355, "%", 12.4),
        (1536, "bytes", 1536),
        (1540, "bytes", 1536),
        (12.5, "ms", 12),
        (13.5, "ms", 14),
        (12.345, "words", 12),
    ],
)
def test_a_figure_is_compared_as_it_is_shown(value: float, unit: str, shown: float) -> None:
    assert as_shown(value, unit) == pytest.approx(shown)


@pytest.mark.parametrize(
    ("value", "unit", "said"),
    [
        (None, "%", "–"),
        (1234.56, "points", "1,234.6"),
        (12.34, "%", "12.3 %"),
        (2048, "bytes", "2.0 KiB"),
        (1234.4, "ms", "1,234 ms"),
    ],
)
def test_a_figure_in_words(value: float | None, unit: str, said: str) -> None:
    assert figure(value, unit) == said


def test_a_gap_in_words() -> None:
    assert [gap(value, "%") for value in (None, 0, 1.25, -1.25)] == ["–", "level", "+1.2 %", "−1.2 %"]
    assert difference(12.34, 15.56) == pytest.approx(3.3), "of 12.3 and 15.6, as they are shown"


def test_too_many_says_what_to_do() -> None:
    error = TooMany("Too many attempts.", "Wait a minute.", 60)
    assert (error.message, error.hint, str(error)) == ("Too many attempts.", "Wait a minute.", str(error))
    assert "Too many attempts." in str(error)
