"""Calls about catalogue, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import Area
from hodcarrier.wire.catalogue import CatalogueEntry
from hodcarrier.wire.search import SearchHit


class Catalogue(SyncCalls):
    """Calls about catalogue."""

    def list_catalogue(self, area: Area | None = None, retired: bool = False) -> list[CatalogueEntry]:
        """All checks; with `retired`, those that were taken out as well."""
        found: list[CatalogueEntry] = self._call("list_catalogue", {}, query={"area": area, "retired": retired})
        return found

    def get_catalogue_entry(self, check_id: str) -> CatalogueEntry:
        """One check, by an id it has or had; a retired one says what happened to it."""
        found: CatalogueEntry = self._call("get_catalogue_entry", {"check_id": check_id})
        return found

    def search(self, text: str, limit: int = 20) -> list[SearchHit]:
        """Clients, sites, pages, checks and to-dos whose name holds every word of a text, the best first."""
        found: list[SearchHit] = self._call("search", {}, query={"text": text, "limit": limit})
        return found


class AsyncCatalogue(AsyncCalls):
    """Calls about catalogue."""

    async def list_catalogue(self, area: Area | None = None, retired: bool = False) -> list[CatalogueEntry]:
        """All checks; with `retired`, those that were taken out as well."""
        found: list[CatalogueEntry] = await self._call("list_catalogue", {}, query={"area": area, "retired": retired})
        return found

    async def get_catalogue_entry(self, check_id: str) -> CatalogueEntry:
        """One check, by an id it has or had; a retired one says what happened to it."""
        found: CatalogueEntry = await self._call("get_catalogue_entry", {"check_id": check_id})
        return found

    async def search(self, text: str, limit: int = 20) -> list[SearchHit]:
        """Clients, sites, pages, checks and to-dos whose name holds every word of a text, the best first."""
        found: list[SearchHit] = await self._call("search", {}, query={"text": text, "limit": limit})
        return found
