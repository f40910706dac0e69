"""Calls about clients, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.client_pages import ClientPage
from hodcarrier.wire.clients import ClientBody, ClientChange, ClientOut
from hodcarrier.wire.new_clients import FirstLookBody, FirstLookOut, NewClientBody, NewClientOut


class Clients(SyncCalls):
    """Calls about clients."""

    def list_clients(self, archived: bool = False, tag: str = "") -> list[ClientOut]:
        """Clients with their sites; those that are archived on demand."""
        found: list[ClientOut] = self._call("list_clients", {}, query={"archived": archived, "tag": tag})
        return found

    def get_client(self, client_id: int) -> ClientPage:
        """All that is kept for a client, on one page."""
        found: ClientPage = self._call("get_client", {"client_id": client_id})
        return found

    def add_client(self, body: ClientBody) -> ClientOut:
        """Add a client."""
        found: ClientOut = self._call("add_client", {}, body=body)
        return found

    def first_look(self, body: FirstLookBody) -> FirstLookOut:
        """Look at a site that is not set up yet: a few pages, robots.txt, sitemaps; and the settings that suit it."""
        found: FirstLookOut = self._call("first_look", {}, body=body)
        return found

    def set_up_client(self, body: NewClientBody) -> NewClientOut:
        """Set up a client with site, schedule, competitors and people: all of it or nothing."""
        found: NewClientOut = self._call("set_up_client", {}, body=body)
        return found

    def change_client(self, client_id: int, body: ClientChange) -> ClientOut:
        """Change a client, archive it, or bring it back."""
        found: ClientOut = self._call("change_client", {"client_id": client_id}, body=body)
        return found

    def remove_client(self, client_id: int) -> None:
        """Remove a client and everything kept for it."""
        self._call("remove_client", {"client_id": client_id})


class AsyncClients(AsyncCalls):
    """Calls about clients."""

    async def list_clients(self, archived: bool = False, tag: str = "") -> list[ClientOut]:
        """Clients with their sites; those that are archived on demand."""
        found: list[ClientOut] = await self._call("list_clients", {}, query={"archived": archived, "tag": tag})
        return found

    async def get_client(self, client_id: int) -> ClientPage:
        """All that is kept for a client, on one page."""
        found: ClientPage = await self._call("get_client", {"client_id": client_id})
        return found

    async def add_client(self, body: ClientBody) -> ClientOut:
        """Add a client."""
        found: ClientOut = await self._call("add_client", {}, body=body)
        return found

    async def first_look(self, body: FirstLookBody) -> FirstLookOut:
        """Look at a site that is not set up yet: a few pages, robots.txt, sitemaps; and the settings that suit it."""
        found: FirstLookOut = await self._call("first_look", {}, body=body)
        return found

    async def set_up_client(self, body: NewClientBody) -> NewClientOut:
        """Set up a client with site, schedule, competitors and people: all of it or nothing."""
        found: NewClientOut = await self._call("set_up_client", {}, body=body)
        return found

    async def change_client(self, client_id: int, body: ClientChange) -> ClientOut:
        """Change a client, archive it, or bring it back."""
        found: ClientOut = await self._call("change_client", {"client_id": client_id}, body=body)
        return found

    async def remove_client(self, client_id: int) -> None:
        """Remove a client and everything kept for it."""
        await self._call("remove_client", {"client_id": client_id})
