"""Calls about sitemaps, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.sitemaps import PublishedSitemap, SitemapOptions, SitemapPreview


class Sitemaps(SyncCalls):
    """Calls about sitemaps."""

    def preview_sitemap(
        self, run_id: str, where: str = "indexable", images: bool = False, versions: bool = True, packed: bool = False
    ) -> SitemapPreview:
        """A sitemap made from a run: how many pages, which files, how it begins."""
        found: SitemapPreview = self._call(
            "preview_sitemap",
            {"run_id": run_id},
            query={"where": where, "images": images, "versions": versions, "packed": packed},
        )
        return found

    def export_sitemap(
        self, run_id: str, where: str = "indexable", images: bool = False, versions: bool = True, packed: bool = False
    ) -> bytes:
        """The sitemap as XML, or its files as a ZIP archive where there are several."""
        found: bytes = self._call(
            "export_sitemap", {"run_id": run_id}, query={"where": where, "images": images, "versions": versions, "packed": packed}
        )
        return found

    def get_published_sitemap(self, site_id: int) -> PublishedSitemap:
        """The sitemap that a site may fetch; 404 when there is none."""
        found: PublishedSitemap = self._call("get_published_sitemap", {"site_id": site_id})
        return found

    def publish_sitemap(self, site_id: int, body: SitemapOptions) -> PublishedSitemap:
        """Give a site an address from which it may fetch a sitemap of its latest run; an earlier address ends."""
        found: PublishedSitemap = self._call("publish_sitemap", {"site_id": site_id}, body=body)
        return found

    def withdraw_sitemap(self, site_id: int) -> None:
        """End the address from which a site fetches its sitemap."""
        self._call("withdraw_sitemap", {"site_id": site_id})


class AsyncSitemaps(AsyncCalls):
    """Calls about sitemaps."""

    async def preview_sitemap(
        self, run_id: str, where: str = "indexable", images: bool = False, versions: bool = True, packed: bool = False
    ) -> SitemapPreview:
        """A sitemap made from a run: how many pages, which files, how it begins."""
        found: SitemapPreview = await self._call(
            "preview_sitemap",
            {"run_id": run_id},
            query={"where": where, "images": images, "versions": versions, "packed": packed},
        )
        return found

    async def export_sitemap(
        self, run_id: str, where: str = "indexable", images: bool = False, versions: bool = True, packed: bool = False
    ) -> bytes:
        """The sitemap as XML, or its files as a ZIP archive where there are several."""
        found: bytes = await self._call(
            "export_sitemap", {"run_id": run_id}, query={"where": where, "images": images, "versions": versions, "packed": packed}
        )
        return found

    async def get_published_sitemap(self, site_id: int) -> PublishedSitemap:
        """The sitemap that a site may fetch; 404 when there is none."""
        found: PublishedSitemap = await self._call("get_published_sitemap", {"site_id": site_id})
        return found

    async def publish_sitemap(self, site_id: int, body: SitemapOptions) -> PublishedSitemap:
        """Give a site an address from which it may fetch a sitemap of its latest run; an earlier address ends."""
        found: PublishedSitemap = await self._call("publish_sitemap", {"site_id": site_id}, body=body)
        return found

    async def withdraw_sitemap(self, site_id: int) -> None:
        """End the address from which a site fetches its sitemap."""
        await self._call("withdraw_sitemap", {"site_id": site_id})
