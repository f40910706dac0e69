"""Waivers: what was decided not to matter. They hold from today, and in the latest run at once."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput
from hodcarrier.register.models import Member, Site, WaiverRow
from hodcarrier.runfile.what_if import covers
from hodcarrier.usecases.waiver_scopes import check_scope, understood, waiver_value
from hodcarrier.usecases.waiving import apply_to_latest, newest_whole_run
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.waivers import WaiverBody, WaiverChange, WaiverOut

SOON_DAYS = 14


def add_waiver(work: Workspace, site_id: int, body: WaiverBody, member: Member | None) -> WaiverOut:
    """Waive a check on a place, a page, a pattern or the whole site; raises what :func:`add_waivers` raises."""
    return add_waivers(work, site_id, [body], member)[0]


def add_waivers(work: Workspace, site_id: int, bodies: Sequence[WaiverBody], member: Member | None) -> list[WaiverOut]:
    """Make waivers, all of them or none. They hold from today, and in the latest run at once.

    There is one waiver for a scope: raises :class:`Conflict` while another one of the same scope holds, and :class:`InvalidInput` for a scope that
    cannot cover anything or an end that is past. One that has ended is replaced.
    """
    today = work.now().date()
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        rows = [_add(work, session, site, body, member) for body in bodies]
        ids = [row.id for row in rows]
    note = apply_to_latest(work, site_id)
    with work.reading() as session:
        made = {row.id: row for row in session.scalars(select(WaiverRow).where(WaiverRow.id.in_(ids)))}
        return [waiver_out(made[number], today, note=note) for number in ids]


def _add(work: Workspace, session: Session, site: Site, body: WaiverBody, member: Member | None) -> WaiverRow:
    today, check = work.now().date(), catalogue.get(body.check).id
    _check_end(body.end, today)
    check_scope(work, session, site, body)
    row = WaiverRow(
        site_id=site.id,
        check_id=check,
        pattern=body.pattern,
        fingerprint=body.fingerprint,
        reason=body.reason,
        author_id=member.id if member else None,
        start=today,
        end=body.end,
        created_at=work.now(),
    )
    same = (WaiverRow.site_id == site.id, WaiverRow.check_id == check, WaiverRow.pattern == body.pattern)
    session.execute(
        update(WaiverRow).where(*same, WaiverRow.fingerprint == body.fingerprint, WaiverRow.end < today).values(replaced=True)
    )
    with unless_taken(session, "This is waived already.", "Remove that waiver first, or let it be."):
        session.add(row)
    log(session, work.now(), row.author_id, "waiver added", check)
    return row


def _check_end(end: date | None, today: date) -> None:
    if end is not None and end < today:
        raise InvalidInput(f"The end date {end} is in the past.", "Give a later one, or none.", "end")


def change_waiver(work: Workspace, waiver_id: int, change: WaiverChange, member: Member) -> WaiverOut:
    """Give a waiver another reason or end date. Raises :class:`InvalidInput` for an end that is past."""
    today = work.now().date()
    with work.session() as session:
        row = fetch(session, WaiverRow, waiver_id, "waiver")
        if "end" in change.model_fields_set:
            _check_end(change.end, today)
            row.end = change.end
        if change.reason is not None:
            row.reason = change.reason
        log(session, work.now(), member.id, "waiver changed", row.check_id)
        site_id = row.site_id
    note = apply_to_latest(work, site_id)
    with work.reading() as session:
        return waiver_out(fetch(session, WaiverRow, waiver_id, "waiver"), today, note=note)


def list_waivers(work: Workspace, site_id: int) -> list[WaiverOut]:
    """Waivers of a site, ended ones too, each with how many findings of the latest run it covers."""
    today = work.now().date()
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        rows = session.scalars(select(WaiverRow).where(WaiverRow.site_id == site_id).order_by(WaiverRow.id)).all()
        run = newest_whole_run(session, site) if rows else None
        counts: dict[int, int] = {}
        if run is not None and work.store.has(run.id):
            known = [row for row in rows if understood(row)]
            with work.open_run(run.id) as opened:
                counts = dict(zip([row.id for row in known], covers(opened, [waiver_value(row) for row in known]), strict=True))
        return [waiver_out(row, today, counts.get(row.id, 0 if run else None)) for row in rows]


def remove_waivers(work: Workspace, ids: Sequence[int], member: Member) -> None:
    """End waivers, all of them or none: what they covered counts again, in the latest runs at once. Raises :class:`NotFound` for one that is not there."""
    with work.session() as session:
        rows = [fetch(session, WaiverRow, number, "waiver") for number in dict.fromkeys(ids)]
        concerned = list(dict.fromkeys(row.site_id for row in rows))
        for row in rows:
            log(session, work.now(), member.id, "waiver removed", row.check_id)
            session.delete(row)
    for site_id in concerned:
        apply_to_latest(work, site_id)


def waiver_out(row: WaiverRow, today: date, covered: int | None = None, note: str = "") -> WaiverOut:
    """A waiver as the surfaces show it."""
    in_force = waiver_value(row).in_force(today)
    return WaiverOut(
        id=row.id,
        site_id=row.site_id,
        check=row.check_id,
        summary=_title(row.check_id),
        pattern=row.pattern,
        fingerprint=row.fingerprint,
        reason=row.reason,
        author=row.author.name if row.author else "",
        start=row.start,
        end=row.end,
        in_force=in_force,
        ends_soon=in_force and row.end is not None and row.end <= today + timedelta(days=SOON_DAYS),
        covers=covered,
        note=note,
    )


def _title(check: str) -> str:
    """What a check is called, also when it is no longer in the catalogue."""
    found = catalogue.load()
    if check in found:
        return found[check].check.summary
    return found.retired[check].summary if check in found.retired else check
