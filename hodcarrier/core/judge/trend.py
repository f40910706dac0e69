"""Trends: a robust slope and a state in a word, so that one odd run does not flip the verdict."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from math import erfc, sqrt

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.words import difference

POINTS_MIN = 3
STEADY_PER_MONTH = 1.0
# A last figure is a step when it lies further from the median of those before than so many of their (normal) deviations, and than so many times
# what is steady; so many must be before it.
STEP_DEVIATIONS, STEP_STEADY, STEP_BEFORE = 4, 5, 3
_NORMAL = 1.4826
# Below 5 %: weeks follow each other a little, and several figures are looked at.
P_MAX = 0.02


class TrendState(StrEnum):
    """Where a figure is going, in a word; it rises or falls where nobody knows which is good."""

    IMPROVING = "improving"
    STEADY = "steady"
    WORSENING = "worsening"
    RISING = "rising"
    FALLING = "falling"
    TOO_FEW = "too few runs"


@dataclass(frozen=True, slots=True)
class Trend:
    """``slope_per_month``: change of the figure in 30 days (``None`` with too few runs). ``state``: a word for it.

    ``change`` is that from the first to the last figure, as both are shown; ``step`` that from the last but one to the last when the last lies far
    out, so that the slope does not speak of it.
    """

    state: TrendState
    slope_per_month: float | None
    change: float | None
    step: float | None = None


def assess(
    points: Sequence[tuple[datetime, float]],
    high_is_good: bool | None = True,
    steady: float = STEADY_PER_MONTH,
    *,
    varies: bool = False,
) -> Trend:
    """The Theil–Sen slope (median of all pairwise slopes) of dated figures.

    A slope within ± ``steady`` per 30 days is *steady*; fewer than three points are *too few runs*. A figure that ``varies`` by itself, such as clicks, is steady too as long
    as its order could be chance (:func:`order_by_chance`), which six points are the fewest to rule out.
    """
    if len(points) < POINTS_MIN:
        return Trend(TrendState.TOO_FEW, None, difference(points[0][1], points[-1][1]) if len(points) == 2 else None)
    days = np.array([(moment - points[0][0]).total_seconds() / 86400 for moment, _ in points])
    values = np.array([value for _, value in points])
    first, second = np.triu_indices(len(points), 1)
    apart = days[second] - days[first]
    usable = apart > 0
    if not usable.any():
        return Trend(TrendState.TOO_FEW, None, None)
    slope = float(np.median((values[second] - values[first])[usable] / apart[usable])) * 30
    state = TrendState.STEADY
    if abs(slope) > steady and not (varies and order_by_chance(values) >= P_MAX):
        if high_is_good is None:
            state = TrendState.RISING if slope > 0 else TrendState.FALLING
        else:
            state = TrendState.IMPROVING if (slope > 0) == high_is_good else TrendState.WORSENING
    step = difference(points[-2][1], points[-1][1]) if _is_far_out(values, steady) else None
    return Trend(state, slope, difference(points[0][1], points[-1][1]), step)


def order_by_chance(values: NDArray[np.float64]) -> float:
    """The two-sided probability that figures without a trend rise or fall as clearly: Kendall's test against time (H. B. Mann, "Nonparametric tests against trend",
    1945), with the variance of ties and a correction for continuity."""
    number = len(values)
    first, second = np.triu_indices(number, 1)
    score = abs(float(np.sign(values[second] - values[first]).sum()))
    _, ties = np.unique(values, return_counts=True)
    variance = (number * (number - 1) * (2 * number + 5) - float((ties * (ties - 1) * (2 * ties + 5)).sum())) / 18
    if variance <= 0 or score <= 1:
        return 1.0
    return erfc((score - 1) / sqrt(2 * variance))


def _is_far_out(values: NDArray[np.float64], steady: float) -> bool:
    """Whether the last figure lies far from those before, measured by their median absolute deviation."""
    before = values[:-1]
    if len(before) < STEP_BEFORE:
        return False
    centre = float(np.median(before))
    deviation = _NORMAL * float(np.median(np.abs(before - centre)))
    return abs(float(values[-1]) - centre) > max(STEP_DEVIATIONS * deviation, STEP_STEADY * steady)
