"""Dated notes on a site's timeline, by members and by the service."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.plan import FIELDS
from hodcarrier.core.settings import SETTINGS
from hodcarrier.core.states import RemarkOrigin, RunState
from hodcarrier.core.summary import RunChanges, SettingChange
from hodcarrier.core.words import fill
from hodcarrier.register.models import Member, Remark, Run, Site
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.remarks import RemarkBody, RemarkOut

SETTINGS_TOLD = 3
REASON_CHARS = 300
_LABELS = {setting.name: setting.label for setting in SETTINGS}


def add_remark(work: Workspace, site_id: int, body: RemarkBody, member: Member | None) -> RemarkOut:
    """Pin a note to a day of a site's timeline."""
    with work.session() as session:
        fetch(session, Site, site_id, "site")
        row = Remark(
            site_id=site_id, day=body.day, text=body.text, author_id=member.id if member else None, created_at=work.now()
        )
        session.add(row)
        session.flush()
        return remark_out(row)


def list_remarks(work: Workspace, site_id: int) -> list[RemarkOut]:
    """Remarks of a site by day."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        return remarks_of(session, site_id)


def remarks_of(session: Session, site_id: int, start: date | None = None, end: date | None = None) -> list[RemarkOut]:
    """Remarks of a site by day, between two days that both count."""
    rows = select(Remark).where(Remark.site_id == site_id).order_by(Remark.day, Remark.id).options(joinedload(Remark.author))
    rows = rows.where(Remark.day >= start) if start is not None else rows
    rows = rows.where(Remark.day <= end) if end is not None else rows
    return [remark_out(row) for row in session.scalars(rows)]


def remove_remark(work: Workspace, remark_id: int) -> None:
    """Take a remark away."""
    with work.session() as session:
        session.delete(fetch(session, Remark, remark_id, "remark"))


def remark_on_run(session: Session, run: Run) -> None:
    """Note on the timeline what explains a run's figures, in the transaction that ends it: a failure, or a plan, catalogue or robots.txt that
    differs from the run before."""
    day = run.requested_at.date()
    for origin, text in _told_of(run):
        session.add(
            Remark(
                site_id=run.site_id,
                day=day,
                text=text,
                origin=origin,
                run_id=run.id,
                created_at=run.finished_at or run.requested_at,
            )
        )


def _told_of(run: Run) -> Iterator[tuple[RemarkOrigin, str]]:
    if run.state == RunState.FAILED:
        yield RemarkOrigin.FAILED, f"The audit failed: {run.reason[:REASON_CHARS]}"
    elif run.changes is not None:
        yield from _changed(run.changes)


def _changed(changes: RunChanges) -> Iterator[tuple[RemarkOrigin, str]]:
    plan = [c for c in changes.settings if c.name in FIELDS]
    version = next((c for c in changes.settings if c.name == "catalogue"), None)
    checks = [c for c in changes.settings if c not in plan and c is not version]
    if plan:
        yield RemarkOrigin.PLAN, f"Plan changed: {_settings_words(plan)}"
    if checks or version is not None:
        versions = f" from {version.base} to {version.head}" if version is not None else ""
        counted = fill(": {n:check} new, revised or retired", {"n": len(checks)}) if checks else ""
        yield RemarkOrigin.CATALOGUE, f"Catalogue changed{versions}{counted}"
    if changes.robots_changed:
        blocked = fill(": {n:page} newly blocked", {"n": changes.newly_blocked}) if changes.newly_blocked else ""
        yield RemarkOrigin.ROBOTS, f"robots.txt changed{blocked}"


def _settings_words(settings: Sequence[SettingChange]) -> str:
    told = [f"{_LABELS.get(c.name, c.name)} {_short(c.base)} → {_short(c.head)}" for c in settings[:SETTINGS_TOLD]]
    more = len(settings) - len(told)
    return "; ".join(told) + (fill("; {n} more", {"n": more}) if more else "")


def _short(value: str) -> str:
    return value if len(value) <= 60 else f"{value[:59]}…"


def remark_out(row: Remark) -> RemarkOut:
    """A remark as the surfaces show it."""
    author = row.author.name if row.author is not None else ""
    return RemarkOut(id=row.id, day=row.day, text=row.text, origin=row.origin, author=author, run_id=row.run_id)
