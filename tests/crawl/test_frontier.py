"""What is fetched next, and what a crawl that goes on remembers of what it had left out."""

from __future__ import annotations

import pytest

from hodcarrier.core.catalogue import Sample, doc, page
from hodcarrier.core.scope import Scope
from hodcarrier.crawl.admission import Admission
from hodcarrier.crawl.frontier import Frontier
from hodcarrier.runfile import schema
from hodcarrier.runfile.writer import RunWriter, Waiting
from tests.sample_site import ORIGIN, crawl, make_plan


def waiting(number: int, role: int = schema.PAGE, depth: int | None = 0) -> Waiting:
    return Waiting(number, f"{ORIGIN}/{number}", role, depth)


def taken(frontier: Frontier) -> list[int]:
    found = []
    while (item := frontier.take(99, 0)) is not None:
        found.append(item.id)
    return found


def test_pages_come_by_depth_then_as_they_were_met_and_files_after_them() -> None:
    frontier = Frontier()
    for item in (
        waiting(1, depth=2),
        waiting(2, schema.FILE, None),
        waiting(3, depth=None),
        waiting(4, depth=1),
        waiting(5, schema.EXTERNAL, None),
        waiting(6, depth=1),
    ):
        frontier.push(item)
    assert len(frontier) == 6
    assert taken(frontier) == [4, 6, 1, 3, 2]
    assert [item.id for item in frontier.external] == [5]


@pytest.mark.parametrize(
    ("left", "busy", "expected"),
    [(2, 0, 1), (2, 1, 1), (2, 2, None), (0, 0, 2), (1, 1, None)],
)
def test_no_more_pages_are_begun_than_are_left(left: int, busy: int, expected: int | None) -> None:
    frontier = Frontier()
    frontier.push(waiting(1))
    frontier.push(waiting(2, schema.FILE, None))
    item = frontier.take(left, busy)
    assert (item.id if item else None) == expected


def test_files_go_while_pages_are_under_way_and_none_wait() -> None:
    frontier = Frontier()
    frontier.push(waiting(2, schema.FILE, None))
    item = frontier.take(5, 3)
    assert item is not None and item.id == 2


def admission_of(writer: RunWriter, **plan: object) -> Admission:
    read = make_plan(plan)
    made = Admission(read, Scope.of(read), writer, lambda _waiting: None)
    made.restore()
    return made


def test_what_an_earlier_part_left_out_can_still_be_brought_back_and_was_not_counted() -> None:
    links = "".join(f'<a href="/p?n={number}">p</a>' for number in range(3))
    front = page(doc(links + '<a rel="nofollow" href="/far">f</a><img src="/i.png"><a href="/x.html">x</a>'))
    writer, _, _ = crawl((front,), make_plan({"exclude": ["/x*"]}))
    made = admission_of(writer, exclude=["/x*"])
    assert set(made._left_out) == {ORIGIN + "/far"}
    assert made.files == {writer.ids[ORIGIN + "/i.png"]}
    fresh = Admission(make_plan(), Scope.of(make_plan()), writer, lambda _waiting: None)
    for url in (ORIGIN + "/", *(f"{ORIGIN}/p?n={number}" for number in range(3))):
        fresh.guard.admit(url)
    assert made.guard.__dict__ == fresh.guard.__dict__, "what was left out has no share in the limits of traps"


@pytest.mark.parametrize(("less", "state"), [(0, schema.DONE), (1, schema.SKIPPED)])
def test_addresses_longer_than_the_limit_are_left_out(less: int, state: int) -> None:
    path = "/" + "a" * 300
    plan = make_plan({"url_chars_max": len(ORIGIN + path) - less})
    writer, _, _ = crawl((page(doc(f'<a href="{path}">a</a>')), page(doc(), path)), plan)
    assert writer.db.execute("SELECT state FROM address WHERE url = ?", (ORIGIN + path,)).fetchone() == (state,)


def test_a_better_way_brings_back_what_was_too_deep() -> None:
    site = (
        page(doc('<a href="/a">a</a><a href="/slow">s</a>')),
        page(doc('<a href="/b">b</a>'), "/a"),
        page(doc('<a href="/deep">d</a>'), "/b"),
        page(doc("<p>Deep</p>"), "/deep"),
        Sample("/slow", "", 302, (("location", "/deep"),)),
    )
    writer, _, end = crawl(site, make_plan({"depth_max": 2, "parallel": 1}))
    assert end == "complete"
    assert writer.db.execute("SELECT state FROM address WHERE url = ?", (ORIGIN + "/deep",)).fetchone() == (schema.DONE,)
