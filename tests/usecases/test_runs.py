"""Schedules, queues, and how a finished or failed run gets into the register."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.core.errors import Conflict, DamagedRun, InvalidInput, NotFound
from hodcarrier.core.progress import Progress
from hodcarrier.core.states import RunPurpose
from hodcarrier.register.models import Member, Run
from hodcarrier.service.postman import deliver_due
from hodcarrier.usecases import clients, due_runs, finishing, outbox, runs, schedules, sites, trends
from hodcarrier.usecases.workspace import latest_run_id, run_id_on
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteBody
from tests.usecases.conftest import START, Office

TUESDAY = datetime(2026, 11, 10, 2, 4, tzinfo=UTC)
SHOP = [page(doc('<h1>Shop</h1><a href="/a">a</a>')), page(doc("<h1>A</h1>"), "/a")]


def schedule(office: Office, **more: object) -> None:
    body = {"rule": "weekly:TU", "at": "02:04", "zone": "Europe/London", "mail_to": ["imke@agency.example"], **more}
    schedules.set_schedule(office.work, office.site.id, ScheduleBody.model_validate(body), None)


def test_a_due_schedule_queues_one_run(office: Office) -> None:
    schedule(office)
    assert due_runs.queue_due_runs(office.at(TUESDAY - timedelta(seconds=1))) == []
    queued = due_runs.queue_due_runs(office.at(TUESDAY))
    assert [r.site_id for r in queued] == [office.site.id]
    assert due_runs.queue_due_runs(office.at(TUESDAY + timedelta(minutes=5))) == []


def test_what_was_missed_is_caught_up_once(office: Office) -> None:
    schedule(office)
    late = TUESDAY + timedelta(weeks=5, days=2)
    assert len(due_runs.queue_due_runs(office.at(late))) == 1
    finishing.fail_run(office.at(late), runs.list_runs(office.work).items[0].id, "for the test")
    assert due_runs.queue_due_runs(office.at(late + timedelta(minutes=1))) == []
    found = sites.get_site(office.work, office.site.id).schedule
    assert found is not None and found.next_due_at == datetime(2026, 12, 22, 2, 4, tzinfo=UTC)


@pytest.mark.parametrize("rule", ["daily", "weekly", "monthly", "FREQ=WEEKLY;INTERVAL=2"])
def test_a_schedule_that_a_wrong_clock_moved_far_ahead_comes_back(office: Office, rule: str) -> None:
    schedule(office, rule=rule)
    due = schedules.get_schedule(office.work, office.site.id).next_due_at
    assert due is not None and due_runs.bring_back_schedules(office.work) == [], "it is as it should be"
    years_ahead = office.at(START + timedelta(days=4000))
    assert len(due_runs.queue_due_runs(years_ahead)) == 1
    assert due_runs.bring_back_schedules(office.work) == [office.site.id]
    assert schedules.get_schedule(office.work, office.site.id).next_due_at == due


def test_a_site_is_never_run_twice_at_a_time(office: Office) -> None:
    schedule(office)
    running = runs.queue_run(office.work, office.site.id)
    assert due_runs.queue_due_runs(office.at(TUESDAY)) == [], "it is being audited already"
    with pytest.raises(Conflict, match=running.id):
        runs.queue_run(office.work, office.site.id)
    assert runs.claim_run(office.work, "w") == running.id
    benchmark = runs.queue_run(office.work, office.site.id, purpose=RunPurpose.BENCHMARK)
    assert runs.claim_run(office.work, "w") is None, "a run of another purpose waits for the first"
    finishing.fail_run(office.work, running.id, "for the test")
    assert runs.claim_run(office.work, "w") == benchmark.id


def test_the_run_that_waited_longest_is_next(office: Office) -> None:
    other = sites.add_site(
        office.work,
        SiteBody(client_id=clients.add_client(office.work, ClientBody(name="B"), None).id, address="https://b.example/"),
        None,
    )
    first = runs.queue_run(office.at(START + timedelta(seconds=2)), other.id)
    second = runs.queue_run(office.at(START + timedelta(seconds=1)), office.site.id)  # the clock was set back
    assert runs.claim_run(office.work, "w") == first.id
    assert runs.claim_run(office.work, "w") == second.id
    assert runs.claim_run(office.work, "w") is None


def test_the_order_of_runs_does_not_depend_on_the_clock(office: Office) -> None:
    """The clock jumps back between the first run and the second, and far ahead for the third."""
    site = [page(doc())]
    moments = [START, START - timedelta(days=400), START + timedelta(days=4000)]
    ids = [office.audit(moment, site) for moment in moments]
    assert [run.id for run in runs.list_runs(office.work, office.site.id).items] == ids[::-1]
    assert [runs.get_run(office.work, run).base_id for run in ids] == [None, *ids[:2]]
    with office.work.reading() as session:
        assert latest_run_id(session, office.site.id) == ids[2]
    assert [point.run_id for point in trends.get_trend(office.work, office.site.id).points] == ids
    assert sites.get_site(office.work, office.site.id).last_run.id == ids[2]  # type: ignore[union-attr]


def test_a_done_run_is_told_by_mail_with_what_changed(office: Office) -> None:
    schedule(office)
    first = office.audit(START, SHOP)
    second = office.audit(TUESDAY, [page(doc('<h1>Shop</h1><a href="/a">a</a>')), gone("/a")])
    to, subject, text = office.mail.sent[-1]
    assert to == "imke@agency.example" and subject.startswith("shop.example: health")
    assert "points since Tue 03 Nov 2026" in text and "New findings: " in text
    assert f"https://desk.example/sites/{office.site.id}/changes?base={first}&head={second}" in text
    with office.work.reading() as session:
        changes = session.get_one(Run, second).changes
    assert changes is not None and changes.events
    shares = [line.split()[0] for line in text.splitlines() if any(event.title in line for event in changes.events)]
    assert len(shares) == len(changes.events) and shares[0].startswith("−")
    office.audit(TUESDAY + timedelta(weeks=1), [page(doc('<h1>Shop</h1><a href="/a">a</a>')), gone("/a")])
    assert "What happened" not in office.mail.sent[-1][2], "nothing did"


def test_a_mail_that_cannot_be_sent_is_kept_with_its_reason_and_costs_nothing_else(office: Office) -> None:
    schedule(office)
    office.mail.broken = "mailbox unavailable"
    run = office.audit(START, SHOP)
    assert runs.get_run(office.work, run).state == "done"
    (delivery,) = outbox.list_deliveries(office.work)
    assert (delivery.recipient, delivery.error, delivery.state) == ("imke@agency.example", "mailbox unavailable", "waiting")


def test_a_failed_run_is_told_with_its_reason(office: Office) -> None:
    schedule(office)
    run = runs.queue_run(office.work, office.site.id)
    finishing.begin_run(office.work, run.id)
    finishing.fail_run(office.work, run.id, "shop.example cannot be audited: the host name does not resolve.")
    deliver_due(office.work, office.mail)
    assert "does not resolve" in office.mail.sent[0][2] and "failed" in office.mail.sent[0][1]


def test_a_summary_is_wholly_there_or_not_there(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id)
    runs.claim_run(office.work, "w")
    finishing.begin_run(office.work, run.id)
    office.work.store.whole_path(run.id).write_bytes(b"not a run file")
    with pytest.raises(DamagedRun):
        finishing.finish_run(office.work, run.id)
    with office.work.session() as session:
        found = session.get(Run, run.id)
        assert found is not None and (found.state, found.summary, found.health) == ("crawling", None, None)


def test_progress_is_what_the_worker_told_last(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id).id
    runs.claim_run(office.work, "w")
    assert runs.get_run(office.work, run).progress is None
    for pages in (1, 3):
        runs.tell_progress(office.work, run, Progress(pages_done=pages, recent=[("https://shop.example/", 200, "")]))
    assert runs.get_run(office.work, run).progress == Progress(pages_done=3, recent=[("https://shop.example/", 200, "")])
    finishing.fail_run(office.work, run, "for the test")
    assert runs.get_run(office.work, run).progress is None
    runs.tell_progress(office.work, "none", Progress())


def test_a_queued_run_that_is_stopped_never_begins(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id)
    assert runs.stop_run(office.work, run.id, Member(id=None, name="")) == "stopped"
    assert runs.claim_run(office.work, "w") is None
    with pytest.raises(Conflict, match="stopped already"):
        runs.stop_run(office.work, run.id, Member(id=None, name=""))


def begin_file(office: Office, run: str) -> None:
    """The part of a run that has begun."""
    with office.work.reading() as session:
        plan = session.get_one(Run, run).plan
    office.work.store.begin(run, plan, {}).close()


def test_a_run_that_has_begun_is_still_examined_when_it_is_stopped_in_the_queue(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id)
    begin_file(office, run.id)
    assert runs.stop_run(office.work, run.id, Member(id=None, name="")) == "queued"
    assert runs.is_stop_requested(office.work, run.id) and runs.claim_run(office.work, "w") == run.id
    assert not sites.get_site(office.work, office.site.id).can_go_on, "it has not ended yet"
    finishing.fail_run(office.work, run.id, "for the test")
    assert sites.get_site(office.work, office.site.id).can_go_on
    assert runs.resume_run(office.work, run.id, Member(id=None, name="")).state == "queued"
    assert not runs.is_stop_requested(office.work, run.id), "who lets a run go on wants no stop"


def test_a_run_that_was_stopped_is_stopped_and_has_results(office: Office) -> None:
    office.audit(START, SHOP)
    cut = office.audit(START + timedelta(days=7), SHOP, end="stopped")
    found = runs.get_run(office.work, cut)
    assert (found.state, found.partial, found.end_words) == ("stopped", True, "stopped by a person")
    assert found.health is not None and found.health_change == 0
    site = sites.get_site(office.work, office.site.id)
    assert site.last_run is not None and site.last_run.id == cut and site.runs == 2 and site.health == found.health
    assert [p.partial for p in trends.get_trend(office.work, office.site.id).points] == [False, True]
    third = office.audit(START + timedelta(days=14), SHOP)
    assert runs.get_run(office.work, third).base_id == cut


def test_the_trend_leaves_gaps_where_runs_failed(office: Office) -> None:
    office.audit(START, SHOP)
    failed = runs.queue_run(office.at(START + timedelta(days=7)), office.site.id)
    finishing.fail_run(office.at(START + timedelta(days=7)), failed.id, "for the test")
    office.audit(START + timedelta(days=14), SHOP)
    found = trends.get_trend(office.work, office.site.id, "health", None, None)
    assert [point.value is None for point in found.points] == [False, True, False]
    assert found.state == "too few runs"


def test_a_run_that_broke_off_goes_on_and_others_do_not(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id)
    with pytest.raises(Conflict, match="queued and cannot go on"):
        runs.resume_run(office.work, run.id, Member(id=None, name=""))
    runs.claim_run(office.work, "w")
    finishing.note_failure(office.work, run.id, "another worker", "It has no say.")
    assert runs.get_run(office.work, run.id).state == "crawling"
    finishing.note_failure(office.work, run.id, "w", "The disk is full.")
    with pytest.raises(Conflict, match="cannot go on"):
        runs.resume_run(office.work, run.id, Member(id=None, name=""))
    begin_file(office, run.id)
    assert runs.resume_run(office.work, run.id, Member(id=None, name="")).state == "queued"
    assert runs.claim_run(office.work, "w") == run.id


def test_a_claim_is_renewed_by_its_worker_alone_and_taken_over_when_it_lapses(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id).id
    runs.claim_run(office.work, "first")
    soon, late = office.at(START + timedelta(seconds=50)), office.at(START + timedelta(seconds=140))
    assert runs.renew_claim(soon, run, "first") and not runs.renew_claim(soon, run, "second")
    assert runs.take_over_lapsed(office.at(START + timedelta(seconds=100))) == []
    assert runs.take_over_lapsed(late) == [run]
    assert runs.claim_run(late, "second") == run
    assert not runs.renew_claim(late, run, "first"), "it is another worker's now"
    assert not runs.release_run(late, run, "first")
    assert runs.release_run(late, run, "second") and runs.get_run(late, run).state == "queued"


def test_what_nobody_writes_goes_on_at_once_after_a_restart(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id).id
    runs.claim_run(office.work, "w")
    with office.work.store.hold(run) as mine:
        assert mine
        assert runs.take_over_idle(office.work) == [], "its worker is still at it"
    assert runs.take_over_idle(office.work) == [run]


@pytest.mark.parametrize(("day", "which"), [("2026-11-03", 0), ("2026-11-09", 0), ("2026-11-10", 1), ("2030-01-01", 1)])
def test_a_run_is_found_by_a_day(office: Office, day: str, which: int) -> None:
    made = [office.audit(START, SHOP), office.audit(START + timedelta(days=7), SHOP)]
    with office.work.reading() as session:
        assert run_id_on(session, office.site.id, day) == made[which]


@pytest.mark.parametrize(
    ("day", "kind"),
    [("2026-11-02", NotFound), ("2026-02-30", InvalidInput), ("soon", InvalidInput), ("9999-12-31", InvalidInput)],
)
def test_a_day_without_a_run_is_told(office: Office, day: str, kind: type[Exception]) -> None:
    office.audit(START, SHOP)
    with office.work.reading() as session, pytest.raises(kind):
        run_id_on(session, office.site.id, day)
