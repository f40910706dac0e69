"""One run's trouble is its own: removed, stuck, poisoned or full of errors, it never keeps the others from being audited."""

from __future__ import annotations

import asyncio
import sys
from dataclasses import replace
from datetime import timedelta
from pathlib import Path

import pytest
from sqlalchemy import update

from hodcarrier.audit import supervisor as supervision
from hodcarrier.audit.nursery import Nursery, Worker
from hodcarrier.audit.supervisor import WORKER_ATTEMPTS, Supervisor
from hodcarrier.audit.worker import EXIT_DONE
from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import InvalidPlan
from hodcarrier.register.models import LogEntry, Member, Run, Schedule, Site, WaiverRow
from hodcarrier.service import readiness
from hodcarrier.service.readiness import why_not_ready
from hodcarrier.usecases import due_runs, finishing, runs, schedules, sites
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.sites import SiteBody
from tests.usecases.conftest import START, Office

SLEEPS = [sys.executable, "-c", "import signal; signal.pause()"]
DONE = [sys.executable, "-c", f"raise SystemExit({EXIT_DONE})"]


class Commands(Nursery):
    """Workers that are commands."""

    async def begin(self, run_id: str, name: str) -> Worker:
        return await asyncio.create_subprocess_exec(*self.command, start_new_session=True, stdin=asyncio.subprocess.DEVNULL)


def supervise(office: Office, tmp_path: Path, command: list[str]) -> Supervisor:
    """A supervisor of one worker slot whose workers are this command."""
    supervisor = Supervisor(office.work, tmp_path, 1, 4096)
    supervisor.nursery = Commands(tmp_path, 4096)
    supervisor.nursery.command = command
    return supervisor


def second_site(office: Office) -> int:
    body = SiteBody(client_id=office.site.client_id, address="https://other.example/")
    return sites.add_site(office.work, body, None).id


def test_a_run_for_which_there_is_no_room_fails_in_words_and_the_next_begins(
    office: Office, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The first site's file was large; the other site has none yet."""
    before = office.audit(START, [page(doc())])
    monkeypatch.setattr(type(office.work.store), "size_bytes", lambda _, run: 900 * 1024**2 if run == before else 0)
    monkeypatch.setattr(supervision, "free_bytes", lambda _: 1000 * 1024**2)
    large = runs.queue_run(office.at(START + timedelta(days=7)), office.site.id).id
    small = runs.queue_run(office.at(START + timedelta(days=7)), second_site(office)).id
    supervisor = supervise(office, tmp_path, DONE)

    async def play() -> None:
        await supervisor._spawn()
        assert list(supervisor.processes) == [small]
        await supervisor.processes[small].wait()

    asyncio.run(play())
    failed = runs.get_run(office.work, large)
    assert failed.state == "failed" and "last run took 900 MiB, and 1,000 MiB are free" in failed.reason


def test_removing_a_site_ends_its_worker_and_frees_its_place(office: Office, tmp_path: Path) -> None:
    other = second_site(office)
    first = runs.queue_run(office.work, office.site.id).id
    second = runs.queue_run(office.at(START + timedelta(seconds=1)), other).id
    supervisor = supervise(office, tmp_path, SLEEPS)

    async def play() -> None:
        await supervisor._spawn()
        await supervisor._end_stray()
        process = supervisor.processes[first]
        assert process.returncode is None, "nobody removed anything"
        office.work.store.whole_path(first).parent.mkdir(exist_ok=True)
        sites.remove_site(office.work, office.site.id, Member(id=None, name=""))
        await supervisor._end_stray()
        assert await asyncio.wait_for(process.wait(), 20) < 0
        await supervisor._reap(first)
        await supervisor._spawn()
        assert list(supervisor.processes) == [second]
        await supervisor.end()

    asyncio.run(play())


def test_a_worker_beyond_its_time_is_ended(office: Office, tmp_path: Path) -> None:
    run = runs.queue_run(office.work, office.site.id).id
    supervisor = supervise(office, tmp_path, SLEEPS)

    async def play() -> None:
        await supervisor._spawn()
        supervisor._began[run] -= runs.time_limits_s(office.work, [run])[run] - 5
        await supervisor._end_stray()
        assert supervisor.processes[run].returncode is None
        supervisor._began[run] -= 10
        await supervisor._end_stray()
        await asyncio.wait_for(supervisor.processes[run].wait(), 20)
        await supervisor._reap(run)
        assert supervisor.processes == {} and runs.get_run(office.work, run).state == "queued", "it is tried again"

    asyncio.run(play())


def test_a_result_that_cannot_be_taken_in_fails_in_words(office: Office, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    run = runs.queue_run(office.work, office.site.id).id
    supervisor = supervise(office, tmp_path, DONE)

    def broken(*_: object) -> None:
        raise ValueError("a line break where none may be")

    monkeypatch.setattr(finishing, "finish_run", broken)

    async def play() -> None:
        await supervisor._spawn()
        await asyncio.wait_for(supervisor.processes[run].wait(), 20)
        for _ in range(WORKER_ATTEMPTS):
            assert run in supervisor.processes
            await supervisor._reap(run)
        assert supervisor.processes == {}
        found = runs.get_run(office.work, run)
        assert found.state == "failed" and "a line break where none may be" in found.reason

    asyncio.run(play())


def test_a_run_that_cannot_even_be_failed_lets_the_others_go_on(
    office: Office, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    run = runs.queue_run(office.work, office.site.id).id
    supervisor = supervise(office, tmp_path, DONE)

    def broken(*_: object) -> None:
        raise ValueError("nothing works")

    monkeypatch.setattr(finishing, "finish_run", broken)
    monkeypatch.setattr(finishing, "fail_run", broken)

    async def play() -> None:
        await supervisor._spawn()
        await asyncio.wait_for(supervisor.processes[run].wait(), 20)
        for _ in range(WORKER_ATTEMPTS):
            await supervisor._reap(run)
        assert supervisor.processes == {}, "its place is free"

    asyncio.run(play())


def test_a_poisoned_schedule_is_set_aside_and_the_others_are_kept(office: Office) -> None:
    other = second_site(office)
    for site in (office.site.id, other):
        schedules.set_schedule(office.at(START), site, ScheduleBody(rule="daily"), None)
    with office.work.session() as session:
        session.execute(update(Schedule).where(Schedule.site_id == office.site.id).values(zone="Gone/Away"))
    due = office.at(START + timedelta(days=2))
    assert [run.site_id for run in due_runs.queue_due_runs(due)] == [other]
    assert due_runs.queue_due_runs(due) == []
    shown = sites.get_site(office.work, office.site.id).schedule
    assert shown is not None and shown.next_due_at is None and "Set it anew" in shown.words
    assert len(sites.list_sites(office.work)) == 2
    with office.work.reading() as session:
        assert "schedule set aside" in {entry.action for entry in session.query(LogEntry)}


def test_a_crash_while_a_schedule_is_moved_loses_no_audit(office: Office, monkeypatch: pytest.MonkeyPatch) -> None:
    """The run is queued in the transaction that moves the schedule: neither is there without the other."""
    schedules.set_schedule(office.at(START), office.site.id, ScheduleBody(rule="daily"), None)
    due = office.at(START + timedelta(days=2))

    def crash(*_: object) -> None:
        raise KeyboardInterrupt

    with monkeypatch.context() as patched:
        patched.setattr(runs, "activate", crash)
        with pytest.raises(KeyboardInterrupt):
            due_runs.queue_due_runs(due)
    assert runs.list_runs(office.work).items == []
    assert len(due_runs.queue_due_runs(due)) == 1


def test_removing_takes_the_files(office: Office) -> None:
    run = runs.queue_run(office.work, office.site.id).id
    with office.work.reading() as session:
        plan = session.get_one(Site, office.site.id).plan
    office.work.store.begin(run, plan, {}).close()
    office.work.store.whole_path(run).write_bytes(b"x")
    sites.remove_site(office.work, office.site.id, Member(id=None, name=""))
    assert not office.work.store.has(run) and not office.work.store.has_part(run)


def test_patterns_of_an_older_release_that_are_understood_no_more(office: Office) -> None:
    """The run says so instead of hanging or leaving pages out; a waiver like that covers nothing."""
    old = "regex:(?=shop)"
    with office.work.session() as session:
        session.add(
            WaiverRow(
                site_id=office.site.id,
                check_id="text-thin",
                pattern=old,
                fingerprint="",
                reason="Meant so",
                start=START.date(),
                created_at=START,
            )
        )
    run = runs.queue_run(office.work, office.site.id).id
    assert finishing.begin_run(office.work, run).waivers == []
    with office.work.session() as session:
        found = session.get_one(Run, run)
        found.plan = replace(found.plan, exclude=(old,))
    with pytest.raises(InvalidPlan, match="not a regular expression we can use"):
        finishing.begin_run(office.work, run)


def test_no_run_is_begun_on_a_disk_that_is_nearly_full(office: Office, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    run = runs.queue_run(office.work, office.site.id).id
    supervisor = supervise(office, tmp_path, SLEEPS)

    async def play() -> None:
        with monkeypatch.context() as patched:
            patched.setattr(supervision, "free_bytes", lambda _: supervision.FREE_BYTES_MIN - 1)
            await supervisor._spawn()
            assert supervisor.processes == {} and runs.get_run(office.work, run).state == "queued"
            assert "free in the data folder" in why_not_ready(office.work, supervisor)
        await supervisor._spawn()
        assert list(supervisor.processes) == [run]
        await supervisor.end()

    with monkeypatch.context() as patched:
        patched.setattr(readiness, "free_bytes", lambda _: supervision.FREE_BYTES_MIN - 1)
        asyncio.run(play())
