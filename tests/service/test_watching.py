"""Who keeps a list open is told that it has changed, whoever changed it and by whatever way."""

from __future__ import annotations

import asyncio
import json
from collections.abc import Callable
from pathlib import Path

import pytest
from sqlalchemy import text
from starlette.requests import Request

from hodcarrier.core.errors import SignInNeeded
from hodcarrier.core.states import Noun, Priority
from hodcarrier.register.models import Member
from hodcarrier.service import watching
from hodcarrier.usecases import changes as counting
from hodcarrier.usecases import clients, remarks, todo_changes, todos
from hodcarrier.usecases.changes import Counts, changed_since, count_changes
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.remarks import RemarkBody
from hodcarrier.wire.todos import TodoBody, TodoChange
from tests.service.agency import make_agency
from tests.usecases.conftest import START, Office, make_office
from tests.usecases.test_todos import shop

Change = Callable[[Office], object]


@pytest.fixture
def office(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Office:
    for module in (watching, counting):
        monkeypatch.setattr(module, "EVERY_S", 0.0)
    return make_office(tmp_path)


def add_todo(office: Office) -> int:
    return todos.add_todo(office.work, TodoBody(site_id=office.site.id, title="Ring them"), None).id


def by_another_program(office: Office) -> None:
    with office.work.session() as session:
        session.execute(text("UPDATE client SET name = 'Sail & Rope'"))


CHANGES: list[tuple[Change, set[Noun]]] = [
    (lambda office: clients.add_client(office.work, ClientBody(name="Kiln"), None), {Noun.CLIENTS}),
    (by_another_program, {Noun.CLIENTS}),
    (add_todo, {Noun.TODOS}),
    (
        lambda office: remarks.add_remark(office.work, office.site.id, RemarkBody(day=START.date(), text="x"), None),
        {Noun.REMARKS},
    ),
    (lambda office: office.audit(START, shop(2)), {Noun.RUNS, Noun.SITES}),
]


@pytest.mark.parametrize(("change", "nouns"), CHANGES)
def test_a_change_counts_for_its_noun_alone(office: Office, change: Change, nouns: set[Noun]) -> None:
    before = count_changes(office.work)
    change(office)
    assert set(changed_since(before, count_changes(office.work))) == nouns


def test_reading_changes_nothing(office: Office) -> None:
    add_todo(office)
    before = count_changes(office.work)
    clients.list_clients(office.work)
    remarks.list_remarks(office.work, office.site.id)
    assert changed_since(before, count_changes(office.work)) == []


def test_a_lease_that_is_renewed_is_no_news(office: Office) -> None:
    office.audit(START, shop(1))
    before = count_changes(office.work)
    with office.work.session() as session:
        session.execute(text("UPDATE run SET lease_until = '2026-11-03 02:00:00', worker_id = 'x'"))
        session.execute(text("INSERT INTO run_progress SELECT id, requested_at, '{}' FROM run"))
    assert changed_since(before, count_changes(office.work)) == []


def request(last: str = "") -> Request:
    headers = [(b"last-event-id", last.encode())] if last else []
    return Request({"type": "http", "headers": headers})


def listen(office: Office, events: int, change: Callable[[int], object] = lambda _n: None, last: str = "") -> list[str]:
    """The first events of a stream; ``change`` is called after each."""

    async def collect() -> list[str]:
        stream = watching.changes(office.work, Counts(office.work), request(last), 3600)
        told = []
        for number in range(events):
            told.append(await anext(stream))
            change(number)
        await stream.aclose()
        return told

    return asyncio.run(collect())


def nouns_of(event: str) -> list[str]:
    (data,) = [line.removeprefix("data: ") for line in event.splitlines() if line.startswith("data: ")]
    found: list[str] = json.loads(data)["nouns"]
    return found


def test_every_change_is_told_once_with_what_it_is_about(office: Office) -> None:
    number = add_todo(office)

    def change(n: int) -> None:
        if n == 0:
            todo_changes.change_todo(office.work, number, TodoChange(priority=Priority.HIGH), None, Member(id=None, name=""))
        else:
            by_another_program(office)

    first, second, third = listen(office, 3, change)
    assert "data:" not in first and first.startswith("id: ")
    assert (nouns_of(second), nouns_of(third)) == (["todos"], ["clients"])


def test_who_comes_back_is_told_to_look_at_everything_if_something_changed(office: Office) -> None:
    (first,) = listen(office, 1)
    seen = first.splitlines()[0].removeprefix("id: ")
    assert "data:" not in listen(office, 1, last=seen)[0]
    add_todo(office)
    assert nouns_of(listen(office, 1, last=seen)[0]) == list(Noun)


def test_a_quiet_stream_shows_that_it_lives_until_its_member_is_signed_out(
    office: Office, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(watching, "KEEP_ALIVE_S", 0.0)
    monkeypatch.setattr(watching, "signed_in", lambda *_: None)
    assert listen(office, 3)[1:] == [": still here\n\n"] * 2

    def refuse(*_: object) -> None:
        raise SignInNeeded("Sign in.", "")

    monkeypatch.setattr(watching, "signed_in", refuse)
    with pytest.raises(StopAsyncIteration):
        listen(office, 2)


def test_a_stream_ends_with_the_service(office: Office) -> None:
    async def collect() -> list[str]:
        counts = Counts(office.work)
        stream = watching.changes(office.work, counts, request(), 3600)
        told = [await anext(stream)]
        counts.ended = True
        return told + [event async for event in stream]

    assert len(asyncio.run(collect())) == 1


def test_the_service_streams_events_and_ends_when_it_was_told(tmp_path: Path) -> None:
    agency = make_agency(tmp_path)
    answer = agency.request("GET", "/api/v1/changes?seconds=0", "fixer")
    assert answer.headers["content-type"].startswith("text/event-stream") and answer.text.startswith("id: ")
    assert agency.request("GET", "/api/v1/changes?seconds=3601", "fixer").status_code == 422
