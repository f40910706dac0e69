"""Sitemaps made from a run."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from hodcarrier.wire.base import Wire


class SitemapOptions(Wire):
    """What a sitemap lists: the pages that a filter of the inventory lets through, with their images and versions in other languages if wanted."""

    where: str = Field(default="indexable", max_length=2_000)
    images: bool = False
    versions: bool = True
    packed: bool = False


class SitemapPart(Wire):
    """A file of a sitemap."""

    name: str
    entries: int
    size_bytes: int


class SitemapPreview(Wire):
    """A sitemap as it would be written: its files, the one to name in robots.txt first, and how the first part begins."""

    pages: int
    dated: int
    files: list[SitemapPart]
    text: str


class PublishedSitemap(Wire):
    """The address under which a site may fetch its sitemap, made anew from its latest run; ``url`` is told once, when it is made."""

    options: SitemapOptions
    created_at: datetime
    read_at: datetime | None
    url: str | None = None
