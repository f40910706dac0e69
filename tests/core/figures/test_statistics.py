"""What is said of figures is seldom said for nothing: against references, and by simulation of figures without change."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from numpy.typing import NDArray
from scipy import stats

from hodcarrier.core.figures.brand import brand_of
from hodcarrier.core.figures.curve import IMPRESSIONS_MIN, QUERIES_MIN, Shown, lost_clicks, usual_rates
from hodcarrier.core.figures.movement import CLICKS_MIN, Movement, moved, signed_rank
from hodcarrier.core.figures.payoff import DAYS, Paid, paid
from hodcarrier.core.figures.words import paid_sentence
from hodcarrier.core.states import PaidEnd

WEEK = np.array([1.1, 1.2, 1.15, 1.1, 1.0, 0.7, 0.6])
SHIPPED_T = 2.288


def clicks(chance: np.random.Generator, days: int, mean: float, spread: float, follow: float) -> NDArray[np.float64]:
    """Made-up clicks of days: weekdays differ, days differ by more than chance, and follow each other."""
    state, states = chance.normal(), []
    for _ in range(days):
        state = follow * state + np.sqrt(1 - follow**2) * chance.normal()
        states.append(state)
    expected = mean * WEEK[np.arange(days) % 7] * np.exp(spread * np.array(states) - spread**2 / 2)
    return chance.poisson(expected).astype(float)


@given(st.lists(st.integers(-30, 30), min_size=6, max_size=40))
def test_signed_ranks_are_those_of_the_reference(differences: list[int]) -> None:
    values = np.array(differences, dtype=float)
    rest = values[values != 0]
    found = signed_rank(values)
    if len(rest) < 6:
        assert found is None
        return
    tied = len(np.unique(np.abs(rest))) < len(rest)
    with np.errstate(all="ignore"):
        reference = stats.wilcoxon(rest, correction=True, method="asymptotic" if tied else "exact").pvalue
    assert found == pytest.approx(reference, abs=1e-9)


@pytest.mark.parametrize(
    ("mean", "spread", "follow"), [(2, 0, 0), (10, 0.2, 0), (10, 0.2, 0.3), (100, 0.2, 0.3), (100, 0.3, 0.4)]
)
def test_of_figures_without_change_seldom_anything_is_said(mean: float, spread: float, follow: float) -> None:
    chance = np.random.default_rng(5)
    said = 0
    for _ in range(600):
        days = clicks(chance, 56, mean, spread, follow)
        said += moved(days[:28], days[28:]).movement in (Movement.ROSE, Movement.FELL)
    assert said / 600 < 0.05


def test_a_rise_and_a_fall_are_told() -> None:
    chance = np.random.default_rng(6)
    low, high = clicks(chance, 28, 10, 0.1, 0.2), clicks(chance, 28, 20, 0.1, 0.2)
    assert (moved(low, high).movement, moved(high, low).movement) == (Movement.ROSE, Movement.FELL)
    assert moved(low, high).change == pytest.approx(high.sum() / low.sum() - 1)


def test_of_a_few_clicks_and_of_small_changes_nothing_is_said() -> None:
    few = np.zeros(28)
    few[:7] = 4
    assert moved(np.zeros(28), few).movement == Movement.TOO_FEW and few.sum() < CLICKS_MIN
    assert moved(np.full(28, 100.0), np.full(28, 110.0) + np.arange(28) % 3).movement == Movement.STEADY
    with pytest.raises(ValueError, match="equally long"):
        moved(np.zeros(28), np.zeros(27))


@pytest.mark.parametrize(
    ("mean", "rest", "spread", "follow"), [(5, 60, 0, 0), (20, 300, 0.1, 0), (20, 300, 0.15, 0.2), (100, 1000, 0.1, 0.2)]
)
def test_the_interval_holds_what_was_true(mean: float, rest: float, spread: float, follow: float) -> None:
    chance = np.random.default_rng(7)
    held = 0
    for _ in range(500):
        before, after = clicks(chance, DAYS, mean, spread, follow), clicks(chance, DAYS, mean * 1.3 * 0.8, spread, follow)
        others = clicks(chance, DAYS, rest, spread, follow), clicks(chance, DAYS, rest * 0.8, spread, follow)
        found = paid(before, after, *others)
        assert found.low is not None and found.high is not None
        held += found.low <= 0.3 <= found.high
    assert 0.92 <= held / 500 <= 0.98


def test_the_shipped_t_is_that_of_so_many_runs_of_days() -> None:
    assert stats.t.ppf(0.975, DAYS / 3 - 1) == pytest.approx(SHIPPED_T, abs=0.01)


def test_the_same_figures_say_the_same() -> None:
    chance = np.random.default_rng(8)
    given_days = [clicks(chance, DAYS, mean, 0.1, 0.1) for mean in (20, 30, 300, 300)]
    assert paid(*given_days) == paid(*given_days)
    with pytest.raises(ValueError, match="28 days"):
        paid(*(each[:7] for each in given_days))


@pytest.mark.parametrize(
    ("found", "pages", "said"),
    [
        (Paid(PaidEnd.ROSE, 100, 150, 1000, 1100, 0.31, 0.18, 0.46), 25,
         "Clicks to the 25 pages rose 31 % (18 to 46 %) against the rest of the site in the four weeks after."),
        (Paid(PaidEnd.FELL, 100, 50, 1000, 1100, -0.4, -0.5, -0.2), 1,
         "Clicks to the page fell 40 % (20 to 50 %) against the rest of the site in the four weeks after."),
        (Paid(PaidEnd.NO_DIFFERENCE, 100, 104, 1000, 1100, 0.02, -0.08, 0.13), 2,
         "No difference that could be told: clicks to the 2 pages went −8 % to +13 % against the rest of the site in the four weeks after."),
        (Paid(PaidEnd.TOO_FEW, 12, 9, 1000, 1100), 2,
         "Too few clicks to tell: the 2 pages had 12 in the four weeks before and 9 in the four after (60 are needed)."),
        (Paid(PaidEnd.TOO_FEW, 1200, 900, 10, 11), 90,
         "It cannot be told: the rest of the site, with 10 and 11 clicks in the same weeks, is too little to compare the 90 pages with."),
    ],
)  # fmt: skip
def test_it_is_said_in_one_sentence(found: Paid, pages: int, said: str) -> None:
    assert paid_sentence(found, pages) == said


def test_pages_without_clicks_and_sites_without_rest_say_nothing() -> None:
    none, many = np.zeros(DAYS), np.full(DAYS, 20.0)
    assert paid(none, none, many, many).end == PaidEnd.TOO_FEW
    assert paid(many, many, none, many).end == PaidEnd.TOO_FEW
    assert paid(many, many * 2, many, many).end == PaidEnd.ROSE


@given(st.lists(st.tuples(st.floats(1, 20), st.integers(IMPRESSIONS_MIN, 5000), st.integers(0, 4000)), max_size=60))
def test_the_usual_rate_never_rises_further_down(rows: list[tuple[float, int, int]]) -> None:
    found = usual_rates([Shown(place, shown, min(shown, clicked)) for place, shown, clicked in rows])
    rates = [found[place] for place in sorted(found)]
    assert rates == sorted(rates, reverse=True) and all(0 <= rate <= 1 for rate in rates)


def test_a_query_that_is_clicked_less_than_usual_is_told_with_what_it_misses() -> None:
    usual = usual_rates([Shown(3, 1000, 100)] * QUERIES_MIN + [Shown(3.2, 1000, 10)])
    assert usual == {3: 0.1}
    assert lost_clicks(Shown(3.2, 1000, 10), usual) == pytest.approx(90)
    assert lost_clicks(Shown(3.2, 1000, 95), usual) is None, "not surely less"
    assert lost_clicks(Shown(3.2, IMPRESSIONS_MIN - 1, 0), usual) is None, "shown too seldom"
    assert lost_clicks(Shown(7, 1000, 0), usual) is None, "nothing is known of that position"


@pytest.mark.parametrize(
    ("query", "brand"),
    [
        ("tidewrack", True),
        ("Tide Wrack rope", True),
        ("tide-wrack.example", True),
        ("wrack", False),
        ("rope", False),
        ("", False),
    ],
)
def test_brand_queries_have_a_name_in_them(query: str, brand: bool) -> None:
    assert brand_of(["Tidewrack", " "])(query) is brand
