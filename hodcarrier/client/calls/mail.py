"""Calls about mail, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import DeliveryState
from hodcarrier.wire.deliveries import DeliveryOut


class Mail(SyncCalls):
    """Calls about mail."""

    def list_deliveries(self, state: DeliveryState | None = None, limit: int = 100) -> list[DeliveryOut]:
        """Mails and what became of them, the latest first."""
        found: list[DeliveryOut] = self._call("list_deliveries", {}, query={"state": state, "limit": limit})
        return found

    def send_again(self, delivery_id: int) -> DeliveryOut:
        """Send a mail now that was given up or waits for its next attempt."""
        found: DeliveryOut = self._call("send_again", {"delivery_id": delivery_id})
        return found


class AsyncMail(AsyncCalls):
    """Calls about mail."""

    async def list_deliveries(self, state: DeliveryState | None = None, limit: int = 100) -> list[DeliveryOut]:
        """Mails and what became of them, the latest first."""
        found: list[DeliveryOut] = await self._call("list_deliveries", {}, query={"state": state, "limit": limit})
        return found

    async def send_again(self, delivery_id: int) -> DeliveryOut:
        """Send a mail now that was given up or waits for its next attempt."""
        found: DeliveryOut = await self._call("send_again", {"delivery_id": delivery_id})
        return found
