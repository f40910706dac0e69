"""How far a crawl has come, as its worker tells it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

# Once every second page leads to a new one, nobody can say where a site ends.
GROWTH_MAX = 0.5
# Less than this is no span to measure a pace by.
SPAN_MIN_S = 0.001


@dataclass(frozen=True)
class Progress:
    """Figures of a crawl under way.

    ``per_s`` is the pace of the last commits; ``left_s`` an estimate (:func:`time_left`, ``None``: unknown); ``slower`` says how many times slower than planned the host is
    asked; ``answers`` counts kinds of answers (``2xx``, a failure); ``recent`` are the last URLs with status and failure.
    """

    pages_done: int = 0
    queued: int = 0
    pages_queued: int = 0
    known: int = 0
    elapsed_s: float = 0.0
    per_s: float = 0.0
    left_s: float | None = None
    slower: float = 1.0
    answers: dict[str, int] = field(default_factory=dict)
    recent: list[tuple[str, int | None, str]] = field(default_factory=list)


class Mark(NamedTuple):
    """Where a crawl was at a moment: seconds since it began, pages fetched, pages waiting."""

    at_s: float
    done: int
    waiting: int


def pace(marks: Sequence[Mark]) -> float:
    """Pages a second over the marks; 0 when there is no span to measure."""
    span_s = marks[-1].at_s - marks[0].at_s if marks else 0.0
    return (marks[-1].done - marks[0].done) / span_s if span_s >= SPAN_MIN_S else 0.0


def time_left(marks: Sequence[Mark], pages_max: int, time_max_s: float) -> float | None:
    """Seconds until a crawl ends, from its last marks; ``None`` when that is unknown.

    Each page fetched brings ``growth`` new ones, so that those waiting become ``waiting / (1 - growth)``. A growth of
    :data:`GROWTH_MAX` or more says nothing of the end, unless the pages known already reach the limit of pages. No crawl goes on
    beyond its limit of time.
    """
    speed = pace(marks)
    if not speed:
        return None
    first, last = marks[0], marks[-1]
    until_limit = max(0, pages_max - last.done)
    growth = max(0, last.waiting - first.waiting + last.done - first.done) / (last.done - first.done)
    if last.waiting >= until_limit:
        pages: float = until_limit
    elif growth >= GROWTH_MAX:
        return None
    else:
        pages = min(last.waiting / (1 - growth), until_limit)
    return min(pages / speed, max(0.0, time_max_s - last.at_s))
