"""How sure figures of samples are: against a reference, and by how often they hold the truth."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from hodcarrier.core.benchmark.intervals import of_mean, of_percentile, wilson

SAMPLES = 2_000


@pytest.mark.parametrize(
    ("hits", "total", "low", "high"),
    [
        (0, 0, 0.0, 1.0),
        (0, 76, 0.0, 0.0481),
        (0, 10, 0.0, 0.2775),
        (5, 10, 0.2366, 0.7634),
        (10, 10, 0.7225, 1.0),
        (1, 100, 0.0018, 0.0545),
    ],
)
def test_wilson(hits: int, total: int, low: float, high: float) -> None:
    assert wilson(hits, total) == pytest.approx((low, high), abs=5e-4)


@given(st.integers(1, 5000).flatmap(lambda n: st.tuples(st.integers(0, n), st.just(n))))
def test_wilson_is_that_of_the_reference(case: tuple[int, int]) -> None:
    hits, total = case
    reference = stats.binomtest(hits, total).proportion_ci(0.95, "wilson")
    assert wilson(hits, total) == pytest.approx((reference.low, reference.high), abs=1e-9)


@given(st.lists(st.floats(-1e6, 1e6), min_size=1, max_size=60), st.sampled_from([0.5, 0.9]))
def test_a_percentile_has_the_interval_of_endless_resampling(values: list[float], share: float) -> None:
    """That a resample's percentile is at most a value has the probability that the binomial distribution gives."""
    ordered = np.sort(np.array(values))
    number = len(ordered)
    rank = max(1, int(np.ceil(share * number)))
    reached = stats.binom.sf(rank - 1, number, np.arange(1, number + 1) / number)
    low, high = (ordered[np.argmax(reached >= at - 1e-12)] for at in (0.025, 0.975))
    assert of_percentile(np.array(values), share) == (low, high)


@given(st.lists(st.floats(0, 100), min_size=2, max_size=50))
def test_the_interval_of_a_mean_is_that_of_the_reference(values: list[float]) -> None:
    found = np.array(values)
    spread = stats.norm.ppf(0.975) * stats.sem(found)
    assert of_mean(found) == pytest.approx((found.mean() - spread, found.mean() + spread), abs=1e-6)


def test_intervals_hold_the_truth_as_often_as_they_say() -> None:
    """93 to 97 of 100 samples: shares, medians, percentiles and means of a population that is known."""
    random = np.random.default_rng(7)
    held = dict.fromkeys(("share", "median", "p90", "mean"), 0)
    truth = {"share": 0.3, "median": float(np.log(2)), "p90": float(np.log(10)), "mean": 1.0}
    for _ in range(SAMPLES):
        low, high = wilson(int((random.random(200) < truth["share"]).sum()), 200)
        held["share"] += low <= truth["share"] <= high
        sample = random.exponential(size=200)
        found = {"median": of_percentile(sample, 0.5), "p90": of_percentile(sample, 0.9), "mean": of_mean(sample)}
        for name, (low, high) in found.items():
            held[name] += low <= truth[name] <= high
    assert all(0.93 <= count / SAMPLES <= 0.97 for count in held.values()), held


def test_nothing_has_no_interval() -> None:
    for of in (of_mean, lambda values: of_percentile(values, 0.5)):
        with pytest.raises(ValueError, match="no interval"):
            of(np.array([]))
    assert of_percentile(np.array([3.0]), 0.9) == (3.0, 3.0)
    assert of_mean(np.array([3.0])) == (-np.inf, np.inf)
