"""Examining whole runs: every figure adds up, whatever the site and however checks behave."""

from __future__ import annotations

import dataclasses
import random
import sqlite3
import tracemalloc
from collections import Counter
from collections.abc import Iterator

import msgspec
import pytest

from hodcarrier.core import catalogue
from hodcarrier.core.catalogue import Entry, Fail, Sample, Unsure, doc, gone, moved, page, sitemap, text_file
from hodcarrier.core.judge.areas import Seen
from hodcarrier.core.states import Area
from hodcarrier.examine import examination, scoring, writing
from hodcarrier.runfile import results
from hodcarrier.runfile.reader import RunFile
from tests.sample_site import NOW, ORIGIN, audit

TITLES = ("<title>A title of some length</title>", "<title>Short</title>", "", "<title>Another title of a length</title>")
HEADS = (
    "",
    "<meta name=robots content=noindex>",
    "<meta name=description content='What it is'>",
    "<link rel=canonical href='/1'>",
)
BODIES = ("<h1>One</h1>", "", "<h1>One</h1><h3>Skips</h3>", "<img src=/i.png>", "<a href=/gone>gone</a>", "<p id=a><p id=a>")


def made_up(seed: int) -> tuple[Sample, ...]:
    """A site of some pages with faults thrown in by chance."""
    chance = random.Random(seed)
    pages = []
    for n in range(chance.randint(3, 14)):
        links = "".join(f'<a href="/{chance.randint(0, 14)}">page</a>' for _ in range(4))
        body = links + "".join(chance.sample(BODIES, 2))
        pages.append(page(doc(body, chance.choice(TITLES) + chance.choice(HEADS)), f"/{n}" if n else "/"))
    more = [
        gone("/gone"),
        moved("/13", "/1", chance.choice((301, 302))),
        Sample("/i.png", b"x", headers=(("content-type", "image/png"),)),
    ]
    if chance.random() < 0.5:
        more.append(text_file("/robots.txt", "User-agent: *\nDisallow: /2\n"))
    if chance.random() < 0.5:
        more.append(sitemap("/1", "/gone"))
    return (*pages, *more)


@pytest.fixture(scope="module", params=range(12))
def run(request: pytest.FixtureRequest) -> RunFile:
    return audit(made_up(request.param))[0]


def test_counts_of_checks_are_counts_of_findings(run: RunFile) -> None:
    counted = Counter(check for (check,) in run.rows("SELECT check_id FROM finding WHERE NOT waived"))
    for check, findings in run.rows("SELECT id, findings FROM check_state"):
        assert findings == counted[check]


def test_every_finding_has_exactly_one_cause_of_its_check(run: RunFile) -> None:
    rows = run.rows("SELECT f.check_id, c.check_id FROM finding f LEFT JOIN cause c ON c.id = f.cause_id")
    assert rows and all(finding == cause for finding, cause in rows)
    for cause, findings in run.rows("SELECT id, findings FROM cause"):
        assert run.rows("SELECT count(*) FROM finding WHERE cause_id = ? AND NOT waived", cause) == [(findings,)]


def test_fingerprints_are_unique_and_places_never_repeat_the_subject(run: RunFile) -> None:
    assert run.rows("SELECT count(*) - count(DISTINCT fingerprint) FROM finding") == [(0,)]
    same = run.rows("SELECT DISTINCT check_id FROM finding WHERE place = subject AND subject != 'site'")
    allowed = {"link-broken", "link-redirects", "media-broken", "media-heavy", "speed-file-broken"}
    assert {check for (check,) in same} <= allowed, "a link to the page itself is a place of its own"


def exact_health(run: RunFile) -> float:
    """Health before it is rounded as it is shown: the mean of the pages times the site's factor."""
    healths = [health for (health,) in run.rows("SELECT health FROM verdict WHERE scored")]
    assert all(0 <= health <= 100 for health in healths)
    factor: float = run.meta("summary")["site_factor"]
    return sum(healths) / len(healths) * factor


def test_health_is_the_mean_of_its_pages_times_the_sites_factor(run: RunFile) -> None:
    assert run.meta("summary")["health"] == round(exact_health(run), 1)


def test_gain_is_what_comes_back_when_the_check_is_off(run: RunFile) -> None:
    """Switching a check off must give just the health that its gain promises."""
    rows = [r for r in results.checks(run) if r["findings"] and r["gain"] > 0]
    chosen = rows[:: max(1, len(rows) // 3)]
    health = exact_health(run)
    for row in chosen:
        assert row["gain"] >= 0 and health + row["gain"] <= 100 + 1e-9


def test_the_funnel_only_narrows(run: RunFile) -> None:
    counts = [step["count"] for step in run.meta("summary")["funnel"]]
    assert counts == sorted(counts, reverse=True)
    known, *_, free = counts
    assert known - free == sum(run.meta("summary")["dropouts"].values())


def test_every_finding_can_be_said_in_words(run: RunFile) -> None:
    for row in results.findings(run, waived=None):
        assert row["message"] and "{" not in row["message"] and "–" not in row["message"][:2]
    assert all(line and "{" not in line for (line,) in run.rows("SELECT line FROM cause"))


@pytest.mark.parametrize("seed", range(6))
@pytest.mark.parametrize("check", ["title-short", "text-h1-missing", "link-broken", "desc-missing"])
def test_switching_a_check_off_gives_the_health_it_promised(seed: int, check: str) -> None:
    site = made_up(seed)
    on, _ = audit(site)
    off, without = audit(site, {"checks_off": [check]})
    gain = on.rows("SELECT gain FROM check_state WHERE id = ?", check)[0][0]
    assert exact_health(off) == pytest.approx(exact_health(on) + gain)
    assert check not in without["checks"]


@pytest.mark.parametrize("seed", range(3))
def test_examining_twice_gives_the_same(seed: int) -> None:
    first, summary = audit(made_up(seed))
    rows = first.rows("SELECT fingerprint, check_id, subject, place, message, evidence, cause_id FROM finding ORDER BY id")
    again = examination.examine(first.db, NOW)
    assert msgspec.to_builtins(again, str_keys=True) == summary
    assert (
        first.rows("SELECT fingerprint, check_id, subject, place, message, evidence, cause_id FROM finding ORDER BY id") == rows
    )


def with_rule(monkeypatch: pytest.MonkeyPatch, check: str, find: object) -> None:
    """Put another rule in place of a check's own."""
    known = catalogue.load()
    entries = {**known, check: dataclasses.replace(known[check], find=find)}
    changed = catalogue.Catalogue(entries, known.aliases, known.retired)
    monkeypatch.setattr(examination, "load", lambda: changed)


def test_a_check_that_raises_is_told_and_the_run_goes_on(monkeypatch: pytest.MonkeyPatch) -> None:
    def find(page_view: object, _limits: object) -> Iterator[Fail]:
        if getattr(page_view, "url", "").endswith("/1"):
            raise RuntimeError("odd page")
        yield Fail("short", "", {"title": "x", "chars": 1, "limit": 15})

    with_rule(monkeypatch, "title-short", find)
    run, summary = audit((page(doc('<a href="/1">1</a>')), page(doc(), "/1")))
    assert summary["crashes"] == [{"check": "title-short", "subject": ORIGIN + "/1", "error": "RuntimeError: odd page"}]
    assert run.rows("SELECT findings, crashed FROM check_state WHERE id = 'title-short'") == [(1, 1)]
    assert run.rows("SELECT subject, reason FROM unverified WHERE check_id = 'title-short'") == [
        (ORIGIN + "/1", "the check crashed")
    ]
    assert any("crashed" in notice for notice in summary["notices"])


def test_what_a_check_is_not_sure_of_counts_neither_way(monkeypatch: pytest.MonkeyPatch) -> None:
    site = (page(doc("<h1>x</h1>", "<title>Short</title>")),)
    _, failing = audit(site)
    with_rule(monkeypatch, "title-short", lambda _p, _l: iter([Unsure("", "cannot tell")]))
    run, unsure = audit(site)
    monkeypatch.undo()
    _, passing = audit((page(doc("<h1>x</h1>", "<title>A title of some length</title>")),))
    assert run.rows("SELECT findings, unverified FROM check_state WHERE id = 'title-short'") == [(0, 1)]
    assert failing["health"] < unsure["health"] == pytest.approx(passing["health"])


def test_a_finding_that_is_yielded_twice_counts_once(monkeypatch: pytest.MonkeyPatch) -> None:
    twice = Fail("short", "", {"title": "x", "chars": 1, "limit": 15})
    with_rule(monkeypatch, "title-short", lambda _p, _l: iter([twice, twice]))
    run, _ = audit((page(doc()),))
    assert run.rows("SELECT findings FROM check_state WHERE id = 'title-short'") == [(1,)]


def test_many_findings_are_written_in_parts(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(writing, "BATCH", 3)
    site = made_up(1)
    small = audit(site)[0].rows("SELECT fingerprint FROM finding ORDER BY id")
    monkeypatch.undo()
    assert small == audit(site)[0].rows("SELECT fingerprint FROM finding ORDER BY id")


@pytest.mark.parametrize("rows", [1, 2, 7])
def test_figures_are_the_same_from_parts_of_any_size(rows: int, monkeypatch: pytest.MonkeyPatch) -> None:
    whole, summary = audit(made_up(5))
    monkeypatch.setattr(scoring, "PART_ROWS", rows)
    parts, again = audit(made_up(5))
    assert again["health"] == pytest.approx(summary["health"])
    assert again["areas"] == pytest.approx(summary["areas"])
    for query in ("SELECT id, pages, fixes, gain FROM check_state", "SELECT key, findings, pages, gain FROM cause"):
        for row, other in zip(whole.rows(query), parts.rows(query), strict=True):
            assert other == pytest.approx(row)


def test_the_pages_of_a_cause_are_those_its_findings_name() -> None:
    for seed in range(12):
        run, _ = audit(made_up(seed))
        named = (
            "SELECT c.id, count(DISTINCT v.address_id) FROM cause c JOIN finding f ON f.cause_id = c.id AND NOT f.waived"
            " JOIN check_state s ON s.id = c.check_id AND s.subject = 'page'"
            " LEFT JOIN verdict v ON v.address_id = f.subject_id AND v.scored GROUP BY c.id"
        )
        told = dict(run.rows("SELECT id, pages FROM cause"))
        assert all(told[cause] == pages for cause, pages in run.rows(named))


def test_memory_for_figures_does_not_grow_with_findings(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(scoring, "PART_ROWS", 200)
    monkeypatch.setattr(scoring, "BATCH", 100)
    peaks = []
    for checks in (4, 40):
        tracemalloc.start()
        tape = scoring.Tape(sqlite3.connect(":memory:"))
        for check in range(checks):
            cause = tape.new_cause(check)
            for number in range(300):
                tape.note(check, cause, (number,))
        scores = scoring.Scores(
            tape, [Seen.DOCUMENT] * 300, [True] * 300, [3] * checks, [Area.TITLES] * checks, {Area.TITLES: Seen.DOCUMENT}
        )
        assert scores.check_pages.tolist() == [figures.pages for figures in scores.causes()] == [300] * checks
        peaks.append(tracemalloc.get_traced_memory()[1])
        tracemalloc.stop()
    assert peaks[1] < 1.2 * peaks[0]


def test_a_site_without_a_page_has_no_health() -> None:
    _, summary = audit((text_file("/robots.txt", "User-agent: *\nDisallow: /\n"), page(doc())))
    assert summary["health"] is None and summary["pages_scored"] == 0
    assert all(score is None for score in summary["areas"].values())


def test_entries_know_their_limits() -> None:
    entry: Entry = catalogue.get("text-thin")
    assert entry.limits({"words_min": 50})["words_min"] == 50.0
    assert entry.limits({})["words_min"] == 200.0


def test_what_an_unreachable_robots_txt_keeps_out_is_unverified() -> None:
    site = (
        page(doc('<a href="https://img.shop.example/p">p</a><img src="https://img.shop.example/i.png" alt="i">')),
        gone("https://img.shop.example/robots.txt", 503),
    )
    run, _ = audit(site, {"subdomains": True})
    left = set(run.rows("SELECT check_id, subject, reason FROM unverified WHERE check_id LIKE 'reach-%disallowed'"))
    assert left == {
        ("reach-disallowed", "https://img.shop.example/p", "robots.txt unreachable"),
        ("reach-files-disallowed", "https://img.shop.example/i.png", "robots.txt unreachable"),
    }
    assert not run.rows("SELECT 1 FROM finding WHERE check_id LIKE 'reach-%disallowed'")
