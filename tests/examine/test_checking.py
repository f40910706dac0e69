"""The pass over checks: what is looked at by which checks, whose pages a fault counts for, what the site as a whole is told."""

from __future__ import annotations

import dataclasses
import sqlite3
from datetime import date, timedelta

import pytest

from hodcarrier.core import catalogue
from hodcarrier.core.catalogue import Sample, Subject, doc, gone, moved, page, sitemap, text_file
from hodcarrier.core.judge.areas import Seen
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.states import Area, Severity
from hodcarrier.core.words import as_shown
from hodcarrier.examine import checking, scoring
from hodcarrier.examine.ages import Ages
from hodcarrier.examine.measures import Gathered
from hodcarrier.examine.site import make_site_view
from hodcarrier.examine.views import RunViews
from hodcarrier.examine.writing import Results
from hodcarrier.runfile.reader import RunFile
from tests.sample_site import NOW, ORIGIN, audit, crawl, make_plan

PNG = (("content-type", "image/png"),)


def findings(site: tuple[Sample, ...], check: str, **plan: object) -> list[tuple[str, str]]:
    run, _ = audit(site, plan)
    rows = run.rows("SELECT subject, place FROM finding WHERE check_id = ? ORDER BY 1, 2", check)
    return [(subject.removeprefix(ORIGIN), place.removeprefix(ORIGIN)) for subject, place in rows]


def test_a_file_counts_for_the_scored_pages_that_use_it() -> None:
    """A broken picture on two pages and on one that is not scored: one fix, one finding, two pages."""
    use = '<img src="/i.png" alt="A rope">'
    site = (
        page(doc(use + '<a href="/a">a</a>')),
        page(doc(use), "/a"),
        gone("/i.png"),
    )
    run, _ = audit(site)
    assert run.rows("SELECT subject, findings, pages, fixes FROM check_state WHERE id = 'media-broken'") == [("file", 1, 2, 1)]
    counts = run.rows("SELECT health FROM verdict WHERE scored")
    assert len(counts) == 2 and all(health < 100 for (health,) in counts)


def test_a_disallowed_file_is_looked_at_by_checks_of_its_address_alone() -> None:
    site = (
        text_file("/robots.txt", "User-agent: *\nDisallow: /i.png\nDisallow: /j.png\n"),
        page(doc('<img src="/i.png" alt="A rope"><img src="/k.png" alt="A knot">')),
        Sample("/k.png", b"x" * 2_000_000, headers=PNG),
    )
    assert findings(site, "reach-files-disallowed") == [("/i.png", "")]
    assert [subject for subject, _ in findings(site, "media-heavy")] == ["/k.png"]
    assert findings(site, "media-broken") == []


def test_a_page_alone_is_no_group_and_each_member_of_one_fails() -> None:
    title = "<title>The very same title for all</title>"
    links = '<a href="/a">a</a><a href="/b">b</a><a href="/hidden">h</a>'
    hidden = page(doc("<p>h</p>", title + '<meta name="robots" content="noindex">'), "/hidden")
    site = (
        page(doc(links, title)),
        page(doc("<p>a</p>", title), "/a"),
        page(doc("<p>b</p>", "<title>Its own</title>"), "/b"),
        hidden,
    )
    assert [subject for subject, _ in findings(site, "copy-title")] == ["/", "/a"]
    assert findings((site[0], site[2], hidden), "copy-title") == []


def test_only_what_was_answered_is_looked_at_by_checks_of_answers() -> None:
    site = (page(doc('<a href="/a">a</a><a href="/b">b</a>')), page("", "/a", failure="timeout"), gone("/b", 503))
    run, _ = audit(site)
    reach = {entry.id: entry.check.reach for entry in catalogue.load().values() if entry.check.subject == Subject.PAGE}
    at = {
        path: {reach[check] for (check,) in run.rows("SELECT check_id FROM finding WHERE subject = ?", ORIGIN + path)}
        for path in ("/a", "/b")
    }
    assert at["/a"] <= {"address"} and "document" not in at["/b"] and at["/b"]


def waiver(check: str, pattern: str, days: int | None = None) -> Waiver:
    return Waiver(check, pattern, None, date(2026, 1, 1), NOW.date() + timedelta(days=days) if days is not None else None)


@pytest.mark.parametrize(
    ("waivers", "waived"),
    [
        ((waiver("title-short", ORIGIN + "/a"),), ["/a"]),
        ((waiver("title-short", ORIGIN + "/*"),), ["/", "/a"]),
        ((waiver("desc-missing", ORIGIN + "/*"),), []),
        ((waiver("title-short", ORIGIN + "/*", days=-1),), []),
    ],
)
def test_what_is_waived_costs_nothing_and_stays_listed(waivers: tuple[Waiver, ...], waived: list[str]) -> None:
    site = (page(doc('<a href="/a">a</a>', "<title>Short</title>")), page(doc("<p>a</p>", "<title>Brief</title>"), "/a"))
    run, _ = audit(site, waivers=waivers)
    rows = run.rows("SELECT subject FROM finding WHERE check_id = 'title-short' AND waived ORDER BY 1")
    assert [subject.removeprefix(ORIGIN) for (subject,) in rows] == waived
    ((open_, waived_, pages),) = run.rows("SELECT findings, waived, pages FROM check_state WHERE id = 'title-short'")
    assert (open_, waived_, pages) == (2 - len(waived), len(waived), 2 - len(waived))


def test_a_check_that_crashes_everywhere_is_told_so_often_and_no_more(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(checking, "CRASHES_KEPT", 2)
    writer, _, _ = crawl((page(doc('<a href="/a">a</a><a href="/b">b</a>')), page(doc(), "/a"), page(doc(), "/b")))
    plan = make_plan()
    views = RunViews.load(writer.db, plan)

    def find(_view: object, _limits: object) -> list[object]:
        raise ValueError("long " * 200)

    entry = dataclasses.replace(catalogue.get("title-short"), find=find)
    results = Results(writer.db, Ages("2026"), "https://shop.example")
    results.clear()
    tally = checking.Tally(entry, {})
    made = checking.Checking(views, [tally], (), {}, results)
    made.pages()
    assert (tally.crashed, len(made.crashes)) == (3, 2)
    assert made.crashes[0].error.startswith("ValueError: long") and len(made.crashes[0].error) == 300


# The site as a whole


def test_the_site_view_counts_linked_pages_and_the_lines_that_keep_them_out() -> None:
    site = (
        text_file("/robots.txt", "User-agent: *\nDisallow: /x/\nDisallow: /y\nSitemap: https://shop.example/sitemap.xml\n"),
        sitemap("/alone", "/x/listed"),
        page(
            doc(
                '<link rel="icon" href="/icon.png"><a href="/x/1">1</a><a href="/x/2">2</a><a href="/y">y</a><a href="/403">f</a>'
                '<a href="/429">m</a><a href="/404">n</a><a href="/a">a</a>'
            )
        ),
        page(doc(), "/a"),
        page(doc(), "/alone"),
        gone("/403", 403),
        gone("/429", 429),
        gone("/404"),
    )
    plan = make_plan()
    writer, _, _ = crawl(site, plan)
    writer.put_meta("certificates", {ORIGIN: "Nov 28 14:00:00 2026 GMT", "https://other.example": "Jan 01 00:00:00 2026 GMT"})
    view = make_site_view(RunViews.load(writer.db, plan), RunFile(writer.db), NOW)
    assert (view.pages_linked, view.pages_disallowed, view.refused, view.answered) == (8, 3, 2, 5)
    assert view.rules_hit == (("Disallow: /x/ (line 2)", 2), ("Disallow: /y (line 3)", 1))
    assert (view.certificate_days, view.certificate_ends) == (4.5, "2026-11-28")
    assert view.start is not None and view.start.url == ORIGIN + "/" == view.url


def test_the_start_page_is_where_its_redirects_end() -> None:
    plan = make_plan()
    writer, _, _ = crawl((moved("/", "/en/"), page(doc(), "/en/")), plan)
    view = make_site_view(RunViews.load(writer.db, plan), RunFile(writer.db), NOW)
    assert view.start is not None and view.start.url == ORIGIN + "/en/"
    assert (view.certificate_days, view.certificate_ends) == (None, "")


# Figures


def scores(faults: list[tuple[int, int, tuple[int, ...]]], pages: int, severities: list[Severity]) -> scoring.Scores:
    """Scores from faults (check, cause, rows of pages); each check has a severity, all are of one area."""
    tape = scoring.Tape(sqlite3.connect(":memory:"))
    causes = {}
    for check, cause, rows in faults:
        number = causes.setdefault((check, cause), len(causes))
        if number == len(tape.cause_check):
            tape.new_cause(check)
        tape.note(check, number, rows)
    ranks = [list(Severity).index(severity) for severity in severities]
    least = {Area.TITLES: Seen.DOCUMENT}
    return scoring.Scores(tape, [Seen.DOCUMENT] * pages, [True] * pages, ranks, [Area.TITLES] * len(severities), least)


def test_a_fault_of_two_causes_is_cleared_by_neither_alone() -> None:
    shared = scores([(0, 0, (0,)), (0, 1, (0, 1))], 2, [Severity.HIGH])
    first, second = shared.causes()
    assert (first.pages, second.pages) == (1, 2)
    assert first.gain == 0
    assert second.gain == pytest.approx(12.5), "page 1 alone comes back to 100"
    assert shared.check_gains[0] == pytest.approx(25)
    assert shared.check_fixes[0] == 2


def test_a_page_with_a_severe_finding_is_not_free_of_them() -> None:
    found = scores([(0, 0, (0,)), (1, 1, (1,)), (2, 2, (2, 3))], 5, [Severity.CRITICAL, Severity.HIGH, Severity.MEDIUM])
    assert [found.is_severe(row) for row in range(5)] == [True, True, False, False, False]
    assert found.free_of_severe() == 3
    assert found.page_healths.tolist() == pytest.approx([0, 75, 94, 94, 100])
    assert as_shown(found.health or 0, "points") == 72.6


def test_faults_of_the_site_take_from_the_whole_and_from_their_area() -> None:
    found = scores([(0, 0, (-1,)), (1, 1, (0,))], 2, [Severity.CRITICAL, Severity.HIGH])
    assert found.site_factor == 0.5
    assert found.health == pytest.approx(0.5 * 87.5) == found.areas[Area.TITLES]
    assert found.check_pages.tolist() == [0, 1]
    site, page_cause = found.causes()
    assert (site.pages, site.gain) == (0, pytest.approx(43.75))
    assert (page_cause.pages, page_cause.gain) == (1, pytest.approx(0.5 * 12.5))


def test_without_a_finding_nothing_is_lost() -> None:
    clean = scores([], 3, [Severity.HIGH])
    assert (clean.health, list(clean.causes()), clean.check_fixes.tolist()) == (100, [], [0])


def test_measures_of_nothing_are_none() -> None:
    figures = Gathered().figures(None, None)
    assert figures.documents == 0 and figures.indexable_ratio is None
    assert figures.words_median is None and figures.depth_p90 is None


def test_a_check_of_groups_that_crashes_names_the_first_page_of_the_group() -> None:
    title = "<title>The very same title for all</title>"
    writer, _, _ = crawl((page(doc('<a href="/a">a</a>', title)), page(doc("<p>a</p>", title), "/a")))
    plan = make_plan()

    def find(_view: object, _limits: object) -> list[object]:
        raise ValueError("odd group")

    results = Results(writer.db, Ages("2026"), "https://shop.example")
    results.clear()
    tally = checking.Tally(dataclasses.replace(catalogue.get("copy-title"), find=find), {})
    made = checking.Checking(RunViews.load(writer.db, plan), [tally], (), {}, results)
    made.pages()
    made.groups()
    assert [(crash.subject, crash.error) for crash in made.crashes] == [(ORIGIN + "/", "ValueError: odd group")]


def test_a_check_that_is_off_is_listed_with_nothing() -> None:
    run, _ = audit((page(doc("<p>x</p>", "<title>Short</title>")),), {"checks_off": ["title-short"]})
    columns = "state, findings, waived, pages, fixes, gain, unverified, crashed"
    assert run.rows(f"SELECT {columns} FROM check_state WHERE id = 'title-short'") == [("off", 0, 0, 0, 0, 0.0, 0, 0)]
