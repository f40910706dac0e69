"""Mails on their way: written in the transaction that causes them, sent by a postman of their own, kept with what became of them.

A mail is claimed before it is sent, so that of several postmen one sends it. A claim lapses: a mail whose postman died while sending is sent
again, with the same Message-ID (RFC 5322, 3.6.4), so it may come twice but is never lost.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import or_, select, update
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict
from hodcarrier.core.states import DeliveryState
from hodcarrier.core.words import visible
from hodcarrier.register.models import Delivery, Member, Run
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.deliveries import DeliveryOut

CLAIM = timedelta(minutes=2)
# How long to wait after each attempt that failed; the last one is repeated until the patience ends.
WAITS = tuple(timedelta(minutes=m) for m in (1, 5, 15, 60, 180, 360))
PATIENCE = timedelta(days=5)


@dataclass(frozen=True)
class Letter:
    """A mail that is to be sent now; ``html`` may be empty. A report goes with it as a PDF where there is a ``report_id``."""

    id: int
    recipient: str
    subject: str
    text: str
    html: str
    report_id: int | None = None


def post(session: Session, now: datetime, run_id: str | None, recipients: Sequence[str], subject: str, text: str) -> None:
    """Write a mail to each recipient, in the caller's transaction."""
    for recipient in recipients:
        post_one(session, now, run_id, recipient, subject, text)


def post_one(
    session: Session,
    now: datetime,
    run_id: str | None,
    recipient: str,
    subject: str,
    text: str,
    html: str = "",
    *,
    report_id: int | None = None,
) -> Delivery:
    """Write a mail, in the caller's transaction; with ``report_id`` the report goes with it as a PDF."""
    delivery = Delivery(
        at=now,
        run_id=run_id,
        recipient=recipient,
        subject=visible(" ".join(subject.split()))[:300],
        text=visible(text),
        html=html,
        report_id=report_id,
        state=DeliveryState.WAITING,
        next_at=now,
    )
    session.add(delivery)
    session.flush()
    return delivery


def claim_next(work: Workspace) -> Letter | None:
    """The mail that has waited longest, for the caller to send; ``None`` when none is due."""
    now = work.now()
    due = (
        select(Delivery.id)
        .where(
            Delivery.state == DeliveryState.WAITING,
            Delivery.next_at <= now,
            or_(Delivery.claimed_until.is_(None), Delivery.claimed_until < now),
        )
        .order_by(Delivery.next_at, Delivery.id)
        .limit(1)
        .scalar_subquery()
    )
    claimed = (
        update(Delivery)
        .where(Delivery.id == due)
        .values(claimed_until=now + CLAIM)
        .returning(Delivery.id, Delivery.recipient, Delivery.subject, Delivery.text, Delivery.html, Delivery.report_id)
        .execution_options(synchronize_session=False)
    )
    with work.session() as session:
        found = session.execute(claimed).first()
    return Letter(*found) if found else None


def note_sent(work: Workspace, letter_id: int) -> None:
    """Note that a server took a mail."""
    with work.session() as session:
        row = fetch(session, Delivery, letter_id, "mail")
        row.state, row.sent_at, row.attempts = DeliveryState.SENT, work.now(), row.attempts + 1
        row.error, row.claimed_until, row.next_at = "", None, None


def note_failed(work: Workspace, letter_id: int, error: str, final: bool = False) -> None:
    """Note why a mail could not be sent: it is tried again later, or given up when that is ``final`` or days have passed."""
    with work.session() as session:
        row = fetch(session, Delivery, letter_id, "mail")
        now = work.now()
        wait = WAITS[min(row.attempts, len(WAITS) - 1)]
        row.attempts, row.error, row.claimed_until = row.attempts + 1, error, None
        if final or now + wait > row.at + PATIENCE:
            row.state, row.next_at = DeliveryState.GIVEN_UP, None
        else:
            row.next_at = now + wait


def list_deliveries(work: Workspace, state: DeliveryState | None = None, limit: int = 100) -> list[DeliveryOut]:
    """Mails, the latest first."""
    with work.reading() as session:
        chosen = select(Delivery, Run).outerjoin(Run, Run.id == Delivery.run_id).order_by(Delivery.at.desc(), Delivery.id.desc())
        if state is not None:
            chosen = chosen.where(Delivery.state == state)
        return [_out(row, run) for row, run in session.execute(chosen.limit(limit)).all()]


def send_again(work: Workspace, delivery_id: int, member: Member) -> DeliveryOut:
    """Let a mail that was given up, or waits for its next attempt, be sent now. Raises :class:`Conflict` for one that was sent."""
    with work.session() as session:
        row = fetch(session, Delivery, delivery_id, "mail")
        if row.state == DeliveryState.SENT:
            raise Conflict("This mail was sent.", "A run that ends writes a new one.")
        # Its patience begins anew; a claim under way is left to its postman.
        row.state, row.next_at, row.at = DeliveryState.WAITING, work.now(), work.now()
        log(session, work.now(), member.id, "mail sent again", row.recipient)
        return _out(row, session.get(Run, row.run_id) if row.run_id else None)


def _out(row: Delivery, run: Run | None) -> DeliveryOut:
    return DeliveryOut(
        id=row.id,
        at=row.at,
        run_id=row.run_id,
        site_host=run.site.host if run else "",
        recipient=row.recipient,
        subject=row.subject,
        state=row.state,
        attempts=row.attempts,
        next_at=row.next_at,
        sent_at=row.sent_at,
        error=row.error,
    )
