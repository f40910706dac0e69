"""Calls about structure, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import BranchKind
from hodcarrier.wire.site_files import SiteFileOut
from hodcarrier.wire.structure import FixesBody, FixesOut, StructureOut, TemplateLinksOut


class Structure(SyncCalls):
    """Calls about structure."""

    def get_structure(self, run_id: str, by: BranchKind = BranchKind.FOLDER, below: str = "/") -> StructureOut:
        """The pages of a run by folder, host, language or template, with figures of each."""
        found: StructureOut = self._call("get_structure", {"run_id": run_id}, query={"by": by, "below": below})
        return found

    def get_template_links(self, run_id: str) -> TemplateLinksOut:
        """How the templates of a run link to one another."""
        found: TemplateLinksOut = self._call("get_template_links", {"run_id": run_id})
        return found

    def list_site_files(self, run_id: str) -> list[SiteFileOut]:
        """robots.txt, sitemaps and certificates as a run met them, and since when they are so."""
        found: list[SiteFileOut] = self._call("list_site_files", {"run_id": run_id})
        return found

    def plan_fixes(self, run_id: str, body: FixesBody) -> FixesOut:
        """What checks and causes would bring if they were fixed together; nothing is stored."""
        found: FixesOut = self._call("plan_fixes", {"run_id": run_id}, body=body)
        return found


class AsyncStructure(AsyncCalls):
    """Calls about structure."""

    async def get_structure(self, run_id: str, by: BranchKind = BranchKind.FOLDER, below: str = "/") -> StructureOut:
        """The pages of a run by folder, host, language or template, with figures of each."""
        found: StructureOut = await self._call("get_structure", {"run_id": run_id}, query={"by": by, "below": below})
        return found

    async def get_template_links(self, run_id: str) -> TemplateLinksOut:
        """How the templates of a run link to one another."""
        found: TemplateLinksOut = await self._call("get_template_links", {"run_id": run_id})
        return found

    async def list_site_files(self, run_id: str) -> list[SiteFileOut]:
        """robots.txt, sitemaps and certificates as a run met them, and since when they are so."""
        found: list[SiteFileOut] = await self._call("list_site_files", {"run_id": run_id})
        return found

    async def plan_fixes(self, run_id: str, body: FixesBody) -> FixesOut:
        """What checks and causes would bring if they were fixed together; nothing is stored."""
        found: FixesOut = await self._call("plan_fixes", {"run_id": run_id}, body=body)
        return found
