"""Calls about catalogue, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import Area
from hodcarrier.wire.catalogue import CatalogueEntry, FailingCheck, FailingSite
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

    def list_failing_checks(self) -> list[FailingCheck]:
        """On how many sites each check fails in their latest runs, those that fail on most first."""
        found: list[FailingCheck] = self._call("list_failing_checks", {})
        return found

    def list_failing_sites(self, check_id: str) -> list[FailingSite]:
        """The sites on which a check fails in their latest runs, those with most places first."""
        found: list[FailingSite] = self._call("list_failing_sites", {"check_id": check_id})
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

    async def list_failing_checks(self) -> list[FailingCheck]:
        """On how many sites each check fails in their latest runs, those that fail on most first."""
        found: list[FailingCheck] = await self._call("list_failing_checks", {})
        return found

    async def list_failing_sites(self, check_id: str) -> list[FailingSite]:
        """The sites on which a check fails in their latest runs, those with most places first."""
        found: list[FailingSite] = await self._call("list_failing_sites", {"check_id": check_id})
        return found

    async def search(self, text: str, limit: int = 20) -> list[SearchHit]:
        """Clients, sites, pages, checks and to-dos whose name holds every word of a text, the best first."""
        found: list[SearchHit] = await self._call("search", {}, query={"text": text, "limit": limit})
        return found
