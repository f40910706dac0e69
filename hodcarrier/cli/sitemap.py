"""``hodcarrier sitemap show|write|publish|published|withdraw``: sitemaps made from a run."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import count, emit, err, out
from hodcarrier.cli.service import connect, find_site, noun, run_of, save_file, show, verb
from hodcarrier.wire.sitemaps import SitemapOptions

FILE_COLUMNS = [("name", "File"), ("entries", "Entries"), ("size_bytes", "Bytes")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "sitemap", "sitemaps made from a run")
    shown = verb(verbs, "show", "which files a sitemap would have, and how it begins", _run_show)
    shown.add_argument("run_id", metavar="RUN")
    written = verb(verbs, "write", "write a sitemap to a file", _run_write)
    written.add_argument("run_id", metavar="RUN")
    written.add_argument("file", type=Path, help="a ZIP archive is written where the sitemap has several files")
    published = verb(verbs, "publish", "give a site an address from which it may fetch a sitemap of its latest run", _run_publish)
    published.add_argument("site")
    for parser in (shown, written, published):
        parser.add_argument("--where", default="indexable", metavar="FILTER", help="which pages (default: indexable)")
        parser.add_argument("--images", action="store_true", help="list images too")
        parser.add_argument("--no-versions", action="store_true", help="leave versions in other languages out")
        parser.add_argument("--packed", action="store_true", help="compress the parts of an index by gzip")
    known = verb(verbs, "published", "the sitemap that a site may fetch", _run_published)
    known.add_argument("site")
    withdrawn = verb(verbs, "withdraw", "end the address from which a site fetches its sitemap", _run_withdraw)
    withdrawn.add_argument("site")


def _options(args: argparse.Namespace) -> SitemapOptions:
    return SitemapOptions(where=args.where, images=args.images, versions=not args.no_versions, packed=args.packed)


def _run_show(args: argparse.Namespace) -> int:
    options = _options(args)
    with connect(args) as desk:
        found = desk.preview_sitemap(run_of(desk, args.run_id), options.where, options.images, options.versions, options.packed)
    if args.format == "json":
        return show(args, found, [])
    emit([file.model_dump() for file in found.files], args.format, FILE_COLUMNS)
    if args.format == "table":
        err.print(f"{count(found.pages, 'page')}, {found.dated:,} with the day of the last change")
        out.print(found.text, markup=False, highlight=False, soft_wrap=True)
    return 0


def _run_write(args: argparse.Namespace) -> int:
    options = _options(args)
    with connect(args) as desk:
        document = desk.export_sitemap(run_of(desk, args.run_id), options.where, options.images, options.versions, options.packed)
    return save_file(args.file, document)


def _run_publish(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.publish_sitemap(find_site(desk, args.site).id, _options(args))
    if args.format != "table":
        return show(args, found, [])
    out.print(found.url, markup=False, highlight=False, soft_wrap=True)
    err.print("Keep it now; it is not shown again. An earlier address has ended.")
    return 0


def _run_published(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        found = desk.get_published_sitemap(find_site(desk, args.site).id)
    if args.format == "json":
        return show(args, found, [])
    row = {**found.model_dump(), **found.options.model_dump()}
    emit(
        [row],
        args.format,
        [("created_at", "Published"), ("read_at", "Fetched"), ("where", "Pages"), ("images", "Images"), ("versions", "Versions")],
    )
    return 0


def _run_withdraw(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        desk.withdraw_sitemap(find_site(desk, args.site).id)
    err.print("The address answers no more.")
    return 0
