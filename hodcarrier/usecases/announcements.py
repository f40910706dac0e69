"""What other programs are told: noted for every webhook that wants it, in the transaction in which it happens."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from datetime import datetime

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from hodcarrier.core.states import DeliveryState, RunPurpose, RunState, Topic
from hodcarrier.register.models import Alert, Run, Site, Todo, Webhook, WebhookDelivery
from hodcarrier.usecases.run_brief import run_brief
from hodcarrier.usecases.site_states import health_change
from hodcarrier.usecases.todo_lists import todo_out
from hodcarrier.wire.base import Wire
from hodcarrier.wire.webhooks import AlertNews, ComparisonNews, RunNews, TodoNews


def announce(session: Session, now: datetime, topic: Topic, client_id: int, link: str, news: Callable[[], Wire]) -> None:
    """Note something for every webhook that wants to be told of it. ``link`` is where the console shows it, as a path; ``news`` is made only when one does."""
    session.flush()
    active = select(Webhook).where(Webhook.active, or_(Webhook.client_id.is_(None), Webhook.client_id == client_id))
    wanting = [each for each in session.scalars(active) if not each.topics or topic in each.topics]
    if wanting:
        told = news()
        for webhook in wanting:
            note_for(session, now, webhook, topic, link, told)


def note_for(session: Session, now: datetime, webhook: Webhook, topic: Topic, link: str, news: Wire) -> WebhookDelivery:
    """Note something for one webhook."""
    delivery = WebhookDelivery(
        webhook_id=webhook.id,
        message_id=f"msg_{secrets.token_urlsafe(18)}",
        topic=topic,
        at=now,
        link=link,
        data=news.model_dump(mode="json"),
        state=DeliveryState.WAITING,
        patience_from=now,
    )
    session.add(delivery)
    session.flush()
    return delivery


def announce_todo(session: Session, now: datetime, topic: Topic, todo: Todo, text: str, by: str) -> None:
    """Tell that something happened to a to-do."""

    def news() -> TodoNews:
        return TodoNews(todo=todo_out(todo, now.date(), watched=True), text=text, by=by)

    announce(session, now, topic, todo.site.client_id, f"/todos/{todo.id}", news)


_ENDED = {
    RunState.DONE: Topic.RUN_DONE,
    RunState.STOPPED: Topic.RUN_STOPPED,
    RunState.FAILED: Topic.RUN_FAILED,
}


def announce_run(session: Session, now: datetime, run: Run) -> None:
    """Tell that an audit has begun, or how it has ended. What is run for a benchmark, and what is examined again, is not told."""
    if run.purpose == RunPurpose.AUDIT:

        def news() -> RunNews:
            return RunNews(run=run_brief(run), client_name=run.site.client.name)

        announce(session, now, _ENDED.get(run.state, Topic.RUN_STARTED), run.site.client_id, f"/sites/{run.site_id}", news)


def announce_comparison(session: Session, now: datetime, run: Run) -> None:
    """Tell how an audit differs from the one before it, when they were compared."""
    changes, base = run.changes, session.get(Run, run.base_id) if run.base_id else None
    if changes is None or base is None or run.purpose != RunPurpose.AUDIT:
        return

    def news() -> ComparisonNews:
        return ComparisonNews(
            site_id=run.site_id,
            site_host=run.site.host,
            client_name=run.site.client.name,
            base_id=base.id,
            head_id=run.id,
            health_change=health_change(run, base),
            sentence=changes.sentence,
            counts={str(kind): count for kind, count in changes.counts.items()},
        )

    link = f"/sites/{run.site_id}/changes?base={base.id}&head={run.id}"
    announce(session, now, Topic.COMPARISON_READY, run.site.client_id, link, news)


def announce_alert(session: Session, now: datetime, topic: Topic, alert: Alert, site: Site) -> None:
    """Tell that an alert was raised or cleared."""

    def news() -> AlertNews:
        return AlertNews(
            site_id=site.id,
            site_host=site.host,
            client_name=site.client.name,
            check=alert.check_id,
            severity=alert.severity,
            summary=alert.summary,
            detail=alert.detail,
            findings=0 if topic == Topic.ALERT_CLEARED else alert.findings,
        )

    announce(session, now, topic, site.client_id, f"/sites/{site.id}/checks/{alert.check_id}", news)
