"""Comparisons of real run files over made-up sites, and the history they carry forward."""

from __future__ import annotations

import dataclasses
from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, moved, page, sitemap, text_file
from hodcarrier.core.judge.fingerprints import fingerprint
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.summary import SettingChange
from hodcarrier.runfile.comparison import compare
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights
from tests.sample_site import NOW, ORIGIN, audit

WEEK = timedelta(weeks=1)
FULL = "<title>A title of some length</title><meta name=description content='What it is'>"


def site(a: Sample | None, front: str = '<a href="/a">A</a>', *more: Sample) -> tuple[Sample, ...]:
    return (page(doc(f"<h1>Rope</h1>{front}", FULL)), *([a] if a else []), *more)


BARE = page(doc("<h1>A</h1>", "<title>Another title here</title>"), "/a")
FINE = page(doc("<h1>A</h1>", "<title>Another title here</title><meta name=description content=There>"), "/a")
CHECK = "desc-missing"


def classes(base: RunFile, head: RunFile, check: str = CHECK) -> list[str]:
    found = compare(base, head)
    assert found.balance.reconciles
    return sorted(i.change for i in found.items if i.check == check)


def in_a_row(*sites: tuple[Sample, ...], plans: dict[int, dict[str, object]] | None = None) -> list[RunFile]:
    runs: list[RunFile] = []
    for n, answers in enumerate(sites):
        runs.append(audit(answers, (plans or {}).get(n), runs[-1] if runs else None, NOW + n * WEEK)[0])
    return runs


@pytest.mark.parametrize(
    ("before", "after", "expected"),
    [
        (site(BARE), site(BARE), ["still-there"]),
        (site(BARE), site(FINE), ["fixed"]),
        (site(FINE), site(BARE), ["new"]),
        (site(None, ""), site(BARE), ["new-with-page"]),
        (site(BARE), site(gone("/a")), ["gone-with-page"]),
        (site(BARE), site(gone("/a", 410)), ["gone-with-page"]),
        (site(BARE), site(moved("/a", "/")), ["gone-with-page"]),
        (site(BARE), site(None, ""), ["gone-with-page"]),
        (site(BARE), site(gone("/a", 500)), ["unverified"]),
        (site(BARE), site(Sample("/a", failure="timeout")), ["unverified"]),
        (site(BARE), (text_file("/robots.txt", "User-agent: *\nDisallow: /a"), *site(BARE)), ["unverified"]),
        (site(gone("/a", 500)), site(BARE), ["new-to-view"]),
    ],
)
def test_classes(before: tuple[Sample, ...], after: tuple[Sample, ...], expected: list[str]) -> None:
    base, head = in_a_row(before, after)
    assert classes(base, head) == expected


def test_a_fault_that_comes_back() -> None:
    first, second, third = in_a_row(site(BARE), site(FINE), site(BARE))
    assert classes(second, third) == ["returned"]
    assert third.rows("SELECT times_returned, first_seen FROM history WHERE check_id = ?", CHECK) == [(1, NOW.isoformat())]
    assert classes(first, third) == ["still-there"]


def test_a_fault_behind_a_failed_fetch_is_not_new_when_seen_again() -> None:
    _, second, third = in_a_row(site(BARE), site(gone("/a", 500)), site(BARE))
    assert classes(second, third) == ["new-to-view"]
    assert third.rows("SELECT first_seen FROM history WHERE check_id = ?", CHECK) == [(NOW.isoformat(),)]


def test_a_check_that_is_switched_off_leaves_unverified() -> None:
    base, head = in_a_row(site(BARE), site(BARE), plans={1: {"checks_off": [CHECK]}})
    assert classes(base, head) == ["unverified"]
    assert SettingChange("checks_off", "none", CHECK) in compare(base, head).settings


def test_the_page_limit_leaves_unverified() -> None:
    base, head = in_a_row(site(BARE), site(BARE), plans={1: {"pages_max": 1}})
    assert classes(base, head) == ["unverified"]


def test_an_unknown_page_of_a_limited_run_is_unverified_not_gone() -> None:
    deep = (
        page(doc('<h1>R</h1><a href="/b">B</a>', FULL)),
        page(doc('<h1>B</h1><a href="/a">A</a>', FULL.replace("A title", "B title")), "/b"),
        BARE,
    )
    base, head = in_a_row(deep, deep, plans={1: {"pages_max": 1}})
    assert classes(base, head) == ["unverified"]


def test_a_link_that_was_taken_out_is_fixed() -> None:
    base, head = in_a_row(site(gone("/a")), site(None, ""))
    assert classes(base, head, "link-broken") == ["fixed"]
    assert classes(base, head, "reach-not-found") == ["gone-with-page"]


def test_a_page_that_was_redirected_is_fixed_for_checks_of_the_answer() -> None:
    base, head = in_a_row(site(gone("/a")), site(moved("/a", "/")))
    assert classes(base, head, "reach-not-found") == ["fixed"]


def test_waived_findings_are_a_class_of_their_own() -> None:
    waiver = Waiver(CHECK, ORIGIN + "/a")
    base, _ = audit(site(BARE))
    head, summary = audit(site(BARE), base=base, now=NOW + WEEK, waivers=[waiver])
    assert classes(base, head) == ["waived"]
    assert summary["checks"][CHECK]["findings"] == 0
    assert summary["checks"][CHECK]["waived"] == 1
    after, _ = audit(site(BARE), base=head, now=NOW + 2 * WEEK)
    assert classes(head, after) == ["waiver-ended"]


def test_waived_findings_cost_no_health() -> None:
    with_it = audit(site(BARE))[1]["health"]
    without = audit(site(BARE), waivers=[Waiver(CHECK, ORIGIN + "/a")])[1]["health"]
    assert without > with_it


def test_page_changes_are_listed() -> None:
    other = page(doc("<h1>Anew</h1>" + "word " * 50, "<title>Changed title here</title><meta name=robots content=noindex>"), "/a")
    base, head = in_a_row(
        site(BARE, '<a href="/a">A</a><a href="/x">X</a>', page(doc(), "/x")),
        site(other, '<a href="/a">A</a><a href="/y">Y</a>', page(doc(), "/y")),
    )
    found = compare(base, head)
    changes = {(u.removeprefix(ORIGIN), f): (b, h) for u, f, b, h in found.page_changes}
    assert changes[("/a", "title")] == ("Another title here", "Changed title here")
    assert changes[("/a", "robots")] == ("", "noindex")
    assert changes[("/a", "indexable")] == ("yes", "no (noindex)")
    assert changes[("/a", "h1")] == ("A", "Anew")
    assert ("/a", "words") in changes
    assert found.appeared == [ORIGIN + "/y"]
    assert found.gone == [ORIGIN + "/x"]


def test_status_and_redirect_target_are_page_changes() -> None:
    base, head = in_a_row(site(BARE), site(moved("/a", "/")))
    changes = {(f): (b, h) for _, f, b, h in compare(base, head).page_changes}
    assert changes["status"] == ("200", "301")
    assert changes["redirect target"] == ("none", ORIGIN + "/")


def test_small_changes_of_length_are_not_listed() -> None:
    long = page(doc("<h1>A</h1>" + "word " * 100, FULL), "/a")
    longer = page(doc("<h1>A</h1>" + "word " * 109, FULL), "/a")
    base, head = in_a_row(site(long), site(longer))
    assert [f for _, f, _, _ in compare(base, head).page_changes] == []


def test_robots_txt_is_compared_line_by_line() -> None:
    base, head = in_a_row(
        (text_file("/robots.txt", "User-agent: *\nDisallow: /b\n"), *site(BARE)),
        (text_file("/robots.txt", "User-agent: *\nDisallow: /a\n"), *site(BARE)),
    )
    found = compare(base, head)
    turned = {(line.text, line.change): (line.blocks, line.frees) for line in found.robots_lines if line.change != "same"}
    assert turned == {("Disallow: /b", "removed"): (0, 0), ("Disallow: /a", "added"): (1, 0)}
    assert found.newly_blocked == [ORIGIN + "/a"]
    assert classes(base, head, "index-lost-robots") == ["new"]


def test_a_blocked_section_counts_with_the_pages_behind_it() -> None:
    """Two pages hang on one that is blocked now: the run cannot meet them, and they are lost all the same, as long as it lasts."""
    section = page(doc('<h1>A</h1><a href="/a/1">1</a><a href="/a/2">2</a>', FULL), "/a")
    pages = (section, *(page(doc(f"<h1>{n}</h1>", FULL), f"/a/{n}") for n in (1, 2)))
    shut = text_file("/robots.txt", "User-agent: *\nDisallow: /a\n")
    opened = text_file("/robots.txt", "User-agent: *\nDisallow: /b\n")
    there = site(None, '<a href="/a">A</a>', *pages)
    base, head, later, after = in_a_row((opened, *there), (shut, *there), (shut, *there), (opened, *there))
    assert compare(base, head).newly_blocked == [ORIGIN + "/a", ORIGIN + "/a/1", ORIGIN + "/a/2"]
    assert classes(base, head, "index-lost-robots") == ["new"] * 3
    assert compare(head, later).newly_blocked == []
    assert classes(head, later, "index-lost-robots") == ["still-there"] * 3
    assert later.meta("summary")["pages_scored"] == 4
    assert classes(later, after, "index-lost-robots") == ["fixed"] * 3


def test_a_section_that_the_plan_leaves_out_is_not_lost_to_robots_txt() -> None:
    section = page(doc('<h1>A</h1><a href="/a/1">1</a>', FULL), "/a")
    there = site(None, '<a href="/a">A</a>', section, page(doc("<h1>1</h1>", FULL), "/a/1"))
    shut = text_file("/robots.txt", "User-agent: *\nDisallow: /a\n")
    base, head = in_a_row(there, (shut, *there), plans={1: {"exclude": ["/a*"]}})
    assert classes(base, head, "index-lost-robots") == []


def test_equal_runs_have_no_changes() -> None:
    base, head = in_a_row(site(BARE), site(BARE))
    found = compare(base, head)
    assert {i.change for i in found.items} == {"still-there"}
    assert (found.page_changes, found.robots_lines, found.appeared, found.gone, found.settings) == ([], [], [], [], [])
    assert found.by_check() == []


def test_changes_by_check_are_counted() -> None:
    base, head = in_a_row(site(BARE), site(gone("/a")))
    rows = {r.check: r.counts for r in compare(base, head).by_check()}
    assert rows["link-broken"] == {"new": 1}
    assert rows[CHECK] == {"gone-with-page": 1}


def test_group_members_stay_the_same_finding_when_the_group_grows() -> None:
    twin = page(doc("<h1>A</h1>", FULL), "/a")
    third = page(doc("<h1>C</h1>", FULL), "/c")
    base, head = in_a_row(site(twin), site(twin, '<a href="/a">A</a><a href="/c">C</a>', third))
    assert classes(base, head, "copy-title") == ["new-with-page", "still-there", "still-there"]


def test_fingerprints_do_not_move_with_other_lines() -> None:
    base, head = in_a_row(site(gone("/a")), site(gone("/a"), '<p>Something new</p><a href="/">Home</a><a href="/a">A</a>'))
    assert classes(base, head, "link-broken") == ["still-there"]
    print_ = fingerprint("link-broken", ORIGIN + "/", ORIGIN + "/a")
    assert head.rows("SELECT count(*) FROM finding WHERE fingerprint = ?", print_) == [(1,)]


def test_a_page_behind_one_that_cannot_be_read_is_unverified_not_gone() -> None:
    chain = (page(doc('<h1>A</h1><a href="/b">b</a>', FULL), "/a"), page(doc('<h1>B</h1><a href="/c">c</a>', FULL), "/b"))
    bare = page(doc("<h1>C</h1>", "<title>Another title here</title>"), "/c")
    front = page(doc('<h1>Rope</h1><a href="/a">A</a>', FULL))
    whole = (front, *chain, bare)
    broken = (front, gone("/a", 503), *chain[1:], bare)
    base, head, later, mended, unlinked = in_a_row(whole, broken, broken, whole, (page(doc("<h1>Rope</h1>", FULL)), bare))
    assert classes(base, head) == ["unverified"]
    assert classes(base, later) == ["unverified"]
    assert classes(base, mended) == ["still-there"]
    assert classes(mended, unlinked) == ["gone-with-page"]


def test_a_page_that_came_only_in_part_says_nothing_of_what_is_missing() -> None:
    front = page(doc('<h1>Rope</h1><a href="/a">A</a>', FULL))
    list_page = page(doc('<h1>A</h1><a href="/c">c</a>', "<title>Another title here</title>"), "/a")
    bare = page(doc("<h1>C</h1>", "<title>A third title here</title>"), "/c")
    cut = dataclasses.replace(list_page, body=doc("<h1>A</h1>", FULL), cut="reset")
    whole = dataclasses.replace(cut, cut="")
    base, head, later = in_a_row((front, list_page, bare), (front, cut, bare), (front, whole, bare))
    assert classes(base, head) == ["unverified", "unverified"], "the description may be in the rest, the link to /c too"
    assert classes(base, later) == ["fixed", "gone-with-page"]
    assert head.rows("SELECT count(*) FROM finding WHERE check_id = 'reach-incomplete'") == [(1,)]


# What plan leads a later run past /a, which is linked from the front page and listed in the sitemap.
NARROW = [
    {"use_links": False, "use_sitemaps": False, "addresses": [ORIGIN + "/"]},
    {"path_prefix": "/guides/", "addresses": [ORIGIN + "/guides/"]},
    {"exclude": ["/a"]},
    {"include": ["/guides/*"]},
    {"depth_max": 0, "use_sitemaps": False},
]


@pytest.mark.parametrize("plan", NARROW)
def test_what_a_narrower_plan_does_not_reach_is_unverified(plan: dict[str, object]) -> None:
    """Also in later runs of the same plan; a run that reaches as much again tells whether the page is gone."""
    there, away = site(BARE), site(None, "")
    runs = in_a_row(there, there, there, away, there, plans={1: plan, 2: plan, 3: plan})
    for run in runs[1:4]:
        assert classes(runs[0], run) == ["unverified"]
        assert run.rows("SELECT state FROM history WHERE check_id = ? AND subject = ?", CHECK, ORIGIN + "/a") == [("unverified",)]
    assert classes(runs[0], runs[4]) == ["still-there"]
    wide = audit(away, None, runs[3], NOW + 5 * WEEK)[0]
    assert classes(runs[0], wide) == ["gone-with-page"]
    assert wide.rows("SELECT state FROM history WHERE check_id = ? AND subject = ?", CHECK, ORIGIN + "/a") == [("gone",)]


def test_what_a_run_cut_short_did_not_reach_stays_unverified_under_a_narrower_plan() -> None:
    there = site(BARE, '<a href="/a">A</a><a href="/b">B</a>', page(doc("<h1>B</h1>", FULL), "/b"))
    cut, narrow = {"pages_max": 1, "use_sitemaps": False}, {"path_prefix": "/b", "addresses": [ORIGIN + "/b"]}
    runs = in_a_row(there, there, there, plans={1: cut, 2: narrow})
    assert runs[2].rows("SELECT state FROM history WHERE check_id = ?", CHECK) == [("unverified",)]
    assert Sights(runs[2].db, complete=True).hidden.covers(ORIGIN + "/a")


SAME = "<title>One title for both</title><meta name=description content='{}'>"
PAIR = (page(doc("<h1>A</h1>", SAME.format("a")), "/a"), page(doc("<h1>B</h1>", SAME.format("b")), "/b"))


@pytest.mark.parametrize("plan", [{"exclude": ["/b"]}, {"pages_max": 2, "use_sitemaps": False}])
def test_a_title_in_common_with_a_page_that_is_not_reached_is_unverified(plan: dict[str, object]) -> None:
    whole = (page(doc('<h1>Rope</h1><a href="/a">A</a><a href="/b">B</a>', FULL)), *PAIR)
    base, head, later = in_a_row(whole, whole, whole, plans={1: plan, 2: plan})
    assert classes(base, head, "copy-title") == ["unverified", "unverified"]
    assert classes(base, later, "copy-title") == ["unverified", "unverified"]
    states = later.rows("SELECT state FROM history WHERE check_id = 'copy-title'")
    assert states == [("unverified",), ("unverified",)]


def test_a_title_in_common_is_fixed_under_the_plan_that_found_it() -> None:
    narrow: dict[str, object] = {"exclude": ["/c"]}
    whole = (page(doc('<h1>Rope</h1><a href="/a">A</a><a href="/b">B</a><a href="/c">C</a>', FULL)), *PAIR)
    mended = (whole[0], PAIR[0], page(doc("<h1>B</h1>", "<title>Another title</title><meta name=description content=b>"), "/b"))
    _, head, later = in_a_row(whole, whole, mended, plans={1: narrow, 2: narrow})
    assert classes(head, later, "copy-title") == ["fixed", "fixed"]


@pytest.mark.parametrize(
    "plan", [{"use_links": False, "addresses": [ORIGIN + "/"]}, {"exclude": ["/gone"]}, {"obey_robots": True}]
)
def test_a_broken_link_whose_target_is_not_asked_for_is_unverified(plan: dict[str, object]) -> None:
    robots = text_file("/robots.txt", "User-agent: *\nDisallow: /gone")
    there = site(None, '<a href="/gone">gone</a>', gone("/gone"), robots)
    base, head = in_a_row(there, there, plans={0: {"obey_robots": False}, 1: {"obey_robots": False, **plan}})
    assert classes(base, head, "link-broken") == ["unverified"]


@pytest.mark.parametrize("check", ["index-noindex-in-sitemap", "files-sitemap-entry-broken"])
def test_what_only_a_sitemap_shows_is_unverified_without_one(check: str) -> None:
    hidden = page(doc("<h1>A</h1>", FULL + "<meta name=robots content=noindex>"), "/a")
    there = site(hidden, '<a href="/a">A</a><a href="/gone">B</a>', gone("/gone"), sitemap("/", "/a", "/gone"))
    base, head = in_a_row(there, there, plans={1: {"use_sitemaps": False}})
    assert classes(base, head, check) == ["unverified"]


def test_what_a_run_that_was_cut_short_had_not_reached_is_new_to_view() -> None:
    """The earlier run ended at its page limit: whether the page was there then, nobody knows."""
    base, head = in_a_row(site(BARE), site(BARE), plans={0: {"pages_max": 1}})
    assert base.meta("end") == "pages" and head.meta("end") == "complete"
    assert classes(base, head) == ["new-to-view"]


@pytest.mark.parametrize("end", ["time", "stopped", "pages"])
def test_what_a_run_that_ended_early_had_not_reached_is_new_to_view_under_the_same_plan(end: str) -> None:
    base, head = in_a_row(site(None, ""), site(BARE))
    assert classes(base, head) == ["new-with-page"]
    base.db.execute("UPDATE meta SET value = ? WHERE key = 'end'", (f'"{end}"',))
    assert classes(base, head) == ["new-to-view"]


@pytest.mark.parametrize(("status", "expected"), [(404, "gone-with-page"), (410, "gone-with-page"), (405, "unverified")])
def test_what_is_behind_a_page_that_is_gone_is_gone_too(status: int, expected: str) -> None:
    """One that cannot be read hides what is behind it; one that says it is gone does not."""
    front = '<a href="/hub">hub</a>'
    hub = page(doc('<h1>Hub</h1><a href="/a">A</a>', FULL.replace("A title", "A hub")), "/hub")
    base, head = in_a_row(site(BARE, front, hub), site(None, front, gone("/hub", status)))
    assert classes(base, head) == [expected]


def test_of_waived_findings_those_that_were_open_before_are_told_apart() -> None:
    base, _ = audit(site(BARE))
    waiver = Waiver(CHECK, ORIGIN + "/*", None, NOW.date(), None)
    first, _ = audit(site(BARE), None, base, NOW + WEEK, (waiver,))
    second, _ = audit(site(BARE), None, first, NOW + 2 * WEEK, (waiver,))
    assert [compare(*pair).balance.waived_now for pair in ((base, first), (first, second))] == [1, 0]
