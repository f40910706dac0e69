"""Share links of reports: somebody without an account reads what was approved, until the link expires or is revoked."""

from __future__ import annotations

import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.register.models import Member, Report, ReportLink
from hodcarrier.usecases.passwords import hash_password, hash_secret, is_password
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.reports import ReportLinkBody, ReportLinkChange, ReportLinkOut

PASSPHRASE_CHARS_MIN = 8


@dataclass(frozen=True)
class Opening:
    """What a link leads to: a report, or first the question for its passphrase (``asks``). ``key`` names the link where guesses are counted."""

    report_id: int
    title: str
    language: str
    key: str
    asks: bool


def add_report_link(work: Workspace, report_id: int, body: ReportLinkBody, member: Member) -> ReportLinkOut:
    """Share a report with somebody; the address is in this answer and never again. Raises :class:`Conflict` while nothing of it is approved, and :class:`InvalidInput` for a passphrase
    that is too short."""
    if body.passphrase and len(body.passphrase) < PASSPHRASE_CHARS_MIN:
        raise InvalidInput("The passphrase is too short.", f"Give {PASSPHRASE_CHARS_MIN} characters or more.", "passphrase")
    hashed = hash_password(body.passphrase) if body.passphrase else ""
    with work.session() as session:
        report = fetch(session, Report, report_id, "report")
        if report.approved_version is None:
            raise Conflict("Nothing of this report is approved yet.", "Approve it first: a link shows what was approved.")
        link, url = new_link(session, work, report, member.id, body.name, days=body.days, passphrase_hash=hashed)
        log(session, work.now(), member.id, "report shared", f"{report.title}, with {body.name}")
        return link_out(link, work.now(), url)


def new_link(
    session: Session,
    work: Workspace,
    report: Report,
    author_id: int | None,
    name: str,
    *,
    email: str = "",
    days: int,
    passphrase_hash: str = "",
) -> tuple[ReportLink, str]:
    """A link and its address, in a transaction of its caller."""
    secret, now = secrets.token_urlsafe(32), work.now()
    link = ReportLink(
        report_id=report.id,
        name=name,
        email=email,
        secret_hash=hash_secret(secret),
        passphrase_hash=passphrase_hash,
        author_id=author_id,
        created_at=now,
        expires_at=now + timedelta(days=days),
    )
    session.add(link)
    session.flush()
    return link, f"{work.address.rstrip('/')}/shared/reports/{secret}"


def list_report_links(work: Workspace, report_id: int) -> list[ReportLinkOut]:
    """Whom a report was shared with, the latest first."""
    with work.reading() as session:
        return [link_out(link, work.now()) for link in fetch(session, Report, report_id, "report").links]


def prolong_report_link(work: Workspace, report_id: int, link_id: int, body: ReportLinkChange, member: Member) -> ReportLinkOut:
    """Let a share link be good for so many days from now, also one that has expired. Raises :class:`Conflict` for one that was revoked."""
    with work.session() as session:
        link = _of_report(session, report_id, link_id)
        if link.revoked_at is not None:
            raise Conflict(f"The link of {link.name} was revoked.", "Share the report anew.")
        link.expires_at = work.now() + timedelta(days=body.days)
        log(session, work.now(), member.id, "report link prolonged", f"{link.report.title}, of {link.name}")
        return link_out(link, work.now())


def revoke_report_link(work: Workspace, report_id: int, link_id: int, member: Member) -> None:
    """End a share link: its address answers no more."""
    with work.session() as session:
        link = _of_report(session, report_id, link_id)
        link.revoked_at = link.revoked_at or work.now()
        log(session, work.now(), member.id, "report link revoked", f"{link.report.title}, of {link.name}")


def look_at_link(work: Workspace, secret: str) -> Opening:
    """What a link leads to. Raises :class:`NotFound` for one that there is not, or that has ended."""
    with work.reading() as session:
        link = _link(session, work, secret)
        report = link.report
        return Opening(report.id, report.title, report.language, f"link {link.id}", bool(link.passphrase_hash))


def fits(work: Workspace, secret: str, passphrase: str) -> bool:
    """Whether a passphrase is that of a link. Raises :class:`NotFound` as :func:`look_at_link` does."""
    with work.reading() as session:
        hashed = _link(session, work, secret).passphrase_hash
    return not hashed or is_password(hashed, passphrase)


def note_seen(work: Workspace, secret: str) -> None:
    """Count that a report was opened by a link."""
    with work.session() as session:
        link = _link(session, work, secret)
        link.seen, link.seen_at = link.seen + 1, work.now()


def link_out(link: ReportLink, now: datetime, url: str | None = None) -> ReportLinkOut:
    """A link as the surfaces show it."""
    return ReportLinkOut(
        id=link.id,
        name=link.name,
        email=link.email,
        created_at=link.created_at,
        expires_at=link.expires_at,
        revoked_at=link.revoked_at,
        ended=link.revoked_at is not None or link.expires_at <= now,
        passphrase=bool(link.passphrase_hash),
        seen=link.seen,
        seen_at=link.seen_at,
        url=url,
    )


def _of_report(session: Session, report_id: int, link_id: int) -> ReportLink:
    link = session.get(ReportLink, link_id)
    if link is None or link.report_id != report_id:
        raise NotFound(f"Report {report_id} has no link {link_id}.", f"See `hodcarrier share list {report_id}`.")
    return link


def _link(session: Session, work: Workspace, secret: str) -> ReportLink:
    link = session.scalar(select(ReportLink).where(ReportLink.secret_hash == hash_secret(secret)))
    if link is None or link.revoked_at is not None or link.expires_at <= work.now() or link.report.approved_version is None:
        raise NotFound("This link is not valid any more.", "Ask the agency for a new one.")
    return link
