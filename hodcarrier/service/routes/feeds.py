"""Feeds of figures, and what registries say of domains."""

from __future__ import annotations

from fastapi import APIRouter

from hodcarrier.service.deps import Configured, Work
from hodcarrier.service.guard import Asker, serves
from hodcarrier.service.outside import FEED, checked_target
from hodcarrier.usecases import domain_records, figure_feeds
from hodcarrier.wire.feeds import DomainHistory, FigureFeedBody, FigureFeedChange, FigureFeedOut

router = APIRouter()


@serves(router, "list_figure_feeds")
def list_figure_feeds(work: Work, site_id: int | None = None) -> list[FigureFeedOut]:
    return figure_feeds.list_figure_feeds(work, site_id)


@serves(router, "add_figure_feed")
def add_figure_feed(site_id: int, body: FigureFeedBody, work: Work, settings: Configured, member: Asker) -> FigureFeedOut:
    url = checked_target(body.url, settings.allow_private, FEED)
    return figure_feeds.add_figure_feed(work, site_id, body.model_copy(update={"url": url}), member)


@serves(router, "change_figure_feed")
def change_figure_feed(feed_id: int, body: FigureFeedChange, work: Work, settings: Configured, member: Asker) -> FigureFeedOut:
    if body.url is not None:
        body = body.model_copy(update={"url": checked_target(body.url, settings.allow_private, FEED)})
    return figure_feeds.change_figure_feed(work, feed_id, body, member)


@serves(router, "remove_figure_feed")
def remove_figure_feed(feed_id: int, work: Work, member: Asker) -> None:
    figure_feeds.remove_figure_feed(work, feed_id, member)


@serves(router, "pull_figure_feed")
def pull_figure_feed(feed_id: int, work: Work) -> FigureFeedOut:
    return figure_feeds.pull_figure_feed(work, feed_id)


@serves(router, "get_domain")
def get_domain(site_id: int, work: Work, settings: Configured) -> DomainHistory:
    return domain_records.get_domain(work, site_id, asks=bool(settings.registry))
