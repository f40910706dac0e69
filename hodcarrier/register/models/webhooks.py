"""Webhooks, and what they were told."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKey, Index, String, Text, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from hodcarrier.core.states import DeliveryState, Topic
from hodcarrier.register.models.base import Base
from hodcarrier.register.models.sites import Client


class Webhook(Base):
    """An address of another program that is told of things, of all ``topics`` when it names none. Its secrets are sealed by the vault.

    After a failure nothing is sent to it until ``paused_until``; ``failures`` is how many rounds have failed since the last success.
    """

    __tablename__ = "webhook"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(100))
    url: Mapped[str] = mapped_column(Text)
    topics: Mapped[list[str]] = mapped_column(default=list)
    client_id: Mapped[int | None] = mapped_column(ForeignKey("client.id", ondelete="CASCADE"))
    sealed: Mapped[str] = mapped_column(Text)
    active: Mapped[bool] = mapped_column(default=True)
    failures: Mapped[int] = mapped_column(default=0)
    paused_until: Mapped[datetime | None]
    author_id: Mapped[int | None] = mapped_column(ForeignKey("member.id"))
    created_at: Mapped[datetime]
    client: Mapped[Client | None] = relationship()


class WebhookDelivery(Base):
    """Something that a webhook is told: ``data`` with a ``link`` into the console. A courier claims it while sending."""

    __tablename__ = "webhook_delivery"
    __table_args__ = (
        Index("webhook_delivery_waiting", "webhook_id", sqlite_where=text("state = 'waiting'")),
        Index("webhook_delivery_webhook", "webhook_id", "id"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    webhook_id: Mapped[int] = mapped_column(ForeignKey("webhook.id", ondelete="CASCADE"))
    message_id: Mapped[str] = mapped_column(String(40), unique=True)
    topic: Mapped[Topic]
    at: Mapped[datetime]
    link: Mapped[str] = mapped_column(Text)
    data: Mapped[dict[str, Any]]
    state: Mapped[DeliveryState]
    patience_from: Mapped[datetime]
    attempts: Mapped[int] = mapped_column(default=0)
    claimed_until: Mapped[datetime | None]
    sent_at: Mapped[datetime | None]
    status: Mapped[int | None]
    error: Mapped[str] = mapped_column(Text, default="")
    webhook: Mapped[Webhook] = relationship()
