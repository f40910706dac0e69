"""Calls about standings, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import BacklinkState, TableForm
from hodcarrier.wire.figures import BacklinksOut, PositionsOut


class Standings(SyncCalls):
    """Calls about standings."""

    def get_positions(
        self,
        site_id: int,
        weeks: int = 4,
        device: str = "",
        place: str = "",
        text: str = "",
        moved: bool = False,
        limit: int = 100,
        after: int = 0,
    ) -> PositionsOut:
        """Where a site stands for its keywords: now, before, at best, how they are spread, and who stands above."""
        found: PositionsOut = self._call(
            "get_positions",
            {"site_id": site_id},
            query={
                "weeks": weeks,
                "device": device,
                "place": place,
                "text": text,
                "moved": moved,
                "limit": limit,
                "after": after,
            },
        )
        return found

    def export_positions(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        weeks: int = 4,
        device: str = "",
        place: str = "",
        text: str = "",
        moved: bool = False,
    ) -> bytes:
        """Positions of keywords as a table: all rows, filtered like the list."""
        found: bytes = self._call(
            "export_positions",
            {"site_id": site_id},
            query={"form": form, "weeks": weeks, "device": device, "place": place, "text": text, "moved": moved},
        )
        return found

    def get_backlinks(
        self,
        site_id: int,
        state: BacklinkState = BacklinkState.LIVE,
        weeks: int = 4,
        text: str = "",
        limit: int = 100,
        after: int = 0,
    ) -> BacklinksOut:
        """Links from other sites: those that are there, new ones, lost ones, and those to pages that are gone."""
        found: BacklinksOut = self._call(
            "get_backlinks",
            {"site_id": site_id},
            query={"state": state, "weeks": weeks, "text": text, "limit": limit, "after": after},
        )
        return found

    def export_backlinks(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        state: BacklinkState = BacklinkState.LIVE,
        weeks: int = 4,
        text: str = "",
    ) -> bytes:
        """Links from other sites as a table: all rows, filtered like the list."""
        found: bytes = self._call(
            "export_backlinks", {"site_id": site_id}, query={"form": form, "state": state, "weeks": weeks, "text": text}
        )
        return found


class AsyncStandings(AsyncCalls):
    """Calls about standings."""

    async def get_positions(
        self,
        site_id: int,
        weeks: int = 4,
        device: str = "",
        place: str = "",
        text: str = "",
        moved: bool = False,
        limit: int = 100,
        after: int = 0,
    ) -> PositionsOut:
        """Where a site stands for its keywords: now, before, at best, how they are spread, and who stands above."""
        found: PositionsOut = await self._call(
            "get_positions",
            {"site_id": site_id},
            query={
                "weeks": weeks,
                "device": device,
                "place": place,
                "text": text,
                "moved": moved,
                "limit": limit,
                "after": after,
            },
        )
        return found

    async def export_positions(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        weeks: int = 4,
        device: str = "",
        place: str = "",
        text: str = "",
        moved: bool = False,
    ) -> bytes:
        """Positions of keywords as a table: all rows, filtered like the list."""
        found: bytes = await self._call(
            "export_positions",
            {"site_id": site_id},
            query={"form": form, "weeks": weeks, "device": device, "place": place, "text": text, "moved": moved},
        )
        return found

    async def get_backlinks(
        self,
        site_id: int,
        state: BacklinkState = BacklinkState.LIVE,
        weeks: int = 4,
        text: str = "",
        limit: int = 100,
        after: int = 0,
    ) -> BacklinksOut:
        """Links from other sites: those that are there, new ones, lost ones, and those to pages that are gone."""
        found: BacklinksOut = await self._call(
            "get_backlinks",
            {"site_id": site_id},
            query={"state": state, "weeks": weeks, "text": text, "limit": limit, "after": after},
        )
        return found

    async def export_backlinks(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        state: BacklinkState = BacklinkState.LIVE,
        weeks: int = 4,
        text: str = "",
    ) -> bytes:
        """Links from other sites as a table: all rows, filtered like the list."""
        found: bytes = await self._call(
            "export_backlinks", {"site_id": site_id}, query={"form": form, "state": state, "weeks": weeks, "text": text}
        )
        return found
