"""``hodcarrier waiver list|add|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import connect, find_site, noun, read_day, show, verb
from hodcarrier.wire.waivers import WaiverBody

COLUMNS = [
    ("id", "Id"),
    ("check", "Check"),
    ("pattern", "Where"),
    ("reason", "Reason"),
    ("author", "By"),
    ("end", "Until"),
    ("in_force", "In force"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "waiver", "findings judged not to matter")
    listed = verb(verbs, "list", "waivers of a site", run_list)
    listed.add_argument("site")
    added = verb(verbs, "add", "waive a check on a site, a page or a pattern", run_add)
    added.add_argument("site")
    added.add_argument("check")
    added.add_argument("--reason", required=True)
    added.add_argument("--pattern", default="", help="a page's address, or a glob such as https://shop.example/old/*")
    added.add_argument("--end", help="last day, YYYY-MM-DD")
    removed = verb(verbs, "remove", "end a waiver", run_remove)
    removed.add_argument("id", type=int)


def run_list(args: argparse.Namespace) -> int:
    """Print waivers."""
    with connect(args) as desk:
        return show(args, desk.list_waivers(find_site(desk, args.site).id), COLUMNS, "Nothing is waived on this site.")


def run_add(args: argparse.Namespace) -> int:
    """Add one."""
    with connect(args) as desk:
        body = WaiverBody(
            check=args.check, reason=args.reason, pattern=args.pattern, end=read_day(args.end) if args.end else None
        )
        return show(args, desk.add_waiver(find_site(desk, args.site).id, body), COLUMNS)


def run_remove(args: argparse.Namespace) -> int:
    """End one."""
    with connect(args) as desk:
        desk.remove_waiver(args.id)
    err.print(f"Waiver {args.id} is ended; the next run counts its findings again.")
    return 0
