"""Calls about files, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.files import RetentionBody, RetentionOut


class Files(SyncCalls):
    """Calls about files."""

    def get_retention(self, weeks: int = 26) -> RetentionOut:
        """What keeping the files of so many weeks, and then one a month, would free."""
        found: RetentionOut = self._call("get_retention", {}, query={"weeks": weeks})
        return found

    def apply_retention(self, body: RetentionBody) -> RetentionOut:
        """Remove the files that a rule of retention lets go. The runs keep their figures."""
        found: RetentionOut = self._call("apply_retention", {}, body=body)
        return found


class AsyncFiles(AsyncCalls):
    """Calls about files."""

    async def get_retention(self, weeks: int = 26) -> RetentionOut:
        """What keeping the files of so many weeks, and then one a month, would free."""
        found: RetentionOut = await self._call("get_retention", {}, query={"weeks": weeks})
        return found

    async def apply_retention(self, body: RetentionBody) -> RetentionOut:
        """Remove the files that a rule of retention lets go. The runs keep their figures."""
        found: RetentionOut = await self._call("apply_retention", {}, body=body)
        return found
