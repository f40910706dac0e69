"""The history of findings over several runs of one site: first seen, last seen, how often they returned."""

from __future__ import annotations

from datetime import timedelta

import pytest

from hodcarrier.core.catalogue import Sample, doc, gone, page, text_file
from hodcarrier.examine import history
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile
from tests.sample_site import NOW, ORIGIN, audit

SHORT, LONG = "<title>Short</title>", "<title>A title of some length</title>"


def front(*links: str, head: str = LONG) -> Sample:
    return page(doc("<h1>Rope</h1>" + "".join(f'<a href="{link}">more</a>' for link in links), head))


def day(number: int) -> str:
    return (NOW + timedelta(days=number)).isoformat()


def in_a_row(*sites: tuple[Sample, ...], **plan: object) -> list[RunFile]:
    """Runs on one day after another, each with the one before as its base."""
    runs: list[RunFile] = []
    for number, site in enumerate(sites):
        runs.append(audit(site, plan, runs[-1] if runs else None, NOW + timedelta(days=number))[0])
    return runs


def line(run: RunFile, check: str, path: str = "/") -> tuple[str, str, str, int] | None:
    """State, first seen, last seen and times returned of a check's only finding on a page."""
    sql = "SELECT state, first_seen, last_seen, times_returned FROM history WHERE check_id = ? AND subject = ?"
    found = run.rows(sql, check, ORIGIN + path)
    assert len(found) <= 1
    return found[0] if found else None


def test_a_finding_that_stays_goes_and_returns() -> None:
    bad, good = (front(head=SHORT),), (front(),)
    runs = in_a_row(bad, bad, good, good, bad, good, bad)
    assert [line(run, "title-short") for run in runs] == [
        ("open", day(0), day(0), 0),
        ("open", day(0), day(1), 0),
        ("passed", day(0), day(1), 0),
        ("passed", day(0), day(1), 0),
        ("open", day(0), day(4), 1),
        ("passed", day(0), day(4), 1),
        ("open", day(0), day(6), 2),
    ]


def test_what_is_gone_with_its_page_or_was_not_examined_has_not_passed() -> None:
    there = page(doc("<h1>Knots</h1>", SHORT), "/a")
    silent = page("", "/a", failure="timeout")
    runs = in_a_row((front("/a"), there), (front("/a"), silent), (front("/a"), there), (front(),), (front("/a"), there))
    states = [line(run, "title-short", "/a") for run in runs]
    assert [state and (state[0], state[3]) for state in states] == [
        ("open", 0),
        ("unverified", 0),
        ("open", 0),
        ("gone", 0),
        ("open", 0),
    ]
    assert states[1] is not None and states[1][2] == day(0), "it was not seen on the day that the page did not answer"


def test_a_history_of_any_length_is_carried_whole(monkeypatch: pytest.MonkeyPatch) -> None:
    """Old and new fingerprints lie among one another in any order: none is lost, none is written twice."""
    names = [f"/{number}" for number in range(12)]

    def site(short: int) -> tuple[Sample, ...]:
        return (
            front(*names),
            *(page(doc("<h1>x</h1>", SHORT if number % short else LONG), f"/{number}") for number in range(12)),
        )

    monkeypatch.setattr(history, "BATCH", 2)
    first, second = in_a_row(site(2), site(3))
    before = {row[0]: row[1:] for row in first.rows("SELECT fingerprint, first_seen FROM history")}
    after = {row[0]: row[1:] for row in second.rows("SELECT fingerprint, first_seen FROM history")}
    found = {row[0] for row in second.rows("SELECT fingerprint FROM finding")}
    assert set(after) == set(before) | found
    assert all(after[fingerprint] == before[fingerprint] for fingerprint in before)
    assert all(after[fingerprint] == (day(1),) for fingerprint in found - set(before))
    state = dict(second.rows("SELECT subject, state FROM history WHERE check_id = 'title-short'"))
    assert {ORIGIN + name: "open" if int(name[1:]) % 3 else "passed" for name in names if int(name[1:]) % 6} == state


def test_pages_that_were_indexable_once_are_remembered() -> None:
    noindex = page(doc("<h1>x</h1>", LONG + '<meta name="robots" content="noindex">'), "/a")
    runs = in_a_row((front("/a"), page(doc(), "/a")), (front("/a", "/b"), noindex, page(doc(), "/b")), (front(),))
    remembered = [
        [url.removeprefix(ORIGIN) for (url,) in run.rows("SELECT url FROM once_indexable ORDER BY url")] for run in runs
    ]
    assert remembered == [["/", "/a"], ["/", "/a", "/b"], ["/", "/a", "/b"]]


ROBOTS = "User-agent: *\nDisallow: /shop/\n"
SHOP = (
    front("/shop/", "/noindex"),
    page(doc('<a href="/shop/rope">r</a><a href="/shop/out">o</a>'), "/shop/"),
    page(doc(), "/shop/rope"),
    page(doc("<h1>x</h1>", LONG + '<meta name="robots" content="noindex">'), "/shop/out"),
    page(doc(), "/noindex"),
)


def blocked(run: RunFile) -> list[tuple[str, str]]:
    sql = "SELECT a.url, a.rule FROM address a JOIN verdict v ON v.address_id = a.id WHERE v.scored AND a.state = ? ORDER BY url"
    return [(url.removeprefix(ORIGIN), rule) for url, rule in run.rows(sql, schema.DISALLOWED)]


def test_pages_behind_a_blocked_one_are_known_as_blocked_while_they_are() -> None:
    shut = text_file("/robots.txt", ROBOTS)
    runs = in_a_row(SHOP, (shut, *SHOP), (shut, *SHOP), SHOP)
    rule = "Disallow: /shop/ (line 2)"
    lost = [("/shop/", rule), ("/shop/rope", rule)]
    assert [blocked(run) for run in runs] == [[], lost, lost, []]


@pytest.mark.parametrize(
    ("robots", "plan"),
    [
        (text_file("/robots.txt", ROBOTS), {"obey_robots": False}),
        (text_file("/robots.txt", "User-agent: *\nDisallow: /other/\n"), {}),
        (gone("/robots.txt"), {}),
    ],
)
def test_none_is_where_robots_txt_blocks_nothing_or_is_not_obeyed(robots: Sample, plan: dict[str, object]) -> None:
    assert blocked(in_a_row(SHOP, (robots, *SHOP), **plan)[1]) == []


def test_nor_what_the_plan_leaves_out() -> None:
    before, _ = audit(SHOP)
    after, _ = audit((text_file("/robots.txt", ROBOTS), *SHOP), {"exclude": ["/shop/r*"]}, before)
    assert [url for url, _ in blocked(after)] == ["/shop/"]
