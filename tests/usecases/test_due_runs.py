"""Second attempts after a failed run, pauses, blackout days, archived clients, and the week as it is planned."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

import pytest

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.states import RunState
from hodcarrier.register.models import Member
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import (
    clients,
    desk,
    due_runs,
    finishing,
    runs,
    schedules,
    search,
    sites,
    todo_lists,
    todo_load,
    todos,
    week,
)
from hodcarrier.usecases.todo_lists import TodoFilter
from hodcarrier.wire.clients import ClientBody, ClientChange
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.search import HitKind
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody
from tests.usecases.conftest import Office
from tests.usecases.test_runs import TUESDAY, schedule
from tests.usecases.test_todos import shop

HOUR = timedelta(hours=1)
WEEK = timedelta(weeks=1)
NOBODY = Member(id=None, name="")


def fail(office: Office, moment: datetime, run_id: str) -> None:
    finishing.fail_run(office.at(moment), run_id, "the site did not answer")


def due(office: Office, moment: datetime) -> list[str]:
    return [run.id for run in due_runs.queue_due_runs(office.at(moment))]


def next_due(office: Office) -> datetime | None:
    found = sites.get_site(office.work, office.site.id).schedule
    assert found is not None
    return found.next_due_at


# -- second attempts ---------------------------------------------------------------------------------------------


def test_a_scheduled_run_that_failed_is_tried_again_once(office: Office) -> None:
    schedule(office)
    (first,) = due(office, TUESDAY)
    fail(office, TUESDAY, first)
    assert due(office, TUESDAY + HOUR - timedelta(seconds=1)) == []
    (second,) = due(office, TUESDAY + HOUR)
    assert [(r.retry_of, r.scheduled) for r in runs.list_runs(office.work).items] == [(first, True), (None, True)]
    fail(office, TUESDAY + HOUR, second)
    assert due(office, TUESDAY + 5 * HOUR) == [], "twice is enough"
    assert len(due(office, TUESDAY + WEEK)) == 1, "the schedule goes on"


def test_the_mail_says_that_it_is_tried_again(office: Office) -> None:
    schedule(office)
    (first,) = due(office, TUESDAY)
    fail(office, TUESDAY, first)
    deliver_due(office.at(TUESDAY), office.mail)
    assert "It is tried again at 03:04 UTC." in office.mail.sent[0][2]


def test_what_a_person_started_is_not_tried_again(office: Office) -> None:
    schedule(office)
    fail(office, TUESDAY - HOUR, runs.queue_run(office.at(TUESDAY - HOUR), office.site.id, NOBODY).id)
    assert due(office, TUESDAY - timedelta(minutes=1)) == []


def test_no_second_attempt_where_somebody_was_faster(office: Office) -> None:
    schedule(office)
    (first,) = due(office, TUESDAY)
    fail(office, TUESDAY, first)
    runs.queue_run(office.at(TUESDAY + HOUR / 2), office.site.id, NOBODY)
    assert due(office, TUESDAY + HOUR) == []


def test_a_new_schedule_forgets_the_second_attempt(office: Office) -> None:
    schedule(office)
    (first,) = due(office, TUESDAY)
    fail(office, TUESDAY, first)
    body = ScheduleBody(rule="weekly:TU", at="05:00")
    schedules.set_schedule(office.at(TUESDAY), office.site.id, body, None)
    assert due(office, TUESDAY + HOUR) == []


# -- pauses and blackout days --------------------------------------------------------------------------------------


def test_a_paused_schedule_goes_on_from_when_it_is_resumed(office: Office) -> None:
    schedule(office)
    paused = schedules.pause_schedule(office.work, office.site.id, NOBODY, paused=True)
    assert paused.paused_at is not None and paused.next_due_at is None
    assert due(office, TUESDAY + WEEK) == []
    late = TUESDAY + WEEK + HOUR
    resumed = schedules.pause_schedule(office.at(late), office.site.id, NOBODY, paused=False)
    assert (resumed.paused_at, resumed.next_due_at) == (None, TUESDAY + 2 * WEEK)
    assert due(office, late) == [], "what it missed is not caught up with"


def test_there_is_no_pause_without_a_schedule(office: Office) -> None:
    with pytest.raises(NotFound, match="has no schedule"):
        schedules.pause_schedule(office.work, office.site.id, NOBODY, paused=True)


def test_no_run_starts_on_a_blackout_day(office: Office) -> None:
    schedule(office)
    change = ClientChange(blackout_days=[TUESDAY.date(), TUESDAY.date() + WEEK])
    clients.change_client(office.work, office.site.client_id, change, NOBODY)
    assert next_due(office) == TUESDAY + 2 * WEEK
    clients.change_client(office.work, office.site.client_id, ClientChange(blackout_days=[]), NOBODY)
    assert next_due(office) == TUESDAY


# -- archived clients ----------------------------------------------------------------------------------------------


def archive(office: Office, moment: datetime, *, archived: bool = True) -> None:
    clients.change_client(office.at(moment), office.site.client_id, ClientChange(archived=archived), NOBODY)


def test_an_archived_client_rests_and_comes_back_as_it_was(office: Office) -> None:
    schedule(office)
    office.audit(TUESDAY - HOUR, shop(2))
    todos.add_todo(office.at(TUESDAY), TodoBody(site_id=office.site.id, title="Ring them", due=TUESDAY.date()), None)
    archive(office, TUESDAY - HOUR)
    later = office.at(TUESDAY + WEEK)
    assert due_runs.queue_due_runs(later) == []
    assert clients.list_clients(later) == [] and sites.list_sites(later) == []
    assert [c.name for c in clients.list_clients(later, archived=True)] == ["Rope & Sail"]
    assert todo_lists.list_todos(later).items == [] and todo_load.get_load(later).overdue == 0
    shown = desk.get_desk(later, NOBODY)
    assert (shown.items, shown.events, shown.sites) == ([], [], [])
    assert {hit.kind for hit in search.search(later, "rope")} <= {HitKind.CHECK}
    with pytest.raises(Conflict, match="archived"):
        runs.queue_run(later, office.site.id)
    with pytest.raises(Conflict, match="archived"):
        sites.add_site(later, SiteBody(client_id=office.site.client_id, address="https://other.example/"), None)
    assert len(todo_lists.list_todos(later, TodoFilter(client=office.site.client_id)).items) == 1, (
        "it is there for who asks for it"
    )

    archive(office, TUESDAY + WEEK + HOUR, archived=False)
    assert next_due(office) == TUESDAY + 2 * WEEK
    assert len(todo_lists.list_todos(later).items) == 1 and len(sites.list_sites(later)) == 1


def test_another_client_goes_on(office: Office) -> None:
    other = clients.add_client(office.work, ClientBody(name="Kiln"), None)
    sites.add_site(office.work, SiteBody(client_id=other.id, address="https://kiln.example/"), None)
    archive(office, TUESDAY)
    assert [site.host for site in sites.list_sites(office.work)] == ["kiln.example"]


# -- the week ------------------------------------------------------------------------------------------------------


def test_the_week_shows_what_was_and_what_is_planned(office: Office) -> None:
    schedule(office, rule="daily", at="06:00", zone="UTC")
    run = office.audit(TUESDAY, shop(1))
    change = ClientChange(blackout_days=[date(2026, 11, 12)])
    clients.change_client(office.at(TUESDAY), office.site.client_id, change, NOBODY)
    found = week.get_week(office.at(TUESDAY))
    assert (found.start, found.days) == (date(2026, 11, 9), 7)
    assert [(f"{r.at:%d %H}", r.run_id, r.state) for r in found.runs] == [
        ("10 02", run, RunState.DONE),
        *[(f"{day} 06", None, None) for day in (10, 11, 13, 14, 15)],
    ]
    assert [(each.day.day, each.client_name) for each in found.blackout] == [(12, "Rope & Sail")]
    assert week.get_week(office.at(TUESDAY), date(2026, 11, 2)).runs == []


def test_the_week_tells_pauses_and_second_attempts(office: Office) -> None:
    schedule(office)
    (first,) = due(office, TUESDAY)
    fail(office, TUESDAY, first)
    planned = [run for run in week.get_week(office.at(TUESDAY)).runs if run.run_id is None]
    assert [(run.at, run.retry) for run in planned] == [(TUESDAY + HOUR, True)]
    schedules.pause_schedule(office.at(TUESDAY), office.site.id, NOBODY, paused=True)
    next_week = week.get_week(office.at(TUESDAY), (TUESDAY + WEEK).date())
    assert [run.paused for run in next_week.runs] == [True]


@pytest.mark.parametrize("days", [0, 36])
def test_a_span_has_its_limits(office: Office, days: int) -> None:
    with pytest.raises(InvalidInput, match="cannot be shown"):
        week.get_week(office.work, days=days)
    with pytest.raises(InvalidInput, match="cannot be shown"):
        week.get_week(office.work, date(9999, 12, 31), days=7)


def test_days_are_those_of_utc(office: Office) -> None:
    office.audit(datetime(2026, 11, 9, 23, 59, tzinfo=UTC), shop(1))
    assert week.get_week(office.at(TUESDAY), date(2026, 11, 10), 1).runs == []
