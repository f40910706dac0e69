"""Calls about setups, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from datetime import date

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.presets import PresetBody, PresetChange, PresetOut, SiteDraft, SitesChange, SitesChanged, SitesPick
from hodcarrier.wire.week import WeekOut


class Setups(SyncCalls):
    """Calls about setups."""

    def list_presets(self) -> list[PresetOut]:
        """Presets by name."""
        found: list[PresetOut] = self._call("list_presets", {})
        return found

    def add_preset(self, body: PresetBody) -> PresetOut:
        """Add a preset."""
        found: PresetOut = self._call("add_preset", {}, body=body)
        return found

    def change_preset(self, preset_id: int, body: PresetChange, version: int | None = None) -> PresetOut:
        """Change a preset; sites that were set up with it stay as they are."""
        found: PresetOut = self._call("change_preset", {"preset_id": preset_id}, version=version, body=body)
        return found

    def remove_preset(self, preset_id: int) -> None:
        """Remove a preset."""
        self._call("remove_preset", {"preset_id": preset_id})

    def plan_site_changes(self, body: SitesPick) -> list[SiteDraft]:
        """What settings, schedule and tags would become of several sites. Nothing is changed."""
        found: list[SiteDraft] = self._call("plan_site_changes", {}, body=body)
        return found

    def change_sites(self, body: SitesChange) -> SitesChanged:
        """Change several sites, all of them or none; the answer holds the changes that undo it."""
        found: SitesChanged = self._call("change_sites", {}, body=body)
        return found

    def get_week(self, start: date | None = None, days: int = 7, client: int | None = None) -> WeekOut:
        """The runs of some days: those that began, and those that are planned."""
        found: WeekOut = self._call("get_week", {}, query={"start": start, "days": days, "client": client})
        return found


class AsyncSetups(AsyncCalls):
    """Calls about setups."""

    async def list_presets(self) -> list[PresetOut]:
        """Presets by name."""
        found: list[PresetOut] = await self._call("list_presets", {})
        return found

    async def add_preset(self, body: PresetBody) -> PresetOut:
        """Add a preset."""
        found: PresetOut = await self._call("add_preset", {}, body=body)
        return found

    async def change_preset(self, preset_id: int, body: PresetChange, version: int | None = None) -> PresetOut:
        """Change a preset; sites that were set up with it stay as they are."""
        found: PresetOut = await self._call("change_preset", {"preset_id": preset_id}, version=version, body=body)
        return found

    async def remove_preset(self, preset_id: int) -> None:
        """Remove a preset."""
        await self._call("remove_preset", {"preset_id": preset_id})

    async def plan_site_changes(self, body: SitesPick) -> list[SiteDraft]:
        """What settings, schedule and tags would become of several sites. Nothing is changed."""
        found: list[SiteDraft] = await self._call("plan_site_changes", {}, body=body)
        return found

    async def change_sites(self, body: SitesChange) -> SitesChanged:
        """Change several sites, all of them or none; the answer holds the changes that undo it."""
        found: SitesChanged = await self._call("change_sites", {}, body=body)
        return found

    async def get_week(self, start: date | None = None, days: int = 7, client: int | None = None) -> WeekOut:
        """The runs of some days: those that began, and those that are planned."""
        found: WeekOut = await self._call("get_week", {}, query={"start": start, "days": days, "client": client})
        return found
