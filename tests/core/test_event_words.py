"""What is said of events."""

from dataclasses import replace

import pytest

from hodcarrier.core.event_words import event_detail, event_title, headline
from hodcarrier.core.states import Change, EventKind, Severity, WhyNot
from hodcarrier.core.summary import BEHIND, Event, EventCheck

ORIGIN = "https://tidewrack.example"
THIN = EventCheck("text-thin", "Thin content", Severity.LOW, 2)
BARE = EventCheck("desc-missing", "Meta description missing", Severity.MEDIUM, 1312)


def event(kind: EventKind, pages: int = 0, *paths: str, about: str = "", way: str = "", **more: object) -> Event:
    checks = more.pop("checks", ())
    assert isinstance(checks, tuple)
    whole = Event(kind, about, way, pages, [ORIGIN + path for path in paths], {Change.NEW: 3}, checks, len(checks))
    return replace(whole, **more)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("told", "title"),
    [
        (event(EventKind.BLOCKED, 53, "/shop/", about="Disallow: /shop (line 3)"), "robots.txt now blocks /shop"),
        (event(EventKind.BLOCKED, 53, "/shop/", about="robots.txt answered 503"), "robots.txt now blocks 53 pages"),
        (event(EventKind.FREED, 1, "/a", about=""), "robots.txt no longer blocks /a"),
        (event(EventKind.BROKEN, 1, "/a", way="404"), "/a returns 404"),
        (event(EventKind.BROKEN, 12, "/a/b", about="/a", way="410"), "12 pages under /a return 410"),
        (event(EventKind.FAILING, 2, "/a", about="", way="5xx"), "2 pages return 5xx errors"),
        (event(EventKind.FAILING, 1, "/a"), "/a does not respond"),
        (event(EventKind.RECOVERED, 3, "/a", way="error"), "3 pages respond without an error again"),
        (event(EventKind.RECOVERED, 1, "/a", way="redirect"), "/a no longer redirects"),
        (event(EventKind.MOVED, 1, "/a", way="redirect", target=ORIGIN + "/b"), "/a now redirects to /b"),
        (event(EventKind.MOVED, 1, "/a", way="404", target=ORIGIN + "/b"), "/a moved to /b without a redirect"),
        (event(EventKind.MOVED, 9, "/g/a", about="/g", way="redirect"), "9 URLs under /g now redirect"),
        (event(EventKind.DEINDEXED, 2, way=WhyNot.NOINDEX), "noindex on 2 pages"),
        (event(EventKind.DEINDEXED, 1, "/a", way=WhyNot.CANONICAL_ELSEWHERE), "Canonical of /a points elsewhere"),
        (event(EventKind.DEINDEXED, 1, "/a", way=WhyNot.NOT_HTML), "/a can no longer be indexed"),
        (event(EventKind.REINDEXED, 1, "/a", way=WhyNot.NOINDEX), "/a can be indexed again"),
        (event(EventKind.APPEARED, 12), "12 pages appeared"),
        (event(EventKind.APPEARED, 31, about="/guides/*"), "31 new pages built like /guides/*"),
        (event(EventKind.GONE, 1, "/a", way="404"), "/a (404) is no longer linked"),
        (event(EventKind.GONE, 2, way="404"), "2 URLs that returned 404 are no longer linked"),
        (event(EventKind.GONE, 2), "2 pages are no longer linked or listed"),
        (event(EventKind.UNREACHED, 73), "The crawl could not reach 73 pages"),
        (event(EventKind.UNREACHED, 2, way=WhyNot.LEFT_OUT), "The plan now excludes 2 pages"),
        (event(EventKind.REACHED, 2), "The crawl reached 2 pages it had not reached before"),
        (
            event(EventKind.TEMPLATE, 1312, way="/shop/*", checks=(BARE,)),
            "Meta description missing: 1,312 pages built like /shop/*",
        ),
        (event(EventKind.TEMPLATE, 31, checks=(BARE, THIN)), "31 pages have the same new faults"),
        (event(EventKind.WORSE, 1, "/a", checks=(THIN,)), "Thin content: /a"),
        (event(EventKind.WORSE, 4, checks=(THIN,), files=True), "Thin content: 4 files"),
        (event(EventKind.WORSE, 0, checks=(THIN,)), "Thin content"),
        (event(EventKind.RETURNED, 2, checks=(THIN,)), "Back on 2 pages: Thin content"),
        (event(EventKind.FIXED, 2, checks=(THIN,), files=True), "Fixed in 2 files: Thin content"),
        (event(EventKind.FIXED, 0, checks=(THIN,)), "Fixed: Thin content"),
        (event(EventKind.FIXED, 5, checks=(THIN, BARE)), "Fixed on 5 pages: 2 checks"),
        (event(EventKind.ENDED), "3 findings went with their pages or files"),
        (event(EventKind.UNVERIFIED), "3 findings could not be checked again"),
        (event(EventKind.JUDGING), "Checks, limits or severities changed: 3 findings"),
        (event(EventKind.WAIVED), "3 findings waived"),
        (event(EventKind.WAIVER_ENDED), "3 findings no longer waived"),
        (event(EventKind.EDITED, 1, "/a", about="title"), "Titles changed on /a"),
        (event(EventKind.OTHER, joined=14), "14 smaller changes"),
        (event(EventKind.OTHER), "Other changes"),
    ],
)
def test_titles(told: Event, title: str) -> None:
    assert event_title(told, ORIGIN) == title


def test_details() -> None:
    shut = event(EventKind.BLOCKED, 53, "/shop/", about="Disallow: /shop (line 3)", counts={Change.UNVERIFIED: 73})
    assert event_detail(shut) == (
        "line 3: Disallow: /shop · 53 pages that could be crawled before · 73 earlier findings unverified"
    )
    assert event_detail(event(EventKind.WORSE, 2, checks=(THIN,))) == "", "the title says it all"
    assert (
        event_detail(event(EventKind.TEMPLATE, 31, checks=(BARE, THIN))) == "Meta description missing (1,312), Thin content (2)"
    )
    several = event(EventKind.BROKEN, 1, "/a", way="404", checks=(BARE, THIN, THIN, THIN), check_count=9)
    assert event_detail(several).endswith("Thin content (2) and 6 more checks")
    assert "linked only from pages" in event_detail(event(EventKind.UNREACHED, 2, way=BEHIND))
    assert event_detail(event(EventKind.REINDEXED, 1, "/a", way=WhyNot.NOINDEX)) == "noindex removed"


@pytest.mark.parametrize(
    ("before", "after", "events", "said"),
    [
        (
            89.54,
            13.04,
            [("robots", -72.9), ("fixed", 0.2)],
            "Health fell 76.5 points to 13.0. R; that accounts for nearly all of it (−72.9).",
        ),
        (
            80.0,
            84.0,
            [("fixed", 2.5), ("robots", 1.5)],
            "Health rose 4.0 points to 84.0. F; that accounts for most of it (+2.5).",
        ),
        (
            80.0,
            84.0,
            [("robots", -1.0), ("fixed", 1.5)],
            "Health rose 4.0 points to 84.0. F; that accounts for the largest part of it (+1.5).",
        ),
        (80.0, 80.04, [("fixed", 0.0)], "Health is unchanged at 80.0."),
        (80.0, 80.0, [], "Health is unchanged at 80.0. Nothing differs between the two runs."),
        (None, 80.0, [], "Health cannot be compared: one of the runs has no scored page."),
        (80.0, 79.0, [("other", -1.0)], "Health fell 1.0 points to 79.0."),
    ],
)
def test_headlines(before: float | None, after: float | None, events: list[tuple[str, float]], said: str) -> None:
    made = {
        "robots": event(EventKind.BLOCKED, 5, about="Disallow: /shop (line 3)"),
        "fixed": event(EventKind.FIXED, 5, checks=(THIN,)),
        "other": event(EventKind.OTHER, joined=3),
    }
    told = [replace(made[name], shown=points, share=points) for name, points in events]
    said = said.replace(" R;", " robots.txt now blocks /shop;").replace(" F;", " Fixed on 5 pages: Thin content;")
    assert headline(before, after, told, ORIGIN) == said


def test_a_headline_says_when_the_runs_share_too_little() -> None:
    assert "share too few pages" in headline(80.0, 40.0, [], ORIGIN, comparable=False)
