"""Calls about plans, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.plans import (
    AccessBody,
    AccessOut,
    PlanBody,
    PlanCopy,
    PlanOut,
    PlanToml,
    PreviewBody,
    PreviewRow,
    SettingOut,
)


class Plans(SyncCalls):
    """Calls about plans."""

    def list_plan_settings(self) -> list[SettingOut]:
        """What every setting of a plan means, in the order of the form."""
        found: list[SettingOut] = self._call("list_plan_settings", {})
        return found

    def get_plan(self, site_id: int) -> PlanOut:
        """A site's plan."""
        found: PlanOut = self._call("get_plan", {"site_id": site_id})
        return found

    def change_plan(self, site_id: int, body: PlanBody, version: int | None = None) -> PlanOut:
        """Change a plan; future runs use it."""
        found: PlanOut = self._call("change_plan", {"site_id": site_id}, version=version, body=body)
        return found

    def preview_plan(self, site_id: int, body: PreviewBody) -> list[PreviewRow]:
        """Try values of a plan on URLs before saving them."""
        found: list[PreviewRow] = self._call("preview_plan", {"site_id": site_id}, body=body)
        return found

    def get_plan_toml(self, site_id: int) -> PlanToml:
        """A plan as TOML: the settings that differ from their defaults."""
        found: PlanToml = self._call("get_plan_toml", {"site_id": site_id})
        return found

    def replace_plan(self, site_id: int, body: PlanToml) -> PlanOut:
        """Replace a plan by one in TOML; settings it does not name get their defaults."""
        found: PlanOut = self._call("replace_plan", {"site_id": site_id}, body=body)
        return found

    def copy_plan(self, site_id: int, body: PlanCopy) -> PlanOut:
        """Copy another site's plan, except what belongs to that site alone."""
        found: PlanOut = self._call("copy_plan", {"site_id": site_id}, body=body)
        return found

    def get_access(self, site_id: int) -> AccessOut:
        """What kinds of access a site has; never a secret."""
        found: AccessOut = self._call("get_access", {"site_id": site_id})
        return found

    def set_access(self, site_id: int, body: AccessBody) -> AccessOut:
        """Keep what opens a site: a password, headers, cookies. They are sealed, and sent to the site's own hosts alone."""
        found: AccessOut = self._call("set_access", {"site_id": site_id}, body=body)
        return found

    def remove_access(self, site_id: int) -> None:
        """Forget what opens a site."""
        self._call("remove_access", {"site_id": site_id})


class AsyncPlans(AsyncCalls):
    """Calls about plans."""

    async def list_plan_settings(self) -> list[SettingOut]:
        """What every setting of a plan means, in the order of the form."""
        found: list[SettingOut] = await self._call("list_plan_settings", {})
        return found

    async def get_plan(self, site_id: int) -> PlanOut:
        """A site's plan."""
        found: PlanOut = await self._call("get_plan", {"site_id": site_id})
        return found

    async def change_plan(self, site_id: int, body: PlanBody, version: int | None = None) -> PlanOut:
        """Change a plan; future runs use it."""
        found: PlanOut = await self._call("change_plan", {"site_id": site_id}, version=version, body=body)
        return found

    async def preview_plan(self, site_id: int, body: PreviewBody) -> list[PreviewRow]:
        """Try values of a plan on URLs before saving them."""
        found: list[PreviewRow] = await self._call("preview_plan", {"site_id": site_id}, body=body)
        return found

    async def get_plan_toml(self, site_id: int) -> PlanToml:
        """A plan as TOML: the settings that differ from their defaults."""
        found: PlanToml = await self._call("get_plan_toml", {"site_id": site_id})
        return found

    async def replace_plan(self, site_id: int, body: PlanToml) -> PlanOut:
        """Replace a plan by one in TOML; settings it does not name get their defaults."""
        found: PlanOut = await self._call("replace_plan", {"site_id": site_id}, body=body)
        return found

    async def copy_plan(self, site_id: int, body: PlanCopy) -> PlanOut:
        """Copy another site's plan, except what belongs to that site alone."""
        found: PlanOut = await self._call("copy_plan", {"site_id": site_id}, body=body)
        return found

    async def get_access(self, site_id: int) -> AccessOut:
        """What kinds of access a site has; never a secret."""
        found: AccessOut = await self._call("get_access", {"site_id": site_id})
        return found

    async def set_access(self, site_id: int, body: AccessBody) -> AccessOut:
        """Keep what opens a site: a password, headers, cookies. They are sealed, and sent to the site's own hosts alone."""
        found: AccessOut = await self._call("set_access", {"site_id": site_id}, body=body)
        return found

    async def remove_access(self, site_id: int) -> None:
        """Forget what opens a site."""
        await self._call("remove_access", {"site_id": site_id})
