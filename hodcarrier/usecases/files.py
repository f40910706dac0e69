"""Run files: checked, set aside when they are damaged, removed by the rule of retention."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import timedelta
from itertools import groupby
from typing import Any

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import DamagedRun
from hodcarrier.core.retention import Dated, removable
from hodcarrier.core.states import ACTIVE_RUN, DeliveryState, FileState, RunPurpose
from hodcarrier.register.models import EXAMINED, Delivery, Member, Report, Run, Site
from hodcarrier.usecases.report_facts import choose_runs
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.files import RetentionOut, RunFileOut


@dataclass(frozen=True, slots=True)
class DamagedFile:
    """A run whose file is missing or cannot be read, and what is wrong with it."""

    run_id: str
    site_host: str
    problem: str


def check_files(work: Workspace, *, whole: bool, latest_only: bool = False) -> Iterator[DamagedFile]:
    """Look at the files of finished runs, or of the latest one of each site. With ``whole`` every page of each is read."""
    with work.reading() as session:
        chosen = select(Run.id, Run.site_id, Site.host).join(Site).where(EXAMINED, Run.file == FileState.KEPT)
        rows = session.execute(chosen.order_by(Run.site_id, Run.sequence)).all()
    if latest_only:
        rows = [list(same)[-1] for _, same in groupby(rows, key=lambda row: row.site_id)]
    for run_id, _, host in rows:
        if problem := _damage(work, run_id, whole=whole):
            yield DamagedFile(run_id, host, problem)


def expected_bytes(work: Workspace, run_id: str) -> int:
    """What the file of a run will take, going by the last one of its site; 0 for a first run."""
    with work.reading() as session:
        run = fetch(session, Run, run_id, "run")
        before = session.scalar(
            select(Run.id)
            .where(Run.site_id == run.site_id, Run.purpose == run.purpose, EXAMINED, Run.file == FileState.KEPT)
            .order_by(Run.sequence.desc())
            .limit(1)
        )
    return work.store.size_bytes(before) if before else 0


def set_aside(work: Workspace, damaged: DamagedFile) -> None:
    """Put a damaged file out of the way, and note it on its run, whose figures stay."""
    work.store.set_aside(damaged.run_id)
    with work.session() as session:
        run = fetch(session, Run, damaged.run_id, "run")
        run.file = FileState.DAMAGED
        log(session, work.now(), None, "run file set aside", f"{damaged.site_host}, run {damaged.run_id}: {damaged.problem}")


def plan_retention(work: Workspace, weeks: int) -> RetentionOut:
    """What a rule of retention comes to, before anything is removed."""
    with work.reading() as session:
        columns = select(Run.id, Run.site_id, Run.purpose, Run.requested_at, Site.host).join(Site)
        runs = session.execute(
            columns.where(EXAMINED, Run.file == FileState.KEPT).order_by(Run.site_id, Run.purpose, Run.sequence)
        ).all()
        named = _named(session)
    today = work.now().date()
    gone: set[str] = set()
    for _, same in groupby(runs, key=lambda run: (run.site_id, run.purpose)):
        gone |= set(removable([Dated(run.id, run.requested_at.date()) for run in same], today, weeks, named))
    files = [
        RunFileOut(run_id=run.id, site_host=run.host, requested_at=run.requested_at, size_bytes=work.store.size_bytes(run.id))
        for run in runs
    ]
    out = [file for file in files if file.run_id in gone]
    return RetentionOut(
        weeks=weeks,
        kept=len(files) - len(out),
        kept_bytes=sum(file.size_bytes for file in files if file.run_id not in gone),
        removable=out,
        removable_bytes=sum(file.size_bytes for file in out),
    )


def _named(session: Session) -> set[str]:
    """The runs that reports are about, and those that runs under way are compared with."""
    named = set(session.scalars(select(Run.base_id).where(Run.state.in_(ACTIVE_RUN), Run.base_id.is_not(None))))
    by_site: dict[int, Sequence[Any]] = {}
    for site_id, from_day, to_day in session.execute(select(Report.site_id, Report.from_day, Report.to_day)):
        if site_id not in by_site:
            audits = select(Run.id, Run.requested_at).where(Run.site_id == site_id, Run.purpose == RunPurpose.AUDIT, EXAMINED)
            by_site[site_id] = session.execute(audits.order_by(Run.sequence)).all()
        chosen = choose_runs(by_site[site_id], from_day, to_day)
        named |= {run.id for run in chosen[:2]} if chosen is not None else set()
    return {run_id for run_id in named if run_id}


def apply_retention(work: Workspace, weeks: int, member: Member | None) -> RetentionOut:
    """Remove the files that a rule of retention lets go, each noted on its run first; gives what was removed.

    Mails that were sent before these weeks are forgotten too.
    """
    found = plan_retention(work, weeks)
    with work.session() as session:
        since = work.now() - timedelta(weeks=weeks)
        session.execute(delete(Delivery).where(Delivery.state == DeliveryState.SENT, Delivery.sent_at < since))
        for file in found.removable:
            fetch(session, Run, file.run_id, "run").file = FileState.REMOVED
        if found.removable:
            words = f"{len(found.removable):,} files, {found.removable_bytes / 1024**2:,.1f} MiB, by the rule of {weeks} weeks"
            log(session, work.now(), member.id if member else None, "run files removed", words)
    for file in found.removable:
        work.store.remove(file.run_id)
    return found


def take_back(work: Workspace) -> list[str]:
    """Runs whose files were set aside and are there again, whole: somebody has restored them."""
    with work.reading() as session:
        lost = session.scalars(select(Run.id).where(Run.file == FileState.DAMAGED)).all()
    back = [run_id for run_id in lost if not _damage(work, run_id, whole=True)]
    with work.session() as session:
        for run_id in back:
            fetch(session, Run, run_id, "run").file = FileState.KEPT
    return back


def _damage(work: Workspace, run_id: str, *, whole: bool) -> str:
    """What is wrong with a run's file; empty when it is in order. With ``whole`` every page of it is read."""
    try:
        with work.store.open(run_id) as opened:
            if whole:
                opened.check_whole()
    except DamagedRun as error:
        return error.message
    return ""
