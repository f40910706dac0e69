"""Webhooks."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from hodcarrier.core.states import DeliveryState
from hodcarrier.service.deps import Configured, Work
from hodcarrier.service.guard import Asker, serves
from hodcarrier.service.outside import WEBHOOK, checked_target
from hodcarrier.usecases import webhooks
from hodcarrier.wire.webhooks import WebhookBody, WebhookChange, WebhookDeliveryOut, WebhookOut

router = APIRouter()


@serves(router, "list_webhooks")
def list_webhooks(work: Work) -> list[WebhookOut]:
    return webhooks.list_webhooks(work)


@serves(router, "add_webhook")
def add_webhook(body: WebhookBody, work: Work, settings: Configured, member: Asker) -> WebhookOut:
    url = checked_target(body.url, settings.allow_private, WEBHOOK)
    return webhooks.add_webhook(work, body.model_copy(update={"url": url}), member)


@serves(router, "change_webhook")
def change_webhook(webhook_id: int, body: WebhookChange, work: Work, settings: Configured, member: Asker) -> WebhookOut:
    change = (
        body if body.url is None else body.model_copy(update={"url": checked_target(body.url, settings.allow_private, WEBHOOK)})
    )
    return webhooks.change_webhook(work, webhook_id, change, member)


@serves(router, "remove_webhook")
def remove_webhook(webhook_id: int, work: Work, member: Asker) -> None:
    webhooks.remove_webhook(work, webhook_id, member)


@serves(router, "renew_secret")
def renew_secret(webhook_id: int, work: Work, member: Asker) -> WebhookOut:
    return webhooks.renew_secret(work, webhook_id, member)


@serves(router, "try_webhook")
def try_webhook(webhook_id: int, work: Work, member: Asker) -> WebhookDeliveryOut:
    return webhooks.try_webhook(work, webhook_id, member)


@serves(router, "list_messages")
def list_messages(
    webhook_id: int, work: Work, state: DeliveryState | None = None, limit: Annotated[int, Query(ge=1, le=1000)] = 100
) -> list[WebhookDeliveryOut]:
    return webhooks.list_messages(work, webhook_id, state, limit)


@serves(router, "send_message_again")
def send_message_again(webhook_id: int, message: int, work: Work, member: Asker) -> WebhookDeliveryOut:
    return webhooks.send_message_again(work, webhook_id, message, member)
