"""Sitemaps made from a run: seen beforehand, downloaded, and fetched by the site itself from an address with a secret in it."""

from __future__ import annotations

import gzip
import io
import secrets
import zipfile
from collections.abc import Iterator, Sequence

from sqlalchemy import select

from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import InventoryKind
from hodcarrier.core.web.sitemap_writer import Listing, Written, write_files
from hodcarrier.core.web.urls import split
from hodcarrier.register.models import Member, Site, SitemapFeed
from hodcarrier.runfile.sitemap_source import listings, text_hashes
from hodcarrier.usecases.earlier_runs import each_earlier, requested_at
from hodcarrier.usecases.inventory import filter_of
from hodcarrier.usecases.passwords import hash_secret
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run_id, log
from hodcarrier.wire.sitemaps import PublishedSitemap, SitemapOptions, SitemapPart, SitemapPreview

RUNS_BACK = 12
SHOWN_CHARS = 4_000


def _files(work: Workspace, run_id: str, options: SitemapOptions) -> tuple[list[Written], int, int]:
    """The files of a sitemap, how many pages they list, and of how many the last change is known."""
    chosen = filter_of(InventoryKind.PAGE, options.where)
    changed = _changes(work, run_id)
    pages = dated = 0

    with work.open_run(run_id) as opened:
        start = split(opened.plan.start[0]).origin

        def counted() -> Iterator[Listing]:
            nonlocal pages, dated
            for listing in listings(opened, chosen, changed, images=options.images, versions=options.versions):
                pages += 1
                dated += bool(listing.lastmod)
                yield listing

        return write_files(counted(), f"{start}/", packed=options.packed), pages, dated


def _changes(work: Workspace, run_id: str) -> dict[str, str]:
    """The day on which a run first met the main text of each page as it is now, where a run before it met another one."""
    with work.open_run(run_id) as opened:
        now = text_hashes(opened)
    as_it_is = dict.fromkeys(now, requested_at(work, run_id).date().isoformat())
    found: dict[str, str] = {}
    for at, then in each_earlier(work, run_id, RUNS_BACK, text_hashes):
        for url in as_it_is.keys() - found.keys():
            if then.get(url) == now[url]:
                as_it_is[url] = at.date().isoformat()
            elif url in then:
                found[url] = as_it_is[url]
    return found


def preview_sitemap(work: Workspace, run_id: str, options: SitemapOptions) -> SitemapPreview:
    """A sitemap as it would be written. Raises :class:`InvalidInput` for a filter that cannot be read."""
    files, pages, dated = _files(work, run_id, options)
    first = files[1] if len(files) > 1 else files[0]
    body = gzip.decompress(first.body) if first.name.endswith(".gz") else first.body
    text = body[:SHOWN_CHARS].decode("utf-8", "ignore")
    return SitemapPreview(
        pages=pages,
        dated=dated,
        files=[SitemapPart(name=file.name, entries=file.entries, size_bytes=len(file.body)) for file in files],
        text=text.rpartition("\n")[0] + "\n",
    )


def export_sitemap(work: Workspace, run_id: str, options: SitemapOptions) -> Written:
    """The sitemap as one document: the file itself, or an archive of several."""
    files, pages, _ = _files(work, run_id, options)
    return files[0] if len(files) == 1 else Written("sitemap.zip", _archive(files), pages)


def _archive(files: Sequence[Written]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for file in files:
            archive.writestr(zipfile.ZipInfo(file.name), file.body)
    return out.getvalue()


def get_published_sitemap(work: Workspace, site_id: int) -> PublishedSitemap:
    """The sitemap that a site may fetch. Raises :class:`NotFound` when there is none."""
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        return _published(_feed_of(session.get(SitemapFeed, site.id), site))


def _feed_of(feed: SitemapFeed | None, site: Site) -> SitemapFeed:
    if feed is None:
        raise NotFound(f"No sitemap of {site.host} is published.", "Publish one to get an address for it.")
    return feed


def _published(feed: SitemapFeed, url: str | None = None) -> PublishedSitemap:
    options = SitemapOptions(where=feed.where, images=feed.images, versions=feed.versions, packed=feed.packed)
    return PublishedSitemap(options=options, created_at=feed.created_at, read_at=feed.read_at, url=url)


def publish_sitemap(work: Workspace, site_id: int, options: SitemapOptions, member: Member) -> PublishedSitemap:
    """Give a site an address from which it may fetch a sitemap of its latest run. Its address is in this answer and never again; an earlier one ends.
    Raises :class:`InvalidInput` for a filter that cannot be read."""
    filter_of(InventoryKind.PAGE, options.where)
    secret = secrets.token_urlsafe(32)
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        feed = session.get(SitemapFeed, site_id) or SitemapFeed(site_id=site_id)
        feed.secret_hash, feed.created_at, feed.read_at = hash_secret(secret), work.now(), None
        feed.where, feed.images, feed.versions, feed.packed = options.where, options.images, options.versions, options.packed
        session.add(feed)
        session.flush()
        log(session, work.now(), member.id, "sitemap published", site.host)
        return _published(feed, f"{work.address.rstrip('/')}/sitemaps/{secret}/sitemap.xml")


def withdraw_sitemap(work: Workspace, site_id: int, member: Member) -> None:
    """End the address from which a site fetches its sitemap. Raises :class:`NotFound` when there is none."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        session.delete(_feed_of(session.get(SitemapFeed, site_id), site))
        log(session, work.now(), member.id, "sitemap withdrawn", site.host)


def read_published(work: Workspace, secret: str, name: str) -> Written:
    """A file of a published sitemap, made from the latest run of its site. Raises :class:`NotFound` for an address or a file that there is not."""
    with work.session() as session:
        feed = session.scalar(select(SitemapFeed).where(SitemapFeed.secret_hash == hash_secret(secret)))
        if feed is None:
            raise NotFound("There is no such sitemap.", "Publish it anew under Structure.")
        feed.read_at = work.now()
        options = _published(feed).options
        run_id = latest_run_id(session, feed.site_id)
    files, *_ = _files(work, run_id, options)
    found = next((file for file in files if file.name == name), None)
    if found is None:
        raise NotFound(f"The sitemap has no file {name}.", "Begin with its first file.")
    return found
