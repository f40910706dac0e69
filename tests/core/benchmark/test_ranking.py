"""Who stands where, and what is said of it."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.benchmark.measures import BY_ID, HEADLINE, MEASURES, Measure, behind
from hodcarrier.core.benchmark.ranking import Standing, compare_sites, differ, missing, sentences
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.inventory.filters import read_filter
from hodcarrier.core.states import Lead, MeasureGroup, Statistic
from hodcarrier.core.summary import SiteFigures, Taken

UP = Measure("health", "Health", MeasureGroup.HEALTH, "points", True, 0.5, Statistic.SCORE)
DOWN = Measure("slow", "Slowness", MeasureGroup.SPEED, "ms", False, 20, Statistic.MEDIAN, column="first_byte_ms")
SHARE = Measure("thin", "Thin pages", MeasureGroup.CONTENT, "%", False, 1.0, where="words < 200", among="indexable")


def site(sampled: bool = False, **values: float | None) -> SiteFigures:
    return SiteFigures({name: Taken(value, 100) for name, value in values.items() if value is not None}, sampled=sampled)


def test_ranks_and_gaps() -> None:
    up, down = compare_sites([site(health=80, slow=300), site(health=90, slow=500), site(health=80)], measures=[UP, DOWN])
    assert (up.ranks, up.gap_to_best, up.gap_to_median, up.lead) == ((2, 1, 2), -10, -5, Lead.BEHIND)
    assert (down.ranks, down.gap_to_best, down.lead, down.behind) == ((1, 2, None), 200, Lead.AHEAD, "")


def test_a_difference_below_the_resolution_is_none() -> None:
    row = compare_sites([site(slow=302), site(slow=290), site(slow=281), site(slow=250)], measures=[DOWN])[0]
    assert row.ranks == (4, 2, 2, 1) and row.lead == Lead.BEHIND
    level = compare_sites([site(slow=300), site(slow=290)], measures=[DOWN])[0]
    assert (level.ranks, level.lead, level.gap_to_best) == ((1, 1), Lead.LEVEL, -10)
    assert sentences([level], ["a", "b"]) == Standing()


def test_samples_whose_intervals_overlap_do_not_differ() -> None:
    one, other = Taken(40.0, 50, 27.0, 54.0), Taken(50.0, 50, 36.0, 63.0)
    assert not differ(SHARE, one, other)
    assert differ(SHARE, one, Taken(50.0, 900, 46.0, 56.0)) is False and differ(SHARE, one, Taken(80.0, 50, 67.0, 89.0))
    assert differ(SHARE, Taken(40.0, 50), Taken(50.0, 50)) and not differ(SHARE, one, None)


@given(st.lists(st.none() | st.floats(0, 100), min_size=2, max_size=8), st.booleans())
def test_ranks_are_those_of_a_competition(values: list[float | None], good: bool) -> None:
    """The best has rank 1; who is better by more than what tells has the smaller rank; a rank counts all that stand before it."""
    measure = Measure("x", "X", MeasureGroup.HEALTH, "points", good, 1.0, Statistic.SCORE)
    rows = compare_sites([site(x=value) for value in values], measures=[measure])
    if not rows:
        assert sum(value is not None for value in values) < 2
        return
    ranked = [
        (rank, value) for rank, value in zip(rows[0].ranks, rows[0].values, strict=True) if rank is not None and value is not None
    ]
    assert min(rank for rank, _ in ranked) == 1
    sign = 1 if good else -1
    for rank, value in ranked:
        assert rank <= 1 + sum(1 for _, other in ranked if sign * other > sign * value)
        assert rank == 1 + sum(1 for other, _ in ranked if other < rank)
        for other_rank, other in ranked:
            if sign * (value - other) >= measure.resolution:
                assert rank <= other_rank


def test_a_site_of_which_too_little_was_examined_takes_no_rank() -> None:
    figures = [site(health=80, slow=300), site(health=98, slow=100), site(health=70, slow=400)]
    up, down = compare_sites(figures, measures=[UP, DOWN], unranked=[1])
    assert up.values == (80, 98, 70) and up.ranks == (1, None, 2) and up.gap_to_best == 10
    assert down.ranks == (1, None, 2)
    said = sentences([up, down], ["own.example", "blocked.example", "other.example"])
    assert not said.trail and "blocked.example" not in " ".join(each.text for each in said.lead)
    own = compare_sites(figures, measures=[UP], unranked=[0])[0]
    assert own.ranks == (None, 1, 2) and own.gap_to_best is None and own.lead is None
    assert sentences([own], ["own.example", "a", "b"]) == Standing()


def test_a_measure_of_one_site_alone_is_no_comparison() -> None:
    assert compare_sites([site(health=80), site(health=None), None], measures=[UP]) == []


def test_sentences_say_who_leads_and_where_to_look() -> None:
    rows = compare_sites([site(health=80, slow=300, thin=20), site(health=90, slow=500, thin=2)], measures=[UP, DOWN, SHARE])
    said = sentences(rows, ["own.example", "other.example"])
    assert [each.text for each in said.lead] == ["Slowness: 300 ms, ahead of other.example at 500 ms."]
    assert [(each.text, each.behind) for each in said.close_first] == [
        ("Thin pages: 20.0 %, behind other.example at 2.0 %.", "indexable and (words < 200)"),
        ("Health: 80.0, behind other.example at 90.0.", ""),
    ]


@pytest.mark.parametrize("measure", MEASURES, ids=lambda measure: measure.id)
def test_every_measure_can_be_listed(measure: Measure) -> None:
    """Its filters name columns that there are, and so does what keeps a site behind."""
    kinds = COLUMNS[measure.of]
    for where in (measure.among, measure.where, behind(measure, 100.0)):
        read_filter(where, kinds)
    assert not measure.column or measure.column in kinds
    assert (measure.statistic in (Statistic.MEDIAN, Statistic.P90)) == bool(measure.column)
    assert (measure.statistic == Statistic.SHARE) == bool(measure.where) and measure.resolution > 0


def test_there_are_enough_of_each_kind() -> None:
    assert len(BY_ID) == len(MEASURES) >= 40 and set(BY_ID) >= HEADLINE
    assert {measure.group for measure in MEASURES} == set(MeasureGroup)


def test_the_widest_gaps_are_to_be_closed_first() -> None:
    measures = [Measure(f"m{n}", f"Measure {n}", MeasureGroup.HEALTH, "points", True, 0.5, Statistic.SCORE) for n in range(7)]
    own, other = site(**{f"m{n}": 80.0 for n in range(7)}), site(**{f"m{n}": 81.0 + n for n in range(7)})
    said = sentences(compare_sites([own, other], measures=measures), ["own.example", "other.example"])
    assert len(said.trail) == 7 and said.close_first == said.trail[:5]
    assert said.trail[0].text.startswith("Measure 6: 80.0")


def test_what_others_have_and_we_have_not() -> None:
    own = SiteFigures(has={"types": {"Article": 3}, "terms": {"rope": 9}})
    one = SiteFigures(has={"types": {"Article": 1, "Product": 4}, "terms": {"rope": 2, "sail": 5, "once": 1, "one shop": 19}})
    other = SiteFigures(has={"types": {"Product": 2, "Event": 9}, "terms": {"sail": 3}})
    found = missing([own, one, other, None], [10, 20, 20, 0])
    assert [(each.kind, each.name, each.pages) for each in found] == [
        ("types", "Product", [0, 4, 2, 0]),
        ("types", "Event", [0, 0, 9, 0]),
        ("terms", "sail", [0, 5, 3, 0]),
    ]
    assert missing([None, one], [0, 20]) == []
