"""How sure a figure is that was taken from a sample: 95 % intervals."""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

Z = 1.959963984540054
TAIL = 0.025
Floats = NDArray[np.float64]


def wilson(hits: int, total: int, z: float = Z) -> tuple[float, float]:
    """The Wilson score interval (shares 0 to 1) of ``hits`` in ``total``; (0, 1) without any sample.

    E. B. Wilson, "Probable inference, the law of succession, and statistical inference", 1927.
    """
    if total == 0:
        return 0.0, 1.0
    share = hits / total
    spread = z * math.sqrt(share * (1 - share) / total + z * z / (4 * total * total))
    centre, scale = share + z * z / (2 * total), 1 + z * z / total
    # Clamped to the share: a bound that is 0 or 1 in theory misses it by the last digit.
    return min(share, max(0.0, (centre - spread) / scale)), max(share, min(1.0, (centre + spread) / scale))


def of_percentile(values: Floats, share: float) -> tuple[float, float]:
    """The bootstrap percentile interval of a percentile (``share``: 0.5 for the median), as it is after endlessly many resamples.

    A resample's percentile is at most the k-th smallest value just when enough of its draws are among the k smallest, and how many are is binomial:
    so the interval follows without drawing (J. S. Maritz and R. G. Jarrett, "A note on estimating the variance of the sample median", 1978).
    Raises ``ValueError`` without values.
    """
    if len(values) == 0:
        raise ValueError("a percentile of nothing has no interval")
    ordered = np.sort(values)
    number = len(ordered)
    rank = max(1, math.ceil(share * number))
    logs = np.concatenate(([0.0], np.cumsum(np.log(np.arange(1, number + 1)))))
    ways = logs[number] - logs[rank:] - logs[number - np.arange(rank, number + 1)]
    hits = np.arange(rank, number + 1)

    def reached(smallest: int) -> float:
        """How probable it is that a resample's percentile is at most the value at this place (from 1)."""
        if smallest == number:
            return 1.0
        part = smallest / number
        return float(np.exp(ways + hits * math.log(part) + (number - hits) * math.log1p(-part)).sum())

    def place(probability: float) -> int:
        low, high = 1, number
        while low < high:
            middle = (low + high) // 2
            if reached(middle) >= probability:
                high = middle
            else:
                low = middle + 1
        return low

    return float(ordered[place(TAIL) - 1]), float(ordered[place(1 - TAIL) - 1])


def of_mean(values: Floats) -> tuple[float, float]:
    """The interval of a mean by the normal approximation; a single value says nothing of how values differ and has all of it.

    Raises ``ValueError`` without values.
    """
    if len(values) == 0:
        raise ValueError("a mean of nothing has no interval")
    mean = float(values.mean())
    spread = Z * float(values.std(ddof=1)) / math.sqrt(len(values)) if len(values) > 1 else math.inf
    return mean - spread, mean + spread
