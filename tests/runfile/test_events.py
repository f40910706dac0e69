"""What happened between two runs of made-up sites: everything that differs is in one event, and the shares add up."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from datetime import timedelta
from itertools import count
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page, text_file
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.states import Change
from hodcarrier.core.summary import Event
from hodcarrier.runfile.compared import Chosen, ComparedRuns
from hodcarrier.runfile.compared_writer import write_comparison
from hodcarrier.runfile.reader import RunFile
from tests.sample_site import NOW, ORIGIN, audit

Sites = tuple[Sample, ...]
Compare = Callable[..., ComparedRuns]
WEEK = timedelta(weeks=1)
BLOCKED = text_file("/robots.txt", "User-agent: *\nDisallow: /shop")


def product(name: str, description: str = "What it is", robots: str = "", title: str = "") -> Sample:
    described = f"<meta name=description content='{description} {name}'>" if description else ""
    directives = f"<meta name=robots content={robots}>" if robots else ""
    head = f"<title>{title or f'Product {name} of the shop'}</title>{described}{directives}"
    body = f"<article><h1>Product {name}</h1><section><p>About {name}.</p><dl><dt>Price<dd>1</dl></section></article>"
    return page(doc(body, head), f"/shop/{name}")


def shop(*products: Sample, also: str = "") -> Sites:
    links = "".join(f'<a href="{p.path}">{p.path}</a>' for p in products)
    return (page(doc(f"<h1>Rope</h1>{links}{also}", "<title>Rope and more for boats</title>")), *products)


NAMES = "abcd"
WHOLE = shop(*map(product, NAMES))


@pytest.fixture
def compare(tmp_path: Path) -> Compare:
    numbers = count()

    def compared(before: Sites, after: Sites, base_plan: Any = None, head_plan: Any = None, **more: Any) -> ComparedRuns:
        base, _ = audit(before, base_plan, now=NOW - WEEK)
        head, _ = audit(after, head_plan, base, **more)
        return keep(base, head, tmp_path / f"{next(numbers)}.compared")

    return compared


def keep(base: RunFile, head: RunFile, path: Path) -> ComparedRuns:
    write_comparison(base, head, path)
    found = ComparedRuns.open(path, base, head)
    assert found is not None
    check_whole(found, base, head)
    return found


def check_whole(found: ComparedRuns, base: RunFile, head: RunFile) -> None:
    """Nothing that differs is left out, and the shares are the change."""
    figures = found.figures
    for change, total in figures.counts.items():
        told = sum(event.counts.get(change, 0) for event in figures.events)
        if change not in (Change.STILL_THERE, Change.WAIVED):
            assert told == total, change
    before, after = (run.meta("summary")["health"] for run in (base, head))
    if before is not None and after is not None:
        assert sum(event.share or 0 for event in figures.events) == pytest.approx(
            after - before, abs=0.101
        )  # summaries hold one decimal
        assert round(sum(event.shown or 0 for event in figures.events), 1) == round(round(after, 1) - round(before, 1), 1)
    for place, event in enumerate(figures.events):
        items, total, _ = found.findings(Chosen(event=place), limit=10_000)
        assert total == len(items) == sum(event.counts.values())
        assert event.title and len(figures.events) <= 8


def titles(found: ComparedRuns) -> list[str]:
    return [event.title for event in found.figures.events]


def only(found: ComparedRuns, begins: str) -> Event:
    told = [event for event in found.figures.events if event.title.startswith(begins)]
    assert len(told) == 1, titles(found)
    return told[0]


def test_nothing_happened(compare: Compare) -> None:
    found = compare(WHOLE, WHOLE)
    assert titles(found) == [] and found.figures.sentence.endswith("Nothing differs between the two runs.")


def test_a_line_of_robots_txt_takes_everything_on_its_pages_with_it(compare: Compare) -> None:
    bare = shop(*(product(name, "") for name in NAMES))
    found = compare(bare, (BLOCKED, *bare))
    shut = found.figures.events[0]
    assert (shut.title, shut.pages, shut.about) == ("robots.txt now blocks /shop", 4, "Disallow: /shop (line 2)")
    assert shut.counts[Change.UNVERIFIED] >= 4 and shut.share is not None and shut.share < -30
    assert {each.check for each in shut.checks} >= {"index-lost-robots"}
    back = compare((BLOCKED, *bare), bare)
    assert only(back, "robots.txt no longer blocks /shop").pages == 4


def test_a_template_that_loses_its_descriptions_is_one_event(compare: Compare) -> None:
    found = compare(WHOLE, shop(*(product(name, "") for name in NAMES)))
    lost = only(found, "Meta description missing")
    assert lost.title == "Meta description missing: 4 pages built like /shop/*" and lost.kind == "template"
    assert lost.counts == {Change.NEW: 4} and lost.share is not None and lost.share < 0
    assert only(compare(shop(*(product(name, "") for name in NAMES)), WHOLE), "Fixed on 4 pages").kind == "fixed"


def test_faults_on_the_same_pages_are_one_event(compare: Compare) -> None:
    short = shop(*(product(name, "", title=f"P{name}") for name in NAMES))
    found = compare(WHOLE, short)
    assert {each.check for each in only(found, "4 pages").checks} >= {"desc-missing", "title-short"}


def test_a_page_that_moved_without_a_redirect_breaks_its_links(compare: Compare) -> None:
    old = '<a href="/guides/splicing">Splicing</a>'
    guide = page(doc("<h1>Splicing</h1>", "<title>How rope is spliced by hand</title>"), "/guides/splicing")
    there = page(doc("<h1>Splicing</h1>", "<title>How rope is spliced by hand</title>"), "/guides/rope/splicing")
    before = shop(product("a"), also=old)
    after = shop(product("a"), also=old + '<a href="/guides/rope/splicing">Splicing rope</a>')
    found = compare((*before, guide), (*after, there, gone("/guides/splicing")))
    lost = only(found, "/guides/splicing")
    assert lost.title == "/guides/splicing moved to /guides/rope/splicing without a redirect"
    assert {each.check for each in lost.checks} >= {"link-broken", "reach-not-found"} and lost.pages == 1
    redirected = compare((*before, guide), (*before, there, moved("/guides/splicing", "/guides/rope/splicing")))
    assert only(redirected, "/guides/splicing").title == "/guides/splicing now redirects to /guides/rope/splicing"


def test_pages_that_break_come_back_appear_and_go(compare: Compare) -> None:
    broken = (*shop(*map(product, "abc"), also='<a href="/shop/d">d</a>'), gone("/shop/d"))
    assert only(compare(WHOLE, broken), "/shop/d returns 404").counts[Change.NEW] >= 2
    assert only(compare(broken, WHOLE), "/shop/d responds").kind == "recovered"
    less = shop(*map(product, "abc"))
    assert only(compare(less, WHOLE), "/shop/d appeared").counts.keys() <= {Change.NEW_WITH_PAGE, Change.NEW}
    assert only(compare(WHOLE, less), "/shop/d is no longer linked or listed").pages == 1
    assert only(compare(broken, less), "/shop/d (404) is no longer linked").counts[Change.FIXED] == 1
    late = (*shop(*map(product, "abc"), also='<a href="/shop/d">d</a>'), Sample("/shop/d", failure="timeout"))
    assert only(compare(WHOLE, late), "/shop/d does not respond").counts[Change.UNVERIFIED] >= 1


def test_pages_of_a_new_template_are_told_apart_from_pages_that_were_added(compare: Compare) -> None:
    guides = tuple(
        page(doc(f"<article><h2>{n}</h2><ul><li>One<li>Two</ul></article>", f"<title>Guide {n} of many</title>"), f"/guides/{n}")
        for n in "xyz"
    )
    links = "".join(f'<a href="{g.path}">{g.path}</a>' for g in guides)
    found = compare(WHOLE, (*shop(*map(product, NAMES), also=links), *guides))
    new = only(found, "3 new pages built like /guides/*")
    assert new.counts[Change.NEW_WITH_PAGE] > 3


def test_directives_take_pages_out_of_the_index(compare: Compare) -> None:
    hidden = shop(*(product(name, robots="noindex") for name in NAMES))
    assert only(compare(WHOLE, hidden), "noindex on 4 pages").kind == "deindexed"
    assert only(compare(hidden, WHOLE), "4 pages can be indexed again").detail.startswith("noindex removed")


def test_a_crawl_that_ends_early_is_told_as_such(compare: Compare) -> None:
    bare = shop(*(product(name, "") for name in NAMES))
    found = compare(bare, bare, None, {"pages_max": 2})
    assert only(found, "The crawl could not reach 3 pages").counts.keys() == {Change.UNVERIFIED}
    assert only(compare(bare, bare, {"pages_max": 2}), "The crawl reached 3 pages it had not").kind == "reached"


def test_what_people_decided_is_an_event_of_its_own(compare: Compare) -> None:
    bare = shop(*(product(name, "") for name in NAMES))
    waived = compare(bare, bare, waivers=[Waiver("desc-missing", ORIGIN + "/shop/*")])
    assert only(waived, "4 findings waived").share is not None
    off = compare(bare, bare, None, {"checks_off": ["desc-missing"]})
    assert only(off, "Checks, limits or severities changed").counts == {Change.UNVERIFIED: 5}
    severe = compare(
        bare, bare, None, {"severities": {"desc-missing": {"severity": "high", "reason": "The client asked for it"}}}
    )
    assert only(severe, "Checks, limits or severities changed").share == pytest.approx(
        sum(event.share or 0 for event in severe.figures.events)
    )


def test_texts_that_changed_without_any_finding_are_told(compare: Compare) -> None:
    found = compare(WHOLE, shop(*(product(name, title=f"Another {name} of the shop") for name in NAMES)))
    told = only(found, "Titles changed on 4 pages")
    assert (told.counts, told.share, told.kind) == ({}, 0.0, "edited") and len(told.examples) == 3


def test_small_events_are_joined(compare: Compare) -> None:
    faults = [
        "<img src=/i.png>",
        "<table><tr><td>1</table>",
        "<a href='#no'>x</a>",
        "<center>x</center>",
        "<h4>x</h4>",
        "<h2></h2>",
        "<iframe src=/f></iframe>",
    ]
    names = "abcdefgh"
    before = shop(*map(product, (*names, "y", "z")))
    after = shop(
        *(
            page(doc(f"<h1>Product {n}</h1>{''.join(faults[: i + 1])}", f"<title>{'P' * (i + 1)}</title>"), f"/shop/{n}")
            for i, n in enumerate(names)
        ),
        product("y", ""),
        product("z", robots="noindex"),
    )
    found = compare(before, after)
    last = found.figures.events[-1]
    assert len(found.figures.events) == 8 and (last.kind, last.title) == ("other", f"{last.joined} smaller changes")


def test_a_comparison_of_an_earlier_form_is_made_again(compare: Compare, tmp_path: Path) -> None:
    compare(WHOLE, WHOLE)
    path = tmp_path / "0.compared"
    with sqlite3.connect(path) as db:
        db.execute("PRAGMA user_version=1")
    run, _ = audit(WHOLE)
    assert ComparedRuns.open(path, run, run) is None


STATES: dict[str, Callable[[str], Sample | None]] = {
    "fine": product,
    "bare": lambda name: product(name, ""),
    "short": lambda name: product(name, "", title=name),
    "noindex": lambda name: product(name, robots="noindex"),
    "missing": lambda name: gone(f"/shop/{name}"),
    "failing": lambda name: gone(f"/shop/{name}", 503),
    "moved": lambda name: moved(f"/shop/{name}", "/"),
    "silent": lambda name: Sample(f"/shop/{name}", failure="timeout"),
}
EDITIONS = st.lists(st.sampled_from(sorted(STATES)) | st.none(), min_size=4, max_size=4)


def edition(states: list[str | None], robots: bool) -> Sites:
    made = [STATES[state](name) for name, state in zip(NAMES, states, strict=True) if state is not None]
    return (*([BLOCKED] if robots else []), *shop(*(sample for sample in made if sample is not None)))


@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.tuples(EDITIONS, st.booleans(), st.sampled_from([None, 2, 4])), min_size=2, max_size=3))
def test_whatever_happens_is_told_and_adds_up(tmp_path: Path, history: list[tuple[list[str | None], bool, int | None]]) -> None:
    runs: list[RunFile] = []
    for number, (states, robots, pages_max) in enumerate(history):
        plan = {"pages_max": pages_max} if pages_max else None
        runs.append(audit(edition(states, robots), plan, runs[-1] if runs else None, NOW + number * WEEK)[0])
        if number:
            path = tmp_path / "property.compared"
            path.unlink(missing_ok=True)
            keep(runs[-2], runs[-1], path)
