"""Health and gain: limits, monotony, and exactness against computing it again."""

from itertools import pairwise, product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray

from hodcarrier.core.judge.health import (
    PAGE_COST,
    SITE_COST,
    Counts,
    Faults,
    Floats,
    Gains,
    Health,
    loss,
    order_of_work,
    page_health,
    site_factor,
)


def test_one_fault_costs_d_and_many_cost_no_more_than_the_cap() -> None:
    for d, cap in (*PAGE_COST.values(), *SITE_COST.values()):
        losses = loss(np.arange(0, 500), d, cap)
        assert losses[0] == 0
        assert losses[1] == pytest.approx(d)
        assert np.all(np.diff(losses) >= 0)
        assert losses[-1] <= cap


def test_polish_never_outweighs_a_serious_fault() -> None:
    assert page_health(np.array([[0, 0, 0, 1000]]))[0] > page_health(np.array([[0, 1, 0, 0]]))[0]


def test_a_critical_fault_takes_everything() -> None:
    assert page_health(np.array([[1, 0, 0, 0], [0, 0, 0, 0]])).tolist() == [0.0, 100.0]


def test_critical_site_faults_halve() -> None:
    assert site_factor(np.array([[2, 0, 0, 0]]))[0] == pytest.approx(0.25)


def make_faults(pages: int, rows: list[tuple[int, int, int]]) -> Faults:
    unique = sorted(set(rows))
    columns = np.array(unique, dtype=np.int64).reshape(-1, 3)
    return Faults(pages, columns[:, 0], columns[:, 1], columns[:, 2])


def part_of(faults: Faults, first: int, end: int) -> Faults:
    """The pages from ``first`` to ``end`` − 1, numbered from 0; faults of the site go with the first part."""
    here = ((faults.page >= first) & (faults.page < end)) | ((faults.page < 0) & (first == 0))
    page = np.where(faults.page[here] < 0, -1, faults.page[here] - first)
    return Faults(end - first, page, faults.check[here], faults.severity[here])


def health_of(faults: Faults, mask: NDArray[np.bool_] | None = None) -> Health:
    health = Health(faults.pages)
    health.add(faults, mask)
    return health


def site_health(faults: Faults, mask: NDArray[np.bool_] | None = None) -> float | None:
    return health_of(faults, mask).value


def gains(faults: Faults, units: int, unit: Counts, cuts: list[int]) -> Floats:
    """The gains of fixes, gathered in parts that end before the pages in ``cuts``."""
    found = Gains(units)
    edges = sorted({0, *cuts, faults.pages})
    for first, end in pairwise(edges):
        part = part_of(faults, first, end)
        of_part = ((faults.page >= first) & (faults.page < end)) | ((faults.page < 0) & (first == 0))
        found.add(part.page_counts(), unit[of_part], part.page, part.severity)
    return found.points(health_of(faults))


def test_no_page_no_health() -> None:
    assert site_health(make_faults(0, [])) is None
    assert gains(make_faults(0, []), 3, np.array([], dtype=np.int64), []).tolist() == [0, 0, 0]


def test_no_fault_is_full_health() -> None:
    assert site_health(make_faults(5, [])) == 100.0


def test_example_by_hand() -> None:
    faults = make_faults(2, [(0, 0, 1), (0, 1, 2), (-1, 2, 3)])
    page = 100 * (1 - 0.25) * (1 - 0.06)
    assert site_health(faults) == pytest.approx((page + 100) / 2 * (1 - 0.005))


FAULTS = st.integers(1, 8).flatmap(
    lambda pages: st.tuples(
        st.just(pages),
        st.lists(st.tuples(st.integers(-1, pages - 1), st.integers(0, 9)), max_size=40).map(
            lambda rows: [(p, c, c % 4) for p, c in rows]
        ),
    )
)


@settings(deadline=None)
@given(FAULTS)
def test_health_is_between_0_and_100_and_falls_with_every_fault(case: tuple[int, list[tuple[int, int, int]]]) -> None:
    pages, rows = case
    before = 100.0
    for end in range(len(rows) + 1):
        now = site_health(make_faults(pages, rows[:end]))
        assert now is not None
        assert 0 <= now <= before + 1e-9
        before = now


@settings(deadline=None)
@given(FAULTS, st.integers(1, 4), st.lists(st.integers(0, 8)), st.randoms())
def test_gain_is_what_health_would_rise_by(
    case: tuple[int, list[tuple[int, int, int]]], units: int, cuts: list[int], chance: object
) -> None:
    pages, rows = case
    faults = make_faults(pages, rows)
    unit_of = [chance.randrange(units) for _ in range(len(faults.page))]  # type: ignore[attr-defined]
    found = gains(faults, units, np.array(unit_of, dtype=np.int64), [cut for cut in cuts if cut <= pages])
    now = site_health(faults)
    for unit in range(units):
        without = site_health(faults, np.array([u != unit for u in unit_of], dtype=bool))
        assert now is not None
        assert without is not None
        assert found[unit] == pytest.approx(without - now, abs=1e-9)


@settings(deadline=None)
@given(FAULTS, st.lists(st.integers(0, 8)))
def test_health_is_the_same_from_parts_of_any_size(case: tuple[int, list[tuple[int, int, int]]], cuts: list[int]) -> None:
    pages, rows = case
    faults, health = make_faults(pages, rows), Health(pages)
    for first, end in pairwise(sorted({0, *(cut for cut in cuts if cut <= pages), pages})):
        health.add(part_of(faults, first, end))
    assert health.value == pytest.approx(site_health(faults), abs=1e-9)
    assert health.site_factor == site_factor(faults.site_counts())[0]


def test_area_score_is_health_with_its_checks_alone() -> None:
    faults = make_faults(3, [(0, 0, 1), (1, 1, 2), (2, 1, 2)])
    only = site_health(faults, faults.check == 1)
    assert only == pytest.approx((100 + 94 + 94) / 3)


def test_order_of_work() -> None:
    rows = [(s, g, f, e) for s, g, f, e in product(("critical", "low"), (1.0, 5.0), (1, 4), ("small", "large"))]
    ordered = sorted(rows, key=lambda r: order_of_work(*r))
    assert ordered[0] == ("critical", 5.0, 1, "small")
    assert [r[0] for r in ordered] == ["critical"] * 8 + ["low"] * 8
