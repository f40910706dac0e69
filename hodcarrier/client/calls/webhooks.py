"""Calls about webhooks, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import DeliveryState
from hodcarrier.wire.webhooks import WebhookBody, WebhookChange, WebhookDeliveryOut, WebhookOut


class Webhooks(SyncCalls):
    """Calls about webhooks."""

    def list_webhooks(self) -> list[WebhookOut]:
        """Webhooks, with how their messages fare."""
        found: list[WebhookOut] = self._call("list_webhooks", {})
        return found

    def add_webhook(self, body: WebhookBody) -> WebhookOut:
        """Make a webhook; its secret is shown in this answer only."""
        found: WebhookOut = self._call("add_webhook", {}, body=body)
        return found

    def change_webhook(self, webhook_id: int, body: WebhookChange) -> WebhookOut:
        """Change a webhook, or switch it off."""
        found: WebhookOut = self._call("change_webhook", {"webhook_id": webhook_id}, body=body)
        return found

    def remove_webhook(self, webhook_id: int) -> None:
        """Remove a webhook and its log."""
        self._call("remove_webhook", {"webhook_id": webhook_id})

    def renew_secret(self, webhook_id: int) -> WebhookOut:
        """Make a new secret, shown in this answer only; for a day the old one signs too."""
        found: WebhookOut = self._call("renew_secret", {"webhook_id": webhook_id})
        return found

    def try_webhook(self, webhook_id: int) -> WebhookDeliveryOut:
        """Send a webhook a message that only tries it out."""
        found: WebhookDeliveryOut = self._call("try_webhook", {"webhook_id": webhook_id})
        return found

    def list_messages(self, webhook_id: int, state: DeliveryState | None = None, limit: int = 100) -> list[WebhookDeliveryOut]:
        """What a webhook was told in the last thirty days and is to be told, the latest first."""
        found: list[WebhookDeliveryOut] = self._call(
            "list_messages", {"webhook_id": webhook_id}, query={"state": state, "limit": limit}
        )
        return found

    def send_message_again(self, webhook_id: int, message: int) -> WebhookDeliveryOut:
        """Send a message once more, under the same id."""
        found: WebhookDeliveryOut = self._call("send_message_again", {"webhook_id": webhook_id, "message": message})
        return found


class AsyncWebhooks(AsyncCalls):
    """Calls about webhooks."""

    async def list_webhooks(self) -> list[WebhookOut]:
        """Webhooks, with how their messages fare."""
        found: list[WebhookOut] = await self._call("list_webhooks", {})
        return found

    async def add_webhook(self, body: WebhookBody) -> WebhookOut:
        """Make a webhook; its secret is shown in this answer only."""
        found: WebhookOut = await self._call("add_webhook", {}, body=body)
        return found

    async def change_webhook(self, webhook_id: int, body: WebhookChange) -> WebhookOut:
        """Change a webhook, or switch it off."""
        found: WebhookOut = await self._call("change_webhook", {"webhook_id": webhook_id}, body=body)
        return found

    async def remove_webhook(self, webhook_id: int) -> None:
        """Remove a webhook and its log."""
        await self._call("remove_webhook", {"webhook_id": webhook_id})

    async def renew_secret(self, webhook_id: int) -> WebhookOut:
        """Make a new secret, shown in this answer only; for a day the old one signs too."""
        found: WebhookOut = await self._call("renew_secret", {"webhook_id": webhook_id})
        return found

    async def try_webhook(self, webhook_id: int) -> WebhookDeliveryOut:
        """Send a webhook a message that only tries it out."""
        found: WebhookDeliveryOut = await self._call("try_webhook", {"webhook_id": webhook_id})
        return found

    async def list_messages(
        self, webhook_id: int, state: DeliveryState | None = None, limit: int = 100
    ) -> list[WebhookDeliveryOut]:
        """What a webhook was told in the last thirty days and is to be told, the latest first."""
        found: list[WebhookDeliveryOut] = await self._call(
            "list_messages", {"webhook_id": webhook_id}, query={"state": state, "limit": limit}
        )
        return found

    async def send_message_again(self, webhook_id: int, message: int) -> WebhookDeliveryOut:
        """Send a message once more, under the same id."""
        found: WebhookDeliveryOut = await self._call("send_message_again", {"webhook_id": webhook_id, "message": message})
        return found
