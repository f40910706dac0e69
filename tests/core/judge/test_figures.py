"""Trends, benchmark statistics, to-do judgements, waivers, plans, small rules."""

from datetime import UTC, date, datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from hodcarrier.core.errors import InvalidPlan
from hodcarrier.core.facts.indexable import header_directives, is_noindex, why_not_indexable
from hodcarrier.core.judge.fingerprints import fingerprint
from hodcarrier.core.judge.todos import add_working_days, default_due, judge
from hodcarrier.core.judge.trend import assess, order_by_chance
from hodcarrier.core.judge.waivers import Waiver, covered
from hodcarrier.core.plan import FIELDS, differences, plan_values, read_plan
from hodcarrier.core.web.link_header import canonical_from_header
from tests.core.figures.test_statistics import clicks

START = datetime(2026, 1, 6, 2, 0, tzinfo=UTC)


def weekly(*values: float) -> list[tuple[datetime, float]]:
    return [(START + timedelta(weeks=n), value) for n, value in enumerate(values)]


@pytest.mark.parametrize(
    ("values", "state"),
    [
        ((70, 72, 75, 77), "improving"),
        ((90, 85, 80, 70), "worsening"),
        ((80, 80.1, 79.9, 80), "steady"),
        ((70, 72, 20, 75, 77), "improving"),
        ((80, 81), "too few runs"),
        ((80,), "too few runs"),
        ((), "too few runs"),
    ],
)
def test_trend(values: tuple[float, ...], state: str) -> None:
    assert assess(weekly(*values)).state == state


def test_trend_of_a_figure_where_low_is_good() -> None:
    assert assess(weekly(30, 20, 10), high_is_good=False).state == "improving"


@pytest.mark.parametrize(
    ("values", "step"),
    [
        ((88, 85, 87, 87, 71, 82, 89, 90, 13), -77),
        ((20, 21, 20, 20, 90), 70),
        ((88, 85, 87, 87, 13, 86), None),  # back again
        ((90, 80, 70, 60, 50), None),  # as it went on
        ((80, 80, 80, 84), None),  # not far enough
        ((80, 80, 20), None),  # too few before
    ],
)
def test_a_last_figure_far_from_those_before_is_a_step(values: tuple[float, ...], step: float | None) -> None:
    assert assess(weekly(*values)).step == step


@given(st.lists(st.tuples(st.integers(0, 700), st.floats(-1e4, 1e4)), min_size=3, max_size=20, unique_by=lambda each: each[0]))
def test_the_slope_is_that_of_the_reference(found: list[tuple[int, float]]) -> None:
    found.sort()
    slope = stats.theilslopes([value for _, value in found], [day for day, _ in found]).slope
    assert assess([(START + timedelta(days=day), value) for day, value in found]).slope_per_month == pytest.approx(slope * 30)


@given(st.permutations(range(9)), st.integers(5, 9))
def test_whether_an_order_is_chance_is_near_the_exact_reference(order: list[int], count: int) -> None:
    values = np.array(order[:count], float)
    exact = stats.kendalltau(range(count), values, method="exact").pvalue
    assert order_by_chance(values) == pytest.approx(exact, abs=0.03)


@pytest.mark.parametrize("weeks", [4, 5, 9, 13, 26, 52])
@pytest.mark.parametrize(("mean", "spread", "follow"), [(3, 0.1, 0), (40, 0.2, 0.3), (300, 0.3, 0.4)])
def test_of_figures_without_change_seldom_a_trend_is_told(weeks: int, mean: float, spread: float, follow: float) -> None:
    chance = np.random.default_rng(weeks)
    told = 0
    for _ in range(400):
        sums = clicks(chance, weeks * 7, mean, spread, follow).reshape(weeks, 7).sum(axis=1)
        found = assess(weekly(*sums), steady=0.05 * float(np.median(sums)), varies=True)
        told += found.state != "steady"
    assert told / 400 < 0.05


def test_a_trend_of_figures_that_vary_is_told() -> None:
    chance = np.random.default_rng(3)
    sums = (clicks(chance, 13 * 7, 40, 0.1, 0.2) * np.linspace(1, 1.8, 13 * 7)).reshape(13, 7).sum(axis=1)
    assert assess(weekly(*sums), steady=20, varies=True).state == "improving"
    assert assess(weekly(1, 1, 1, 1, 1), varies=True).state == "steady"


def test_slope_is_per_month() -> None:
    found = assess(weekly(10, 20, 30))
    assert found.slope_per_month == pytest.approx(10 / 7 * 30)
    assert found.change == 20


def test_runs_at_one_moment_have_no_slope() -> None:
    assert assess([(START, 1.0), (START, 2.0), (START, 3.0)]).state == "too few runs"


@pytest.mark.parametrize(
    ("state", "outcomes", "after", "flag"),
    [
        ("done", ["cleared", "cleared"], "confirmed", ""),
        ("open", ["cleared"], "confirmed", ""),
        ("doing", ["cleared"], "confirmed", ""),
        ("done", ["cleared", "still"], "open", "still there on 1 of 2"),
        ("open", ["cleared", "still"], "open", "still there on 1 of 2"),
        ("open", ["still", "still"], "open", ""),
        ("done", ["cleared", "unverified"], "done", "1 of 2 places unverified"),
        ("doing", ["unverified"], "doing", "1 of 1 places unverified"),
        ("done", ["still", "unverified"], "open", "still there on 1 of 2"),
        ("open", [], "open", ""),
    ],
)
def test_judgement_of_todos(state: str, outcomes: list[str], after: str, flag: str) -> None:
    found = judge(state, outcomes)
    assert (found.state, found.flag) == (after, flag)


def test_confirmation_says_when_nobody_marked_it_done() -> None:
    assert "had not been marked done" in judge("open", ["cleared"]).sentence
    assert "had not been marked done" not in judge("done", ["cleared"]).sentence


@pytest.mark.parametrize(
    ("severity", "expected"),
    [("critical", "2026-11-27"), ("high", "2026-12-08"), ("medium", "2027-01-05"), ("low", "2027-03-30")],
)
def test_default_due_dates(severity: str, expected: str) -> None:
    assert default_due(severity, date(2026, 11, 24)).isoformat() == expected


@given(st.dates(date(2020, 1, 1), date(2030, 1, 1)), st.integers(0, 300))
def test_working_days_are_counted(day: date, days: int) -> None:
    found = add_working_days(day, days)
    assert found.weekday() < 5
    between = [day + timedelta(days=n) for n in range(1, (found - day).days + 1)]
    counted = sum(1 for d in between if d.weekday() < 5)
    assert counted == days if day.weekday() < 5 else counted in (days, days + 1)


def test_waivers() -> None:
    key = fingerprint("text-thin", "https://a.example/contact", "")
    page = Waiver("text-thin", "https://a.example/contact")
    pattern = Waiver("text-thin", "https://a.example/con*")
    single = Waiver("text-thin", fingerprint=key.hex())
    whole = Waiver("text-thin")
    for waiver in (page, pattern, single, whole):
        assert covered([waiver], "text-thin", "https://a.example/contact", key)
        assert not covered([waiver], "title-short", "https://a.example/contact", key)
    assert not page.covers("text-thin", "https://a.example/other", key)
    assert not single.covers("text-thin", "https://a.example/contact", b"\0" * 16)


@pytest.mark.parametrize(
    ("day", "holds"), [("2026-11-01", False), ("2026-11-02", True), ("2026-11-09", True), ("2026-11-10", False)]
)
def test_waivers_end(day: str, holds: bool) -> None:
    assert Waiver("x", start=date(2026, 11, 2), end=date(2026, 11, 9)).in_force(date.fromisoformat(day)) is holds


def test_fingerprints_keep_their_parts_apart() -> None:
    assert fingerprint("a", "b", "c") == fingerprint("a", "b", "c")
    assert len(fingerprint("a", "b", "c")) == 16
    assert fingerprint("a", "bc", "") != fingerprint("a", "b", "c")


def test_plan_defaults_need_only_an_address() -> None:
    plan = read_plan({"start": ["shop.example"]})
    assert plan.start == ("https://shop.example/",)
    assert plan.host == "shop.example"
    assert read_plan(plan_values(plan)) == plan


@pytest.mark.parametrize(
    "values",
    [
        {},
        {"start": []},
        {"start": ["nonsense"]},
        {"start": ["shop.example"], "pages_max": 0},
        {"start": ["shop.example"], "rate_per_s": 0},
        {"start": ["shop.example"], "rate_per_s": "quick"},
        {"start": ["shop.example"], "parallel": 65},
        {"start": ["shop.example"], "path_prefix": "x"},
        {"start": ["shop.example"], "robots_token": "my bot"},
        {"start": ["shop.example"], "agent": "a\r\nX: y"},
        {"start": ["shop.example"], "agent": "a\x00b"},
        {"start": ["shop.example"], "thresholds": {"words_min": float("nan")}},
        {"start": ["shop.example"], "thresholds": {"words_min": float("inf")}},
        {"start": ["shop.example"], "thresholds": {"words_min": -1}},
        {"start": ["shop.example"], "time_zone": "Nowhere"},
        {"start": ["shop.example"], "host_map": {"a": "b"}},
        {"start": ["shop.example"], "no_such_setting": 1},
    ],
)
def test_bad_plans_are_refused_in_words(values: dict[str, object]) -> None:
    with pytest.raises(InvalidPlan) as caught:
        read_plan(values)
    assert caught.value.hint


def test_differences_of_plans_leave_out_where_hosts_are() -> None:
    base = read_plan({"start": ["shop.example"], "host_map": {"shop.example:443": "127.0.0.1:1"}})
    head = read_plan({"start": ["shop.example"], "pages_max": 5})
    assert differences(base, head) == [("pages_max", "10,000", "5")]
    assert differences(base, base) == []
    assert FIELDS[0] == "start"


@pytest.mark.parametrize(
    ("values", "expected"),
    [
        (["noindex"], {"noindex"}),
        (["NoIndex, nofollow"], {"noindex", "nofollow"}),
        (["otherbot: noindex"], set()),
        (["unavailable_after: 25 Jun 2027"], {"unavailable_after: 25 jun 2027"}),
        (["max-snippet:20, noindex"], {"max-snippet:20", "noindex"}),
        ([], set()),
    ],
)
def test_header_directives(values: list[str], expected: set[str]) -> None:
    assert header_directives(values) == expected


def test_none_means_noindex() -> None:
    assert is_noindex(frozenset({"none"}))
    assert not is_noindex(frozenset({"nofollow"}))


@pytest.mark.parametrize(
    ("state", "status", "expected"),
    [
        ("disallowed", None, "disallowed"),
        ("queued", None, "not-reached"),
        ("skipped", None, "left-out"),
        ("done", None, "no-answer"),
        ("done", 301, "redirect"),
        ("done", 404, "error"),
        ("done", 200, "not-html"),
    ],
)
def test_why_a_page_cannot_be_indexed(state: str, status: int | None, expected: str) -> None:
    assert why_not_indexable(state=state, status=status, html=False, directives=frozenset(), canonical="", url="u") == expected


@pytest.mark.parametrize(
    ("value", "expected"),
    [
        ('<https://a.example/x>; rel="canonical"', "https://a.example/x"),
        ("</x>; rel=canonical", "https://a.example/x"),
        ('</y>; rel="next", </x>; rel="prev canonical"', "https://a.example/x"),
        ("</x>; rel=next", ""),
        ("<http://>; rel=canonical", ""),
        ("nonsense", ""),
    ],
)
def test_canonical_from_header(value: str, expected: str) -> None:
    assert canonical_from_header([value], "https://a.example/") == expected
