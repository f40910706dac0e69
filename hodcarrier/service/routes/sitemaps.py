"""Sitemaps made from a run."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query, Response

from hodcarrier.service.deps import Work, actual_run
from hodcarrier.service.guard import Asker, serves
from hodcarrier.usecases import sitemaps
from hodcarrier.wire.sitemaps import PublishedSitemap, SitemapOptions, SitemapPreview

router = APIRouter()
TYPES = {".gz": "application/gzip", ".xml": "application/xml", ".zip": "application/zip"}


def _options(
    where: Annotated[str, Query(max_length=2_000)] = "indexable",
    images: bool = False,
    versions: bool = True,
    packed: bool = False,
) -> SitemapOptions:
    return SitemapOptions(where=where, images=images, versions=versions, packed=packed)


Options = Annotated[SitemapOptions, Depends(_options)]


def media_type(name: str) -> str:
    """The media type of a file by the end of its name."""
    return next(kind for end, kind in TYPES.items() if name.endswith(end))


@serves(router, "preview_sitemap")
def preview_sitemap(run_id: str, work: Work, options: Options) -> SitemapPreview:
    return sitemaps.preview_sitemap(work, actual_run(work, run_id), options)


@serves(router, "export_sitemap")
def export_sitemap(run_id: str, work: Work, options: Options) -> Response:
    found = sitemaps.export_sitemap(work, actual_run(work, run_id), options)
    headers = {"Content-Disposition": f'attachment; filename="{found.name}"'}
    return Response(found.body, media_type=media_type(found.name), headers=headers)


@serves(router, "get_published_sitemap")
def get_published_sitemap(site_id: int, work: Work) -> PublishedSitemap:
    return sitemaps.get_published_sitemap(work, site_id)


@serves(router, "publish_sitemap")
def publish_sitemap(site_id: int, body: SitemapOptions, work: Work, member: Asker) -> PublishedSitemap:
    return sitemaps.publish_sitemap(work, site_id, body, member)


@serves(router, "withdraw_sitemap")
def withdraw_sitemap(site_id: int, work: Work, member: Asker) -> None:
    sitemaps.withdraw_sitemap(work, site_id, member)
