"""Spans of whole weeks that are compared: one, and the equally long one before it. Each weekday is in both as often."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

from hodcarrier.core.errors import InvalidInput

WEEKS = 4


@dataclass(frozen=True)
class Span:
    """``first`` to ``last``, and from ``before`` to the day before ``first``."""

    before: date
    first: date
    last: date

    @property
    def before_last(self) -> date:
        """The last day of the one before."""
        return self.first - timedelta(days=1)


def span_of(last: date, weeks: int = WEEKS) -> Span:
    """So many weeks up to a day, and as many before them."""
    first = last - timedelta(days=7 * weeks - 1)
    return Span(first - timedelta(days=7 * weeks), first, last)


def check_weeks(weeks: int, most: int) -> None:
    """Raise :class:`InvalidInput` for a number of weeks that is not compared."""
    if not 1 <= weeks <= most:
        raise InvalidInput(f"{weeks} weeks is no period.", f"Give 1 to {most}.", "weeks")
