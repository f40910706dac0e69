"""Calls about profiles, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.profiles import ProfileBody, ProfileChange, ProfileOut


class Profiles(SyncCalls):
    """Calls about profiles."""

    def list_profiles(self) -> list[ProfileOut]:
        """Profiles with the sites that use them."""
        found: list[ProfileOut] = self._call("list_profiles", {})
        return found

    def get_profile(self, profile_id: int) -> ProfileOut:
        """A profile: what it switches off, limits and severities."""
        found: ProfileOut = self._call("get_profile", {"profile_id": profile_id})
        return found

    def add_profile(self, body: ProfileBody) -> ProfileOut:
        """Add a profile."""
        found: ProfileOut = self._call("add_profile", {}, body=body)
        return found

    def change_profile(self, profile_id: int, body: ProfileChange, version: int | None = None) -> ProfileOut:
        """Change a profile; future runs of its sites use it."""
        found: ProfileOut = self._call("change_profile", {"profile_id": profile_id}, version=version, body=body)
        return found

    def remove_profile(self, profile_id: int) -> None:
        """Remove a profile that no site uses."""
        self._call("remove_profile", {"profile_id": profile_id})


class AsyncProfiles(AsyncCalls):
    """Calls about profiles."""

    async def list_profiles(self) -> list[ProfileOut]:
        """Profiles with the sites that use them."""
        found: list[ProfileOut] = await self._call("list_profiles", {})
        return found

    async def get_profile(self, profile_id: int) -> ProfileOut:
        """A profile: what it switches off, limits and severities."""
        found: ProfileOut = await self._call("get_profile", {"profile_id": profile_id})
        return found

    async def add_profile(self, body: ProfileBody) -> ProfileOut:
        """Add a profile."""
        found: ProfileOut = await self._call("add_profile", {}, body=body)
        return found

    async def change_profile(self, profile_id: int, body: ProfileChange, version: int | None = None) -> ProfileOut:
        """Change a profile; future runs of its sites use it."""
        found: ProfileOut = await self._call("change_profile", {"profile_id": profile_id}, version=version, body=body)
        return found

    async def remove_profile(self, profile_id: int) -> None:
        """Remove a profile that no site uses."""
        await self._call("remove_profile", {"profile_id": profile_id})
