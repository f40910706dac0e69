"""What is said of figures over time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from hodcarrier.core.judge.trend import Trend
from hodcarrier.core.words import difference, fill

REMARKS_SAID = 3


@dataclass(frozen=True)
class Happening:
    """Something that may explain a change: a day and what happened on it."""

    day: date
    text: str


def is_of_hundred(figure: str) -> bool:
    """Whether a figure is a score from 0 to 100."""
    return figure == "health" or figure.startswith("area.")


def verdict_words(label: str, verdict: Trend, count: int, noun: str, digits: int = 1) -> str:
    """Where a figure is going. ``noun`` is what it is known of: a run, a week, a month; ``digits`` are its decimals."""
    if verdict.slope_per_month is None:
        known = f"{fill('{n:' + noun + '}', {'n': count})} {'is' if count == 1 else 'are'}"
        return f"{label}: {known} too few for a trend; three are needed."
    state = str(verdict.state)
    if verdict.step:
        state += f" until the last {noun}, which {'fell' if verdict.step < 0 else 'rose'} by {abs(verdict.step):,.{digits}f}"
    change, slope = signed(verdict.change or 0, digits), signed(verdict.slope_per_month)
    return f"{label}: {state}. {change} over {count} {noun}s; {slope} a month by the median slope."


def between_words(
    label: str, first: tuple[date, float], last: tuple[date, float], happened: Sequence[Happening], digits: int = 1
) -> str:
    """How a figure differs between two days, and what happened in between, the earlier first."""
    (begin, before), (end, after) = first, last
    years = begin.year != end.year
    change = difference(before, after)
    went = "no change" if not change else f"from {before:,.{digits}f} to {after:,.{digits}f} ({signed(change, digits)})"
    said = f"{label}: {went} between {_day(begin, years)} and {_day(end, True)}."
    inside = sorted((each for each in happened if begin < each.day <= end), key=lambda each: each.day)
    if not inside:
        return said
    told = "; ".join(f"{each.text} on {_day(each.day, years)}" for each in inside[:REMARKS_SAID])
    rest = len(inside) - REMARKS_SAID
    more = f"; and {fill('{n:thing}', {'n': rest})} more" if rest > 0 else ""
    return f"{said} In between: {told}{more}."


def signed(value: float, digits: int = 1) -> str:
    """A change as it is shown."""
    return f"{value:+,.{digits}f}".replace("-", "−")


def _day(day: date, year: bool) -> str:
    return f"{day.day} {day:%B %Y}" if year else f"{day.day} {day:%B}"
