"""Whether clicks rose or fell between two periods, more than days differ anyway.

Wilcoxon's signed-rank test (F. Wilcoxon, "Individual comparisons by ranking methods", 1945) of days paired by weekday: no figure of a single day can carry it,
and no shape of how days differ is assumed. Nothing is said of a few clicks.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from math import erfc, sqrt

import numpy as np
from numpy.typing import NDArray

# Clicks that both periods have together, before anything is said.
CLICKS_MIN = 30
# How much more or less it must be: a smaller change is not worth a look, however sure it is.
CHANGE_MIN = 0.2
# Far below 5 %: days follow each other, and many queries are looked at.
P_MAX = 0.005
TEST = "Wilcoxon's signed-rank test of days paired by weekday"
_PAIRS_MIN = 6  # of fewer, even the clearest is not below one in a hundred


class Movement(StrEnum):
    """What clicks did: rose, fell, neither so that one could tell, or there are too few."""

    ROSE = "rose"
    FELL = "fell"
    STEADY = "steady"
    TOO_FEW = "too-few"


@dataclass(frozen=True)
class Moved:
    """What was found: the movement, the share of change (0.5: half as many again; ``None`` from nothing), and the probability of a difference this clear by chance."""

    movement: Movement
    change: float | None
    p: float | None


def test_words(weeks: int, noun: str = "clicks") -> str:
    """The test in words, for so many weeks against as many before them."""
    days = 7 * weeks
    return f"{TEST}, {days} against {days} days; at least {CLICKS_MIN} {noun} and a change of {CHANGE_MIN:.0%}"


def moved(before: NDArray[np.float64], after: NDArray[np.float64]) -> Moved:
    """Compare clicks of days, ``before[i]`` with ``after[i]``, which are of one weekday.

    Raises ``ValueError`` where the periods are not equally long.
    """
    if len(before) != len(after):
        raise ValueError("the periods are not equally long")
    then, now = float(before.sum()), float(after.sum())
    change = (now - then) / then if then else None
    if then + now < CLICKS_MIN:
        return Moved(Movement.TOO_FEW, change, None)
    p = signed_rank(after - before)
    if p is None or p >= P_MAX or (change is not None and abs(change) < CHANGE_MIN):
        return Moved(Movement.STEADY, change, p)
    return Moved(Movement.ROSE if now > then else Movement.FELL, change, p)


def moved_between_halves(days: NDArray[np.float64]) -> Moved:
    """Compare the first half of days with the second, of whole weeks each."""
    half = len(days) // 2
    return moved(days[:half], days[half:])


def signed_rank(differences: NDArray[np.float64]) -> float | None:
    """The two-sided probability of signed ranks so far apart by chance; ``None`` for fewer than six pairs that differ.

    Ranks of ties are shared. Without ties the distribution is exact, otherwise the normal approximation has the variance of the ranks as they are.
    """
    rest = differences[differences != 0]
    number = len(rest)
    if number < _PAIRS_MIN:
        return None
    sizes, place, counts = np.unique(np.abs(rest), return_inverse=True, return_counts=True)
    upper = np.cumsum(counts)
    ranks = (upper - (counts - 1) / 2)[place]
    above = float(ranks[rest > 0].sum())
    if len(sizes) == number:
        ways = _ways(number)
        smaller = int(min(above, number * (number + 1) / 2 - above))
        return float(min(1.0, 2 * ways[: smaller + 1].sum() / ways.sum()))
    mean, deviation = number * (number + 1) / 4, float(np.sqrt((ranks**2).sum() / 4))
    # Half a rank towards the middle: sums are whole or half numbers, the normal distribution is smooth.
    z = max(0.0, abs(above - mean) - 0.5) / deviation
    return erfc(z / sqrt(2))


@cache
def _ways(number: int) -> NDArray[np.float64]:
    """In how many ways the ranks from 1 to a number have each sum."""
    ways = np.zeros(number * (number + 1) // 2 + 1)
    ways[0] = 1
    for rank in range(1, number + 1):
        ways[rank:] = ways[rank:] + ways[: len(ways) - rank]
    return ways
