"""``hodcarrier position list`` and ``hodcarrier link from``: where a site stands, and who links to it."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, out
from hodcarrier.cli.service import add_save, connect, find_site, limit, noun, save_file, say_more, show, table_form_of, verb
from hodcarrier.core.states import BacklinkState

POSITIONS = [
    ("keyword", "Keyword"),
    ("device", "Device"),
    ("place", "Place"),
    ("rank", "Position"),
    ("before", "Before"),
    ("change", "Change"),
    ("best", "Best"),
    ("best_on", "Reached"),
    ("page", "Page"),
    ("above", "Above"),
]
BACKLINKS = [
    ("source_page", "From"),
    ("page", "To"),
    ("status", "Status"),
    ("anchor", "Text"),
    ("rel", "rel"),
    ("first_seen", "First seen"),
    ("lost_on", "Lost"),
]


def add_parser(commands: Any) -> None:
    """Describe ``position``."""
    listed = verb(
        noun(commands, "position", "where a site stands for its keywords"), "list", "keywords with their positions", run_positions
    )
    listed.add_argument("site")
    listed.add_argument("--weeks", type=int, default=4, help="how far back to compare (default: 4)")
    listed.add_argument("--device", default="", help="positions on this device only")
    listed.add_argument("--place", default="", help="positions from this place only")
    listed.add_argument("--text", default="", help="only keywords with this in them")
    listed.add_argument("--moved", action="store_true", help="only keywords whose position differs")
    listed.add_argument("--limit", type=limit, default=25, help="how many (default: 25)")
    add_save(listed)


def add_links_from(verbs: Any) -> None:
    """Describe ``link from``."""
    listed = verb(verbs, "from", "links from other sites to a site", run_backlinks)
    listed.add_argument("site")
    listed.add_argument(
        "--state", type=BacklinkState, choices=list(BacklinkState), default=BacklinkState.LIVE, help="default: live"
    )
    listed.add_argument("--weeks", type=int, default=4, help="new and lost in so many weeks (default: 4)")
    listed.add_argument("--text", default="", help="only links with this in one of the pages or in the text")
    listed.add_argument("--limit", type=limit, default=25, help="how many (default: 25)")
    add_save(listed)


def run_positions(args: argparse.Namespace) -> int:
    """Print keywords."""
    asked = {name: getattr(args, name) for name in ("weeks", "device", "place", "text", "moved")}
    with connect(args) as desk:
        site_id = find_site(desk, args.site).id
        if args.save:
            return save_file(args.save, desk.export_positions(site_id, table_form_of(args.save), **asked))
        found = desk.get_positions(site_id, **asked, limit=args.limit)
    if args.format == "json":
        return show(args, found, POSITIONS)
    rows = [
        {
            **row.model_dump(mode="json"),
            "rank": row.rank if row.rank is not None else "not found",
            "change": "" if row.change is None else f"{row.change:+d}".replace("-", "−"),
            "above": ", ".join(f"{each.host} {each.rank}" for each in row.above),
        }
        for row in found.items
    ]
    if args.format == "table" and found.last is not None:
        spread = ", ".join(f"{band.band}: {band.now:,} (before: {band.before:,})" for band in found.bands)
        out.print(f"{found.first:%d %b %Y} to {found.last:%d %b %Y}. {spread}", markup=False)
    emit(rows, args.format, POSITIONS, "There are no positions like this. Import some with `hodcarrier metric import SITE FILE`.")
    if args.format == "table":
        say_more(len(rows), found.total)
    return 0


def run_backlinks(args: argparse.Namespace) -> int:
    """Print links."""
    with connect(args) as desk:
        site, asked = find_site(desk, args.site).id, {"state": args.state, "weeks": args.weeks, "text": args.text}
        if args.save:
            return save_file(args.save, desk.export_backlinks(site, table_form_of(args.save), **asked))
        found = desk.get_backlinks(site, **asked, limit=args.limit)
    if args.format == "json":
        return show(args, found, BACKLINKS)
    if args.format == "table" and found.since is not None:
        known = found.domains
        out.print(
            f"{known['live']:,} domains link here; since {found.since:%d %b %Y}, {known['new']:,} are new and {known['lost']:,} lost.",
            markup=False,
        )
    rows = [row.model_dump(mode="json") for row in found.items]
    emit(rows, args.format, BACKLINKS, "There are no links like this.")
    if args.format == "table":
        say_more(len(rows), found.total)
    return 0
