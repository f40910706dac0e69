"""Webhooks: made, changed, tried out; and their messages on the way, claimed before they are sent and kept with what became of them."""

from __future__ import annotations

import json
import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import delete, func, or_, select, update
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.errors import NotFound
from hodcarrier.core.signing import written_secret
from hodcarrier.core.states import DeliveryState, Topic
from hodcarrier.register.models import Client, Member, Webhook, WebhookDelivery
from hodcarrier.usecases.announcements import note_for
from hodcarrier.usecases.outbox import CLAIM, PATIENCE, WAITS
from hodcarrier.usecases.workspace import Workspace, fetch, log
from hodcarrier.wire.webhooks import TestNews, WebhookBody, WebhookChange, WebhookDeliveryOut, WebhookOut

# After a new secret was made messages are signed by the old one too for so long.
OVERLAP = timedelta(hours=24)
# What was delivered, or given up, is kept in the log for so long.
KEPT = timedelta(days=30)
AT_ONCE = 8
KEY_BYTES = 32


@dataclass(frozen=True)
class Parcel:
    """A message that is to be sent now: the same bytes at every attempt, with the secrets that sign it."""

    id: int
    webhook_id: int
    url: str
    message_id: str
    body: bytes
    secrets: tuple[str, ...]


def add_webhook(work: Workspace, body: WebhookBody, member: Member) -> WebhookOut:
    """Make a webhook; its secret is in this answer and never again."""
    secret = written_secret(secrets.token_bytes(KEY_BYTES))
    with work.session() as session:
        if body.client_id is not None:
            fetch(session, Client, body.client_id, "client")
        webhook = Webhook(
            name=body.name,
            url=body.url,
            topics=list(body.topics),
            client_id=body.client_id,
            sealed=work.vault.seal({"secret": secret}),
            author_id=member.id,
            created_at=work.now(),
        )
        session.add(webhook)
        session.flush()
        log(session, work.now(), member.id, "webhook added", body.name)
        return _out(session, webhook, secret)


def list_webhooks(work: Workspace) -> list[WebhookOut]:
    """All webhooks, with how their messages fare."""
    with work.reading() as session:
        return _all_out(session, session.scalars(select(Webhook).order_by(Webhook.id).options(joinedload(Webhook.client))).all())


def change_webhook(work: Workspace, webhook_id: int, change: WebhookChange, member: Member) -> WebhookOut:
    """Change a webhook. One that is switched on again, or has another address, is tried at once."""
    with work.session() as session:
        webhook = fetch(session, Webhook, webhook_id, "webhook")
        if "client_id" in change.model_fields_set:
            if change.client_id is not None:
                fetch(session, Client, change.client_id, "client")
            webhook.client_id = change.client_id
        if change.topics is not None:
            webhook.topics = list(change.topics)
        for name in ("name", "url", "active"):
            value = getattr(change, name)
            if value is not None:
                setattr(webhook, name, value)
        if change.url is not None or change.active:
            webhook.failures, webhook.paused_until = 0, None
        log(session, work.now(), member.id, "webhook changed", webhook.name)
        return _out(session, webhook)


def remove_webhook(work: Workspace, webhook_id: int, member: Member) -> None:
    """Remove a webhook and its log."""
    with work.session() as session:
        webhook = fetch(session, Webhook, webhook_id, "webhook")
        log(session, work.now(), member.id, "webhook removed", webhook.name)
        session.delete(webhook)


def renew_secret(work: Workspace, webhook_id: int, member: Member) -> WebhookOut:
    """Make a new secret, which is in this answer and never again. Messages are signed by the old one too for a day, so that receivers can follow."""
    secret = written_secret(secrets.token_bytes(KEY_BYTES))
    with work.session() as session:
        webhook = fetch(session, Webhook, webhook_id, "webhook")
        former = work.vault.open(webhook.sealed)["secret"]
        until = work.now() + OVERLAP
        webhook.sealed = work.vault.seal({"secret": secret, "former": former, "former_until": until.isoformat()})
        log(session, work.now(), member.id, "webhook secret renewed", webhook.name)
        return _out(session, webhook, secret)


def try_webhook(work: Workspace, webhook_id: int, member: Member) -> WebhookDeliveryOut:
    """Send a webhook a message that says it is only tried out, whatever its topics are."""
    now = work.now()
    with work.session() as session:
        webhook = fetch(session, Webhook, webhook_id, "webhook")
        webhook.paused_until = None
        news = TestNews(text=f"{member.name} tries this webhook out.")
        return _delivery_out(work, note_for(session, now, webhook, Topic.WEBHOOK_TEST, "/team?tab=deliveries", news))


def list_messages(
    work: Workspace, webhook_id: int, state: DeliveryState | None = None, limit: int = 100
) -> list[WebhookDeliveryOut]:
    """What a webhook was told in the last thirty days and is to be told, the latest first."""
    with work.reading() as session:
        fetch(session, Webhook, webhook_id, "webhook")
        chosen = select(WebhookDelivery).where(WebhookDelivery.webhook_id == webhook_id).order_by(WebhookDelivery.id.desc())
        if state is not None:
            chosen = chosen.where(WebhookDelivery.state == state)
        return [_delivery_out(work, row) for row in session.scalars(chosen.limit(limit))]


def send_message_again(work: Workspace, webhook_id: int, message: int, member: Member) -> WebhookDeliveryOut:
    """Send a message once more, under the same id, whatever became of it before."""
    with work.session() as session:
        row = session.get(WebhookDelivery, message)
        if row is None or row.webhook_id != webhook_id:
            raise NotFound(f"Webhook {webhook_id} was sent no message {message}.", f"See `hodcarrier webhook log {webhook_id}`.")
        row.state, row.patience_from, row.webhook.paused_until = DeliveryState.WAITING, work.now(), None
        log(session, work.now(), member.id, "webhook message sent again", f"{row.webhook.name}: {row.topic}")
        return _delivery_out(work, row)


def claim_due(work: Workspace) -> list[Parcel]:
    """Messages for the caller to send, the oldest first; those of webhooks that are switched off or paused wait."""
    now = work.now()
    due = (
        select(WebhookDelivery.id)
        .join(Webhook)
        .where(
            WebhookDelivery.state == DeliveryState.WAITING,
            or_(WebhookDelivery.claimed_until.is_(None), WebhookDelivery.claimed_until < now),
            Webhook.active,
            or_(Webhook.paused_until.is_(None), Webhook.paused_until <= now),
        )
        .order_by(WebhookDelivery.id)
        .limit(AT_ONCE)
    )
    with work.reading() as session:
        if session.scalar(due) is None:
            return []
    with work.session() as session:
        claimed = (
            update(WebhookDelivery)
            .where(WebhookDelivery.id.in_(due.scalar_subquery()))
            .values(claimed_until=now + CLAIM)
            .returning(WebhookDelivery.id)
            .execution_options(synchronize_session=False)
        )
        ids = session.scalars(claimed).all()
        rows = session.scalars(select(WebhookDelivery).where(WebhookDelivery.id.in_(ids)).order_by(WebhookDelivery.id)).all()
        return [
            Parcel(
                row.id, row.webhook_id, row.webhook.url, row.message_id, _body(work, row), _secrets(work, row.webhook.sealed, now)
            )
            for row in rows
        ]


def note_taken(work: Workspace, parcel: Parcel, status: int) -> None:
    """Note that a receiver took a message."""
    with work.session() as session:
        row = session.get(WebhookDelivery, parcel.id)
        if row is not None:
            row.state, row.sent_at, row.attempts, row.claimed_until = DeliveryState.SENT, work.now(), row.attempts + 1, None
            row.status, row.error = status, ""
            row.webhook.failures, row.webhook.paused_until = 0, None


def note_refused(work: Workspace, parcel: Parcel, status: int | None, error: str, *, gone: bool = False) -> None:
    """Note why a message was not taken. Its webhook pauses, longer each time; ``gone`` switches it off, as its receiver has asked for.

    A message is given up when days have passed.
    """
    now = work.now()
    with work.session() as session:
        row = session.get(WebhookDelivery, parcel.id)
        if row is None:
            return
        webhook = row.webhook
        if webhook.paused_until is None or webhook.paused_until <= now:  # of several at once the first one counts
            wait = WAITS[min(webhook.failures, len(WAITS) - 1)]
            webhook.failures, webhook.paused_until = webhook.failures + 1, now + wait
        row.attempts, row.claimed_until, row.status, row.error = row.attempts + 1, None, status, error[:1000]
        if gone:
            webhook.active = False
        if now > row.patience_from + PATIENCE:
            row.state = DeliveryState.GIVEN_UP


def forget_old_messages(work: Workspace) -> None:
    """Remove from the logs what was sent, or given up, a month ago."""
    with work.session() as session:
        old = WebhookDelivery.at < work.now() - KEPT
        session.execute(delete(WebhookDelivery).where(old, WebhookDelivery.state != DeliveryState.WAITING))


def _secrets(work: Workspace, sealed: str, now: datetime) -> tuple[str, ...]:
    kept = work.vault.open(sealed)
    former = [kept["former"]] if "former" in kept and now < datetime.fromisoformat(kept["former_until"]) else []
    return (kept["secret"], *former)


def _body(work: Workspace, row: WebhookDelivery) -> bytes:
    data: dict[str, Any] = {**row.data, "url": work.address.rstrip("/") + row.link if work.address else ""}
    message = {"type": row.topic, "timestamp": row.at.astimezone(UTC).isoformat().replace("+00:00", "Z"), "data": data}
    return json.dumps(message, ensure_ascii=False, separators=(",", ":")).encode()


def _out(session: Session, webhook: Webhook, secret: str | None = None) -> WebhookOut:
    return _all_out(session, [webhook])[0].model_copy(update={"secret": secret})


def _all_out(session: Session, found: Sequence[Webhook]) -> list[WebhookOut]:
    """Webhooks with how their messages fare, from one query for the counts and one for what was tried last."""
    session.flush()
    of_these = WebhookDelivery.webhook_id.in_([webhook.id for webhook in found])
    kinds = select(WebhookDelivery.webhook_id, WebhookDelivery.state, func.count())
    counts = {(hook, state): n for hook, state, n in session.execute(kinds.where(of_these).group_by("webhook_id", "state"))}
    tried = (
        select(func.max(WebhookDelivery.id)).where(of_these, WebhookDelivery.attempts > 0).group_by(WebhookDelivery.webhook_id)
    )
    last = {row.webhook_id: row for row in session.scalars(select(WebhookDelivery).where(WebhookDelivery.id.in_(tried)))}
    return [
        WebhookOut(
            id=webhook.id,
            name=webhook.name,
            url=webhook.url,
            topics=[Topic(topic) for topic in webhook.topics],
            client_id=webhook.client_id,
            client_name=webhook.client.name if webhook.client else "",
            active=webhook.active,
            waiting=counts.get((webhook.id, DeliveryState.WAITING), 0),
            given_up=counts.get((webhook.id, DeliveryState.GIVEN_UP), 0),
            paused_until=webhook.paused_until,
            last_at=last[webhook.id].at if webhook.id in last else None,
            last_error=last[webhook.id].error if webhook.id in last else "",
            created_at=webhook.created_at,
        )
        for webhook in found
    ]


def _delivery_out(work: Workspace, row: WebhookDelivery) -> WebhookDeliveryOut:
    return WebhookDeliveryOut(
        id=row.id,
        message_id=row.message_id,
        topic=row.topic,
        at=row.at,
        state=row.state,
        attempts=row.attempts,
        sent_at=row.sent_at,
        status=row.status,
        error=row.error,
        body=_body(work, row).decode(),
    )
