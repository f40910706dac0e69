"""A change in health divided among events: exactly, whatever their order."""

from collections.abc import Sequence
from fractions import Fraction
from itertools import permutations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.judge.health import SITE_ROW
from hodcarrier.core.judge.shares import EVENTS_MAX, STAYS, Steps, shown

Change = tuple[int, int, int]


def steps(
    counts: list[list[int]],
    changes: Sequence[Change] = (),
    comes: dict[int, int] | None = None,
    goes: dict[int, int] | None = None,
    site: list[int] | None = None,
    events: int = 2,
) -> Steps:
    """Steps from failing checks by page; ``changes`` are (page, severity, event), each one failing check more."""

    def by_page(known: dict[int, int] | None) -> np.ndarray:
        return np.array([(known or {}).get(page, STAYS) for page in range(len(counts))], dtype=np.int64)

    page, severity, event = (np.array([change[part] for change in changes], dtype=np.int64) for part in range(3))
    return Steps(
        events,
        np.array(counts, dtype=np.int64).reshape(-1, 4),
        by_page(comes),
        by_page(goes),
        np.array(site or [0, 0, 0, 0], dtype=np.int64),
        page,
        severity,
        event,
        np.ones(len(changes), dtype=np.int64),
    )


@st.composite
def any_steps(draw: st.DrawFn) -> Steps:
    events = draw(st.integers(1, 4))
    pages = draw(st.integers(1, 5))
    small = st.integers(0, 3)
    event = st.integers(0, events - 1)
    counts = draw(st.lists(st.lists(small, min_size=4, max_size=4), min_size=pages, max_size=pages))
    changes = draw(st.lists(st.tuples(st.integers(SITE_ROW, pages - 1), st.integers(0, 3), event), max_size=12))
    which = st.dictionaries(st.integers(0, pages - 1), event, max_size=pages)
    comes, goes = draw(which), draw(which)
    return steps(
        counts,
        changes,
        comes,
        {page: e for page, e in goes.items() if page not in comes},
        draw(st.lists(small, min_size=4, max_size=4)),
        events,
    )


def health(of: Steps, *happened: int) -> float | None:
    return of.health(np.array([event in happened for event in range(of.events)], dtype=bool))


@given(any_steps())
def test_shares_add_up_to_the_change_to_the_last_digit(of: Steps) -> None:
    shares = of.shares()
    before, after = health(of), health(of, *range(of.events))
    if before is None or after is None:
        assert shares is None
        return
    assert shares is not None
    worths = of._worths()
    assert worths is not None and sum(shares) == Fraction(worths[-1]) - Fraction(worths[0])
    assert float(sum(shares)) == pytest.approx(after - before, abs=1e-9)
    change = round(round(after, 1) - round(before, 1), 1)
    rounded = shown(shares, change)
    assert round(sum(rounded), 1) == change
    assert all(abs(a - float(b)) < 0.2 for a, b in zip(rounded, shares, strict=True))


@given(any_steps())
def test_shares_are_the_mean_over_all_orders(of: Steps) -> None:
    shares, before = of.shares(), health(of)
    if shares is None or before is None:
        return
    orders = list(permutations(range(of.events)))
    expected = [0.0] * of.events
    for order in orders:
        last = before
        for place, event in enumerate(order):
            now = health(of, *order[: place + 1])
            now = before if now is None else now
            expected[event] += (now - last) / len(orders)
            last = now
    assert [float(share) for share in shares] == pytest.approx(expected, abs=1e-9)


@given(any_steps())
def test_who_takes_no_step_has_no_share_and_joining_keeps_the_sum(of: Steps) -> None:
    shares = of.shares()
    if shares is None:
        return
    touched = of.touched()
    assert all(share == 0 for share, steps_taken in zip(shares, touched, strict=True) if not steps_taken)
    joined = of.joined([0] * of.events).shares()
    assert joined is not None and len(joined) == 1
    assert float(joined[0]) == pytest.approx(float(sum(shares)), abs=1e-9)


def test_two_events_that_do_the_same_share_alike() -> None:
    of = steps([[0, 0, 0, 0]], [(0, 1, 0), (0, 1, 1)])
    shares = of.shares()
    assert shares is not None and shares[0] == shares[1] < -20


def test_a_lost_page_with_faults_and_the_faults_that_no_longer_count() -> None:
    # One page with a high fault is blocked (critical), and its fault cannot be seen any more: 75 points are lost in all.
    of = steps([[0, 1, 0, 0]], [(0, 0, 0)])
    assert health(of) == 75.0 and health(of, 0) == 0.0
    assert [float(share) for share in of.shares() or []] == [-75.0, 0.0]


def test_a_page_comes_with_its_faults_and_another_goes() -> None:
    of = steps([[0, 0, 0, 0], [0, 0, 0, 0], [1, 0, 0, 0]], [(1, 0, 0)], comes={1: 0}, goes={2: 1})
    assert (health(of), health(of, 0), health(of, 1), health(of, 0, 1)) == (50.0, 100 / 3, 100.0, 50.0)
    assert float(sum(of.shares() or [])) == 0.0


def test_a_subset_without_pages_counts_as_no_change() -> None:
    of = steps([[0, 1, 0, 0], [0, 0, 0, 0]], comes={1: 0}, goes={0: 1})
    assert health(of, 1) is None
    assert [float(share) for share in of.shares() or []] == [18.75, 6.25]


def test_too_many_events_are_refused() -> None:
    with pytest.raises(ValueError, match="9 events"):
        steps([[0, 0, 0, 0]], events=EVENTS_MAX + 1).shares()


@given(st.lists(st.fractions(-50, 50, max_denominator=1000), min_size=1, max_size=8))
def test_what_is_shown_adds_up(shares: list[Fraction]) -> None:
    total = round(float(sum(shares)), 1)
    rounded = shown(shares, total)
    assert round(sum(rounded), 1) == total
    if any(shares):
        assert all(value == 0 for value, share in zip(rounded, shares, strict=True) if not share)
