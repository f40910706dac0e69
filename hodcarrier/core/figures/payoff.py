"""Whether a fix paid: clicks of the pages it concerned before and after, against the rest of the site.

Difference in differences as a ratio: what the site's other pages did in the same time is what would have been without the fix (O. Ashenfelter and D. Card, "Using the longitudinal structure
of earnings", 1985). The interval is from a bootstrap over days paired by weekday (B. Efron, "Bootstrap methods", 1979), drawn in runs of days, as days follow each other.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.states import PaidEnd

DAYS = 28
# Clicks that the pages must have had in both periods together, and the rest of the site in each.
CLICKS_MIN = 60
REST_MIN = 100
_DRAWS = 4_000
_RUN = 3  # days that are drawn together
# Student's t of 97.5 % with as many degrees of freedom as there are runs in the period, less one: what few runs say of how days differ is itself not sure.
_T = 2.288
_SEED = 20_260_101  # the same figures have the same interval

Days = NDArray[np.float64]


@dataclass(frozen=True)
class Paid:
    """What was found. ``change`` is the share by which clicks differ from what they would have been (0.31: 31 % more), ``low`` and ``high`` its 95 % interval;
    all are ``None`` where nothing can be told."""

    end: PaidEnd
    before: int
    after: int
    rest_before: int
    rest_after: int
    change: float | None = None
    low: float | None = None
    high: float | None = None


def paid(before: Days, after: Days, rest_before: Days, rest_after: Days) -> Paid:
    """Compare clicks of days: those of the pages, and those of the rest of the site. ``x[i]`` of each is of one weekday.

    Raises ``ValueError`` where they are not of :data:`DAYS` days.
    """
    if {len(each) for each in (before, after, rest_before, rest_after)} != {DAYS}:
        raise ValueError(f"the periods are not of {DAYS} days")
    counts = np.stack((before, after, rest_before, rest_after)).astype(np.float64)
    sums = counts.sum(axis=1)
    one, two, rest_one, rest_two = (int(each) for each in sums)
    if one + two < CLICKS_MIN or min(rest_one, rest_two) < REST_MIN:
        return Paid(PaidEnd.TOO_FEW, one, two, rest_one, rest_two)
    ratio = float(_ratio(sums[:, None])[0])
    number = counts.shape[1]
    drawn = np.log(_ratio(counts[:, _runs(number)].sum(axis=2)))
    # Draws from so few days differ less than days do: widened by what that leaves out.
    spread = _T * float(drawn.std()) * math.sqrt(number / (number - _RUN))
    low, high = ratio * math.exp(-spread), ratio * math.exp(spread)
    end = PaidEnd.ROSE if low > 1 else PaidEnd.FELL if high < 1 else PaidEnd.NO_DIFFERENCE
    return Paid(end, one, two, rest_one, rest_two, ratio - 1, low - 1, high - 1)


def _ratio(sums: Days) -> Days:
    """How the pages went against the rest. Half a click more each: nothing is divided by none (J. B. S. Haldane, 1955)."""
    before, after, rest_before, rest_after = sums + 0.5
    ratio: Days = (after / before) / (rest_after / rest_before)
    return ratio


def _runs(number: int) -> NDArray[np.int64]:
    """Which days each draw consists of: runs of days that begin anywhere and go on from the last to the first."""
    begins = np.random.default_rng(_SEED).integers(0, number, (_DRAWS, -(-number // _RUN)))
    return ((begins[:, :, None] + np.arange(_RUN)) % number).reshape(_DRAWS, -1)[:, :number]
