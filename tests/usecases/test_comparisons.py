"""A comparison as it is asked for: events become to-dos, parts and lists are read on, runs stand side by side."""

from __future__ import annotations

from datetime import timedelta

import pytest

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound, RunMismatch
from hodcarrier.core.states import ComparedList, PartKind
from hodcarrier.runfile.compared import Chosen
from hodcarrier.usecases import clients, columns, comparisons, runs, sites, todos
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody, TodoOut
from tests.usecases.conftest import START, Office
from tests.usecases.test_todos import WEEK, shop


@pytest.fixture
def pair(office: Office) -> tuple[str, str]:
    """Two runs: in the second, two pages link to a URL that is gone."""
    return office.audit(START, shop(0)), office.audit(START + WEEK, shop(2))


def event_of(office: Office, pair: tuple[str, str], check: str) -> int:
    events = comparisons.compare_runs(office.work, *pair).events
    return next(n for n, event in enumerate(events) if any(each.check == check for each in event.checks))


def make(office: Office, pair: tuple[str, str], **pick: int) -> TodoOut:
    body = {"site_id": office.site.id, "compared": {"base": pair[0], "head": pair[1], **pick}}
    return todos.add_todo(office.at(START + WEEK + timedelta(hours=1)), TodoBody.model_validate(body), None)


def test_an_event_becomes_a_todo_with_its_findings(office: Office, pair: tuple[str, str]) -> None:
    number = event_of(office, pair, "link-broken")
    event = comparisons.compare_runs(office.work, *pair).events[number]
    made = make(office, pair, event=number)
    here = comparisons.compare_runs(office.work, *pair, Chosen(event=number))
    assert made.title == event.title and {place.fingerprint for place in made.linked} == {f.fingerprint for f in here.findings}
    assert [(t.event, t.todo_id, t.places) for t in here.event_todos] == [(number, made.id, len(made.linked))]


def test_a_page_of_a_comparison_becomes_a_todo(office: Office, pair: tuple[str, str]) -> None:
    parts = comparisons.list_compared_parts(office.work, *pair, PartKind.PAGE)
    page = next(part for part in parts.items if part.name == "https://shop.example/1")
    made = make(office, pair, part=page.id)
    assert made.title == page.name and {place.subject for place in made.linked} == {page.name}


def test_what_cannot_be_made_a_todo_says_why(office: Office, pair: tuple[str, str]) -> None:
    for pick in ({"event": 99}, {"part": 99}, {}):
        with pytest.raises(NotFound, match="no such event or part"):
            make(office, pair, **pick)
    number = event_of(office, pair, "link-broken")
    make(office, pair, event=number)
    with pytest.raises(Conflict, match="already"):
        make(office, pair, event=number)
    third = office.audit(START + 2 * WEEK, shop(0))
    with pytest.raises(Conflict, match="not the latest"):
        make(office, pair, event=number)
    fixed = event_of(office, (pair[1], third), "link-broken")
    with pytest.raises(NotFound, match="left to work on"):
        make(office, (pair[1], third), event=fixed)


def test_lists_are_read_on_where_a_part_ended(office: Office, pair: tuple[str, str]) -> None:
    for kind in PartKind:
        whole = comparisons.list_compared_parts(office.work, *pair, kind)
        met, after = [], 0
        while True:
            part = comparisons.list_compared_parts(office.work, *pair, kind, limit=1, after=after)
            met += part.items
            if part.after is None:
                break
            after = int(part.after)
        assert met == whole.items and whole.total == len(met) > 0
    third = office.audit(START + 2 * WEEK, shop(0)[1:])
    gone = comparisons.list_compared_urls(office.work, pair[1], third, ComparedList.GONE)
    found = comparisons.compare_runs(office.work, pair[1], third)
    assert gone.total == len(gone.items) == found.lists.get(ComparedList.GONE, 0)
    group = found.page_changes[0]
    changed = comparisons.list_page_changes(office.work, pair[1], third, group.id)
    assert changed.total == len(changed.items) == group.pages and changed.items[0].url == group.url
    with pytest.raises(NotFound, match="no such change"):
        comparisons.list_page_changes(office.work, pair[1], third, 99)


def test_runs_stand_side_by_side_the_earliest_first(office: Office, pair: tuple[str, str]) -> None:
    found = columns.compare_columns(office.work, [pair[1], pair[0], pair[1]])
    assert [run.id for run in found.runs] == list(pair)
    rows = {row.id: row.values for row in found.rows}
    assert rows["check.link-broken"] == [0, 2] and rows["pages"] == [3, 4]
    assert all(any(row.values) for row in found.rows if row.severity)


def test_runs_that_cannot_stand_side_by_side_say_why(office: Office, pair: tuple[str, str]) -> None:
    with pytest.raises(InvalidInput, match="0 runs"):
        columns.compare_columns(office.work, [])
    with pytest.raises(NotFound, match="no run nowhere"):
        columns.compare_columns(office.work, [pair[0], "nowhere"])
    other = clients.add_client(office.work, ClientBody(name="Another"), None)
    site = sites.add_site(office.work, SiteBody(client_id=other.id, address="https://other.example/"), None)
    queued = runs.queue_run(office.work, site.id).id
    with pytest.raises(NotFound, match="no results"):
        columns.compare_columns(office.work, [pair[0], queued])
    with pytest.raises(RunMismatch):
        comparisons.compare_runs(office.work, pair[0], queued)
