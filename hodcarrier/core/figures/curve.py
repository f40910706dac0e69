"""How often people click at each position on this very site, and which queries get fewer clicks than that."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.benchmark.intervals import wilson

POSITION_MAX = 20
# A query with fewer impressions shows no rate, and a position with fewer queries no median.
IMPRESSIONS_MIN = 100
QUERIES_MIN = 5


@dataclass(frozen=True)
class Shown:
    """A query or page in a period: its mean position (1 is the first), how often it was shown, and clicked."""

    position: float
    impressions: int
    clicks: int


def usual_rates(shown: Sequence[Shown]) -> dict[int, float]:
    """The usual rate of clicks by rounded position: medians weighted by impressions, and never more further down (pool adjacent violators,
    M. Ayer et al., "An empirical distribution function for sampling with incomplete information", 1955). Positions with too few queries are left out."""
    places: list[int] = []
    rates: list[float] = []
    weights: list[float] = []
    for place in range(1, POSITION_MAX + 1):
        there = [each for each in shown if round(each.position) == place and each.impressions >= IMPRESSIONS_MIN]
        if len(there) >= QUERIES_MIN:
            weight = np.array([each.impressions for each in there], dtype=np.float64)
            places.append(place)
            rates.append(_median(np.array([each.clicks for each in there]) / weight, weight))
            weights.append(float(weight.sum()))
    return dict(zip(places, _falling(rates, weights), strict=True))


def lost_clicks(each: Shown, usual: dict[int, float]) -> float | None:
    """How many clicks more it would have had at the usual rate of its position; ``None`` where nothing can be told, or where the 95 % interval of its rate (Wilson)
    does not lie below the usual one."""
    rate = usual.get(round(each.position))
    if rate is None or each.impressions < IMPRESSIONS_MIN:
        return None
    _, highest = wilson(min(each.clicks, each.impressions), each.impressions)
    return rate * each.impressions - each.clicks if highest < rate else None


def _median(values: NDArray[np.float64], weights: NDArray[np.float64]) -> float:
    order = np.argsort(values)
    reached = np.cumsum(weights[order])
    return float(values[order][int(np.searchsorted(reached, reached[-1] / 2))])


def _falling(values: Sequence[float], weights: Sequence[float]) -> list[float]:
    """The falling values that are nearest to these."""
    pools: list[tuple[float, float, int]] = []
    for value, weight in zip(values, weights, strict=True):
        pools.append((value, weight, 1))
        while len(pools) > 1 and pools[-2][0] < pools[-1][0]:
            (one, by_one, n), (other, by_other, m) = pools[-2:]
            pools[-2:] = [((one * by_one + other * by_other) / (by_one + by_other), by_one + by_other, n + m)]
    return [value for value, _, number in pools for _ in range(number)]
