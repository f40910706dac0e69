"""Scores of two runs over the pages that both examined: what was not examined never counts as good."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import Sample, doc, page, text_file
from hodcarrier.core.states import Area
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.scores import ScoredRun, shared_scores
from tests.examine.test_examination import made_up
from tests.sample_site import NOW, audit

LINKS = "".join(f'<a href="/{n}">Page {n}</a>' for n in range(1, 10))
GOOD = "<title>A title of some length, number {}</title><meta name=description content='What page {} is about'>"
BAD = "<meta name=description content='What page {} is about'>"


def shop(untitled: int) -> list[Sample]:
    """Ten pages that link to each other, the last ``untitled`` of them without a title."""
    return [
        page(doc(f"<h1>Page {n}</h1>{LINKS}", (BAD if n > 9 - untitled else GOOD).format(n, n)), f"/{n}" if n else "/")
        for n in range(10)
    ]


def blocked(first: int) -> Sample:
    """A robots.txt that blocks the pages from ``first`` on."""
    return text_file("/robots.txt", "User-agent: *\n" + "".join(f"Disallow: /{n}\n" for n in range(first, 10)))


def run_of(answers: list[Sample], base: RunFile | None = None, **plan: object) -> RunFile:
    return audit(tuple(answers), plan, base, NOW)[0]


@pytest.mark.parametrize("seed", range(6))
def test_a_run_does_not_differ_from_itself(seed: int) -> None:
    run, summary = audit(made_up(seed))
    health, areas = shared_scores(ScoredRun.read(run), ScoredRun.read(run))
    assert health.pages == summary["pages_scored"] and (health.change == 0 or not health.pages)
    for area, shared in areas.items():
        assert shared.pages == summary["area_pages"][area]
        assert shared.change == (0 if shared.pages else None)


def test_the_change_of_an_area_is_the_difference_of_its_scores_when_the_pages_are_the_same() -> None:
    base = run_of(shop(5))
    head = run_of(shop(2), base)
    _, areas = shared_scores(ScoredRun.read(base), ScoredRun.read(head))
    before, after = base.meta("summary")["areas"], head.meta("summary")["areas"]
    assert areas[Area.TITLES].change == pytest.approx(after["titles"] - before["titles"], abs=0.1), "a summary has one decimal"
    assert areas[Area.TITLES].change > 0


def test_blocked_pages_are_lost_in_indexing_and_free_of_faults_nowhere() -> None:
    """The pages without a title are blocked: titles look better only because fewer of them were examined."""
    base = run_of([*shop(4), blocked(10)])
    head = run_of([*shop(4), blocked(6)], base)
    summary = head.meta("summary")
    assert summary["pages_scored"] == 10
    assert summary["area_pages"]["index"] == 10 and summary["area_pages"]["titles"] == 6
    assert summary["areas"]["index"] <= 60
    _, areas = shared_scores(ScoredRun.read(base), ScoredRun.read(head))
    assert (areas[Area.TITLES].pages, areas[Area.TITLES].pages_base) == (6, 10)
    assert areas[Area.TITLES].change == pytest.approx(0)
    assert areas[Area.INDEX].change is not None and areas[Area.INDEX].change < -30


def test_what_was_examined_on_too_few_pages_is_not_compared() -> None:
    base = run_of([*shop(4), blocked(10)])
    head = run_of([*shop(4), blocked(3)], base)
    health, areas = shared_scores(ScoredRun.read(base), ScoredRun.read(head))
    assert areas[Area.TITLES].pages == 3 and areas[Area.TITLES].change is None
    assert health.change is not None and health.change < -30, "the pages are known, scored, and lost"


def test_an_area_that_was_examined_nowhere_has_no_score() -> None:
    base = run_of([*shop(0), blocked(10)])
    everything = text_file("/robots.txt", "User-agent: *\nDisallow: /")
    summary = run_of([*shop(0), everything], base).meta("summary")
    assert summary["areas"]["titles"] is None and summary["area_pages"]["titles"] == 0
    assert summary["areas"]["index"] == 0


def test_a_site_wholly_on_http_has_no_score_for_https() -> None:
    origin = "http://shop.example"
    pages = [Sample(origin + path, doc("<h1>Rope</h1>" + '<a href="/a">a</a>', GOOD.format(1, 1))) for path in ("/", "/a")]
    summary = audit(tuple(pages), {"start": [origin + "/"]}, None, NOW)[1]
    assert summary["pages_scored"] > 0
    assert summary["areas"]["secure"] is None and summary["area_pages"]["secure"] == 0


def test_a_narrower_plan_is_not_compared() -> None:
    base = run_of(shop(4))
    head = run_of(shop(4), base, exclude=[f"/{n}" for n in range(3, 10)])
    health, areas = shared_scores(ScoredRun.read(base), ScoredRun.read(head))
    assert health.pages == 3 and health.change is None
    assert areas[Area.TITLES].change is None
