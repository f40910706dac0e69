"""Waivers: what was judged not to matter."""

from __future__ import annotations

import re
from datetime import date

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.states import Subject
from hodcarrier.core.web.patterns import compile_pattern, matches
from hodcarrier.core.web.urls import is_web
from hodcarrier.register.models import Member, Site, WaiverRow
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run, log, unless_taken
from hodcarrier.wire.waivers import WaiverBody, WaiverOut


def add_waiver(work: Workspace, site_id: int, body: WaiverBody, member: Member | None) -> WaiverOut:
    """Waive a check on a place, a page, a pattern or the whole site. It holds from today.

    There is one waiver for a scope: raises :class:`Conflict` while another one of the same scope holds, and
    :class:`InvalidInput` for a pattern that cannot be read. One that has ended is replaced.
    """
    check = catalogue.get(body.check).id
    today = work.now().date()
    if body.end is not None and body.end < today:
        raise InvalidInput(f"The end date {body.end} is in the past.", "Give a later one, or none.", "end")
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        if body.pattern:
            _check_pattern(work, session, site, check, body.pattern)
        if body.fingerprint and not re.fullmatch("[0-9a-f]{32}", body.fingerprint):
            raise InvalidInput(
                f"“{body.fingerprint}” is no fingerprint of a finding.", "Copy the 32 characters from the finding.", "fingerprint"
            )
        row = WaiverRow(
            site_id=site_id,
            check_id=check,
            pattern=body.pattern,
            fingerprint=body.fingerprint,
            reason=body.reason,
            author_id=member.id if member else None,
            start=today,
            end=body.end,
            created_at=work.now(),
        )
        same = (WaiverRow.site_id == site_id, WaiverRow.check_id == check, WaiverRow.pattern == body.pattern)
        session.execute(
            update(WaiverRow).where(*same, WaiverRow.fingerprint == body.fingerprint, WaiverRow.end < today).values(replaced=True)
        )
        with unless_taken(session, "This is waived already.", "Remove that waiver first, or let it be."):
            session.add(row)
        log(session, work.now(), row.author_id, "waiver added", check)
        return waiver_out(row, today)


def _check_pattern(work: Workspace, session: Session, site: Site, check: str, pattern: str) -> None:
    """A pattern must be able to cover something: the check is about URLs, and the latest run knows one that it matches."""
    if not is_web(pattern):
        compile_pattern(pattern)
    if catalogue.get(check).check.subject == Subject.SITE:
        raise InvalidInput(
            f"“{catalogue.get(check).check.summary}” is about the site as a whole, so a pattern covers nothing.",
            "Leave the pattern out.",
            "pattern",
        )
    run = latest_run(session, site)
    if run is None or not work.store.has(run.id):
        return
    with work.open_run(run.id) as opened:
        urls = opened.db.execute("SELECT url FROM address WHERE role < 2")
        if not any(url == pattern or matches(pattern, url) for (url,) in urls):
            raise InvalidInput(
                f"{pattern} matches none of the URLs of the latest run.", "Check its spelling against the inventory.", "pattern"
            )


def list_waivers(work: Workspace, site_id: int) -> list[WaiverOut]:
    """Waivers of a site, ended ones too."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        rows = session.scalars(select(WaiverRow).where(WaiverRow.site_id == site_id).order_by(WaiverRow.id))
        return [waiver_out(row, work.now().date()) for row in rows]


def remove_waiver(work: Workspace, waiver_id: int, member: Member) -> int:
    """End a waiver; returns the site it was for."""
    with work.session() as session:
        row = fetch(session, WaiverRow, waiver_id, "waiver")
        log(session, work.now(), member.id, "waiver removed", row.check_id)
        session.delete(row)
        return row.site_id


def waiver_out(row: WaiverRow, today: date) -> WaiverOut:
    """A waiver as the surfaces show it."""
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
        in_force=waiver_value(row).in_force(today),
    )


def _title(check: str) -> str:
    """What a check is called, also when it is no longer in the catalogue."""
    found = catalogue.load()
    if check in found:
        return found[check].check.summary
    return found.retired[check].summary if check in found.retired else check


def waivers_in_force(work: Workspace, site_id: int) -> list[Waiver]:
    """The waivers of a site that hold today, as the core judges them."""
    with work.reading() as session:
        rows = session.scalars(select(WaiverRow).where(WaiverRow.site_id == site_id, ~WaiverRow.replaced))
        return [waiver for waiver in map(waiver_value, rows) if waiver.in_force(work.now().date())]


def waiver_value(row: WaiverRow) -> Waiver:
    """A waiver as the core judges it."""
    return Waiver(row.check_id, row.pattern, row.fingerprint, row.start, row.end)
