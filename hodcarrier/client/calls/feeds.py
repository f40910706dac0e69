"""Calls about feeds, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.wire.feeds import DomainHistory, FigureFeedBody, FigureFeedChange, FigureFeedOut


class Feeds(SyncCalls):
    """Calls about feeds."""

    def list_figure_feeds(self, site_id: int | None = None) -> list[FigureFeedOut]:
        """Feeds of figures with how they fare, of one site or of all."""
        found: list[FigureFeedOut] = self._call("list_figure_feeds", {}, query={"site_id": site_id})
        return found

    def add_figure_feed(self, site_id: int, body: FigureFeedBody) -> FigureFeedOut:
        """Make a feed of figures, which is asked at once and then daily. Its token is kept sealed."""
        found: FigureFeedOut = self._call("add_figure_feed", {"site_id": site_id}, body=body)
        return found

    def change_figure_feed(self, feed_id: int, body: FigureFeedChange) -> FigureFeedOut:
        """Change a feed of figures, or switch it off."""
        found: FigureFeedOut = self._call("change_figure_feed", {"feed_id": feed_id}, body=body)
        return found

    def remove_figure_feed(self, feed_id: int) -> None:
        """Remove a feed of figures; what it brought stays."""
        self._call("remove_figure_feed", {"feed_id": feed_id})

    def pull_figure_feed(self, feed_id: int) -> FigureFeedOut:
        """Have a feed asked now."""
        found: FigureFeedOut = self._call("pull_figure_feed", {"feed_id": feed_id})
        return found

    def get_domain(self, site_id: int) -> DomainHistory:
        """What the registry says of a site's domain, now and before."""
        found: DomainHistory = self._call("get_domain", {"site_id": site_id})
        return found


class AsyncFeeds(AsyncCalls):
    """Calls about feeds."""

    async def list_figure_feeds(self, site_id: int | None = None) -> list[FigureFeedOut]:
        """Feeds of figures with how they fare, of one site or of all."""
        found: list[FigureFeedOut] = await self._call("list_figure_feeds", {}, query={"site_id": site_id})
        return found

    async def add_figure_feed(self, site_id: int, body: FigureFeedBody) -> FigureFeedOut:
        """Make a feed of figures, which is asked at once and then daily. Its token is kept sealed."""
        found: FigureFeedOut = await self._call("add_figure_feed", {"site_id": site_id}, body=body)
        return found

    async def change_figure_feed(self, feed_id: int, body: FigureFeedChange) -> FigureFeedOut:
        """Change a feed of figures, or switch it off."""
        found: FigureFeedOut = await self._call("change_figure_feed", {"feed_id": feed_id}, body=body)
        return found

    async def remove_figure_feed(self, feed_id: int) -> None:
        """Remove a feed of figures; what it brought stays."""
        await self._call("remove_figure_feed", {"feed_id": feed_id})

    async def pull_figure_feed(self, feed_id: int) -> FigureFeedOut:
        """Have a feed asked now."""
        found: FigureFeedOut = await self._call("pull_figure_feed", {"feed_id": feed_id})
        return found

    async def get_domain(self, site_id: int) -> DomainHistory:
        """What the registry says of a site's domain, now and before."""
        found: DomainHistory = await self._call("get_domain", {"site_id": site_id})
        return found
