"""The client library against answers that are made up: what it asks, how it turns pages, what it raises."""

from __future__ import annotations

import json
from collections.abc import Callable

import httpx
import pytest

from hodcarrier.client import Hodcarrier, RequestFailed, Unreachable
from hodcarrier.core.states import Noun
from hodcarrier.wire.todos import TodoBody, TodoChange

Answer = Callable[[httpx.Request], httpx.Response]
FINDING = {
    "id": 1, "fingerprint": "ab", "check": "link-broken", "severity": "high", "summary": "s", "subject": "https://a.example/", "place": "",
    "message": "m", "evidence": {}, "cause": 1, "waived": False, "since": None, "times_returned": 0,
}  # fmt: skip


def desk(answer: Answer) -> tuple[Hodcarrier, list[httpx.Request]]:
    asked: list[httpx.Request] = []

    def handle(request: httpx.Request) -> httpx.Response:
        asked.append(request)
        return answer(request)

    return Hodcarrier("https://desk.example/", "hod_secret", transport=httpx.MockTransport(handle)), asked


def test_the_token_goes_with_every_request() -> None:
    connection, asked = desk(lambda _r: httpx.Response(200, json=[]))
    with connection:
        assert connection.list_sites() == []
    assert asked[0].headers["authorization"] == "Bearer hod_secret"
    assert str(asked[0].url) == "https://desk.example/api/v1/sites"


def test_parts_turn_by_themselves() -> None:
    def answer(request: httpx.Request) -> httpx.Response:
        after = request.url.params.get("after")
        number = int(after or 0) + 1
        items = [{**FINDING, "id": number}]
        return httpx.Response(200, json={"items": items, "total": 3, "after": str(number) if number < 3 else None})

    connection, asked = desk(answer)
    assert [f.id for f in connection.list_findings("r1", check="link-broken")] == [1, 2, 3]
    assert len(asked) == 3 and asked[0].url.params["check"] == "link-broken" and "severity" not in asked[0].url.params


def test_parts_are_fetched_only_when_they_are_wanted() -> None:
    connection, asked = desk(lambda _r: httpx.Response(200, json={"items": [FINDING], "total": 9, "after": "1"}))
    assert next(connection.list_findings("r1")).check == "link-broken"
    assert len(asked) == 1


def test_a_problem_document_is_raised_whole() -> None:
    problem = {
        "type": "urn:hodcarrier:conflict",
        "title": "Conflict",
        "status": 409,
        "detail": "Busy.",
        "hint": "Wait.",
        "field": "",
    }
    connection, _ = desk(lambda _r: httpx.Response(409, json=problem))
    with pytest.raises(RequestFailed) as failed:
        connection.start_run(1)
    assert (failed.value.problem.status, failed.value.problem.hint, str(failed.value)) == (409, "Wait.", "Busy. Wait.")


def test_an_answer_that_is_no_problem_document_is_told_anyway() -> None:
    connection, _ = desk(lambda _r: httpx.Response(502, text="<h1>Bad gateway</h1>"))
    with pytest.raises(RequestFailed, match="HTTP 502"):
        connection.get_desk()


@pytest.mark.parametrize(("call", "tries"), [(lambda d: d.list_sites(), 3), (lambda d: d.start_run(1), 1)])
def test_only_safe_requests_are_tried_again(
    call: Callable[[Hodcarrier], object], tries: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("hodcarrier.client.connection.time.sleep", lambda _s: None)

    def broken(request: httpx.Request) -> httpx.Response:
        raise httpx.ConnectError("refused", request=request)

    connection, asked = desk(broken)
    with pytest.raises(Unreachable, match=r"desk\.example"):
        call(connection)
    assert len(asked) == tries


def test_a_connection_that_comes_back_is_used(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("hodcarrier.client.connection.time.sleep", lambda _s: None)
    calls = iter([True, False])

    def once_broken(request: httpx.Request) -> httpx.Response:
        if next(calls):
            raise httpx.ReadTimeout("late", request=request)
        return httpx.Response(200, json=[])

    connection, asked = desk(once_broken)
    assert connection.list_sites() == [] and len(asked) == 2


def test_only_what_was_given_is_sent() -> None:
    todo = {
        "id": 3, "site_id": 1, "site_host": "a", "client_name": "b", "title": "t", "note": "", "check": "", "severity": "low", "state": "open",
        "flag": "", "drop_reason": "", "assignee_id": None, "assignee": "", "due": None, "overdue": False, "days_late": 0, "places": 0,
        "cleared": 0, "created_at": "2026-11-24T00:00:00Z", "closed_at": None, "version": 2,
        "author": "", "priority": "normal", "estimate_hours": None, "labels": [], "watchers": [], "gain": None, "approval": "",
    }  # fmt: skip
    connection, asked = desk(lambda _r: httpx.Response(200, json=todo))
    connection.add_todo(TodoBody(site_id=1, title="t"))
    connection.change_todo(3, TodoChange(assignee=None), version=7)
    assert json.loads(asked[0].content) == {"site_id": 1, "title": "t"}
    assert json.loads(asked[1].content) == {"assignee": None} and asked[1].headers["if-match"] == '"7"'


SITES = [
    {
        "id": n,
        "host": host,
        "kind": "own",
        "client_id": 1,
        "client_name": "c",
        "created_at": "2026-11-24T00:00:00Z",
        "health": None,
    }
    for n, host in enumerate(("rope.example", "rope-and-sail.example", "sail.example"), 1)
]


@pytest.mark.parametrize(("key", "found"), [("rope.example", 1), ("rope-", 2), ("sail", 3), (3, 3), ("2", 2)])
def test_sites_are_found_by_id_host_or_beginning(key: str | int, found: int) -> None:
    connection, _ = desk(lambda _r: httpx.Response(200, json=SITES))
    assert connection.find_site(key).id == found


@pytest.mark.parametrize(("key", "words"), [("rope", "2 sites begin with"), ("zzz", "No site begins")])
def test_what_is_not_one_site_names_what_there_is(key: str, words: str) -> None:
    connection, _ = desk(lambda _r: httpx.Response(200, json=SITES))
    with pytest.raises(LookupError, match=words) as missed:
        connection.find_site(key)
    assert "rope.example" in str(missed.value)


def test_progress_is_read_from_the_stream_of_events() -> None:
    run = {
        "id": "r1",
        "site_id": 1,
        "site_host": "a",
        "client_name": "b",
        "purpose": "audit",
        "requested_at": "2026-11-24T00:00:00Z",
    }
    lines = "".join(
        f"event: run\ndata: {json.dumps({**run, 'state': state})}\n\n: still here\n\n" for state in ("crawling", "done")
    )
    connection, _ = desk(lambda _r: httpx.Response(200, text=lines, headers={"content-type": "text/event-stream"}))
    assert [r.state for r in connection.watch_run("r1")] == ["crawling", "done"]


def test_changes_are_read_from_the_stream_of_events() -> None:
    lines = 'id: 4\n\nid: 5\nevent: changes\ndata: {"nouns": ["todos", "alerts"]}\n\n: still here\n\n'
    connection, asked = desk(lambda _r: httpx.Response(200, text=lines, headers={"content-type": "text/event-stream"}))
    assert [each.nouns for each in connection.watch_changes(7)] == [[Noun.TODOS, Noun.ALERTS]]
    assert asked[0].url.params["seconds"] == "7"
