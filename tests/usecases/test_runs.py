"""Schedules, queues, and how a finished or failed run gets into the register."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.core.errors import Conflict, DamagedRun
from hodcarrier.register.models import Delivery, Run
from hodcarrier.usecases import runs, sites, trends
from hodcarrier.wire.sites import ClientBody, ScheduleBody, SiteBody
from tests.usecases.conftest import START, Office

TUESDAY = datetime(2026, 11, 10, 2, 4, tzinfo=UTC)
SHOP = [page(doc('<h1>Shop</h1><a href="/a">a</a>')), page(doc("<h1>A</h1>"), "/a")]


def schedule(office: Office, **more: object) -> None:
    body = {"rule": "weekly:TU", "at": "02:04", "zone": "Europe/London", "mail_to": ["imke@agency.example"], **more}
    sites.set_schedule(office.work, office.site.id, ScheduleBody.model_validate(body), None)


def test_a_due_schedule_queues_one_run(office: Office) -> None:
    schedule(office)
    assert runs.queue_due_runs(office.at(TUESDAY - timedelta(seconds=1))) == []
    queued = runs.queue_due_runs(office.at(TUESDAY))
    assert [r.site_id for r in queued] == [office.site.id]
    assert runs.queue_due_runs(office.at(TUESDAY + timedelta(minutes=5))) == []


def test_what_was_missed_is_caught_up_once(office: Office) -> None:
    schedule(office)
    late = TUESDAY + timedelta(weeks=5, days=2)
    assert len(runs.queue_due_runs(office.at(late))) == 1
    runs.fail_run(office.at(late), runs.list_runs(office.work)[0].id, "for the test")
    assert runs.queue_due_runs(office.at(late + timedelta(minutes=1))) == []
    found = sites.get_site(office.work, office.site.id).schedule
    assert found is not None and found.next_due_at == datetime(2026, 12, 22, 2, 4, tzinfo=UTC)


def test_a_site_is_never_run_twice_at_a_time(office: Office) -> None:
    schedule(office)
    running = runs.queue_run(office.work, office.site.id)
    assert runs.queue_due_runs(office.at(TUESDAY)) == [], "it is being audited already"
    with pytest.raises(Conflict, match=running.id):
        runs.queue_run(office.work, office.site.id)
    runs.begin_run(office.work, running.id)
    benchmark = runs.queue_run(office.work, office.site.id, purpose="benchmark")
    assert runs.next_queued(office.work) is None, "a run of another purpose waits for the first"
    runs.fail_run(office.work, running.id, "for the test")
    assert runs.next_queued(office.work) == benchmark.id


def test_the_run_that_waited_longest_is_next(office: Office) -> None:
    other = sites.add_site(
        office.work,
        SiteBody(client_id=sites.add_client(office.work, ClientBody(name="B"), None).id, address="https://b.example/"),
        None,
    )
    second = runs.queue_run(office.at(START + timedelta(seconds=2)), office.site.id)
    first = runs.queue_run(office.at(START + timedelta(seconds=1)), other.id)
    assert runs.next_queued(office.work) == first.id
    runs.begin_run(office.work, first.id)
    assert runs.next_queued(office.work) == second.id


def test_a_done_run_is_told_by_mail_with_what_changed(office: Office) -> None:
    schedule(office)
    office.audit(START, SHOP)
    office.audit(TUESDAY, [page(doc('<h1>Shop</h1><a href="/a">a</a>')), gone("/a")])
    to, subject, text = office.mail.sent[-1]
    assert to == "imke@agency.example" and subject.startswith("shop.example: health")
    assert "points since Tue 03 Nov 2026" in text and "New findings: " in text
    assert f"https://desk.example/sites/{office.site.id}" in text


def test_a_mail_that_cannot_be_sent_is_kept_with_its_reason_and_costs_nothing_else(office: Office) -> None:
    schedule(office)
    office.mail.broken = "mailbox unavailable"
    run = office.audit(START, SHOP)
    assert runs.get_run(office.work, run).state == "done"
    with office.work.session() as session:
        delivery = session.query(Delivery).one()
        assert (delivery.recipient, delivery.error) == ("imke@agency.example", "mailbox unavailable")


def test_a_failed_run_is_told_with_its_reason(office: Office) -> None:
    schedule(office)
    run = runs.queue_run(office.work, office.site.id)
    runs.begin_run(office.work, run.id)
    runs.fail_run(office.work, run.id, "shop.example cannot be audited: the host name does not resolve.")
    assert "does not resolve" in office.mail.sent[0][2] and "failed" in office.mail.sent[0][1]


def test_a_summary_is_wholly_there_or_not_there(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id)
    runs.begin_run(office.work, run.id)
    office.work.run_path(run.id).write_bytes(b"not a run file")
    with pytest.raises(DamagedRun):
        runs.finish_run(office.work, run.id)
    with office.work.session() as session:
        found = session.get(Run, run.id)
        assert found is not None and (found.state, found.summary, found.health) == ("crawling", None, None)


def test_progress_is_what_the_worker_told_last(office: Office) -> None:
    assert runs.read_progress(office.work.folder, "none") is None
    (office.work.folder / "abc.progress").write_text("{half")
    assert runs.read_progress(office.work.folder, "abc") is None
    (office.work.folder / "abc.progress").write_text('{"pages_done": 3}')
    assert runs.read_progress(office.work.folder, "abc") == {"pages_done": 3}


def test_a_queued_run_that_is_stopped_never_begins(office: Office) -> None:
    from hodcarrier.register.models import Member

    run = runs.queue_run(office.work, office.site.id)
    assert runs.stop_run(office.work, run.id, Member(id=None)) == "stopped"
    assert runs.next_queued(office.work) is None
    with pytest.raises(Conflict, match="stopped already"):
        runs.stop_run(office.work, run.id, Member(id=None))


def test_a_run_that_has_begun_is_still_examined_when_it_is_stopped_in_the_queue(office: Office) -> None:
    from hodcarrier.register.models import Member

    run = runs.queue_run(office.work, office.site.id)
    part, stop = (office.work.folder / f"{run.id}.{ending}" for ending in ("part", "stop"))
    part.touch()
    assert runs.stop_run(office.work, run.id, Member(id=None)) == "queued"
    assert stop.exists() and runs.next_queued(office.work) == run.id
    assert not sites.get_site(office.work, office.site.id).can_go_on, "it has not ended yet"
    runs.fail_run(office.work, run.id, "for the test")
    assert sites.get_site(office.work, office.site.id).can_go_on
    assert runs.resume_run(office.work, run.id, Member(id=None)).state == "queued"
    assert not stop.exists(), "who lets a run go on wants no stop"


def test_the_trend_leaves_gaps_where_runs_failed(office: Office) -> None:
    office.audit(START, SHOP)
    failed = runs.queue_run(office.at(START + timedelta(days=7)), office.site.id)
    runs.fail_run(office.at(START + timedelta(days=7)), failed.id, "for the test")
    office.audit(START + timedelta(days=14), SHOP)
    found = trends.get_trend(office.work, office.site.id, "health", None, None)
    assert [point.value is None for point in found.points] == [False, True, False]
    assert found.state == "too few runs"


def test_a_run_that_broke_off_goes_on_and_others_do_not(office: Office) -> None:
    from hodcarrier.register.models import Member

    run = runs.queue_run(office.work, office.site.id)
    with pytest.raises(Conflict, match="queued and cannot go on"):
        runs.resume_run(office.work, run.id, Member(id=None))
    runs.begin_run(office.work, run.id)
    runs.fail_run(office.work, run.id, "The disk is full.")
    with pytest.raises(Conflict, match="cannot go on"):
        runs.resume_run(office.work, run.id, Member(id=None))
    (office.work.folder / f"{run.id}.part").write_bytes(b"")
    assert runs.resume_run(office.work, run.id, Member(id=None)).state == "queued"
    assert runs.next_queued(office.work) == run.id
