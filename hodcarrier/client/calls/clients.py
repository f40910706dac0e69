"""Calls about clients, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.clients import ClientBody, ClientChange, ClientOut


class Clients(SyncCalls):
    """Calls about clients."""

    def list_clients(self) -> list[ClientOut]:
        """Clients with their sites."""
        found: list[ClientOut] = self._call("list_clients", {})
        return found

    def add_client(self, body: ClientBody) -> ClientOut:
        """Add a client."""
        found: ClientOut = self._call("add_client", {}, body=body)
        return found

    def change_client(self, client_id: int, body: ClientChange) -> ClientOut:
        """Change a client's name or holidays."""
        found: ClientOut = self._call("change_client", {"client_id": client_id}, body=body)
        return found

    def remove_client(self, client_id: int) -> None:
        """Remove a client and everything kept for it."""
        self._call("remove_client", {"client_id": client_id})


class AsyncClients(AsyncCalls):
    """Calls about clients."""

    async def list_clients(self) -> list[ClientOut]:
        """Clients with their sites."""
        found: list[ClientOut] = await self._call("list_clients", {})
        return found

    async def add_client(self, body: ClientBody) -> ClientOut:
        """Add a client."""
        found: ClientOut = await self._call("add_client", {}, body=body)
        return found

    async def change_client(self, client_id: int, body: ClientChange) -> ClientOut:
        """Change a client's name or holidays."""
        found: ClientOut = await self._call("change_client", {"client_id": client_id}, body=body)
        return found

    async def remove_client(self, client_id: int) -> None:
        """Remove a client and everything kept for it."""
        await self._call("remove_client", {"client_id": client_id})
