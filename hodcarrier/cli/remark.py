"""``hodcarrier remark list|add|remove``."""

from __future__ import annotations

import argparse
from datetime import date
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import connect, find_site, noun, read_day, show, verb
from hodcarrier.wire.remarks import RemarkBody

COLUMNS = [("id", "Id"), ("day", "Day"), ("text", "Remark"), ("origin", "From"), ("author", "By")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "remark", "dated notes on a site's timeline")
    listed = verb(verbs, "list", "remarks of a site", run_list)
    listed.add_argument("site")
    added = verb(verbs, "add", "pin a note to a day", run_add)
    added.add_argument("site")
    added.add_argument("text")
    added.add_argument("--day", help="YYYY-MM-DD; today if left out")
    removed = verb(verbs, "remove", "take a remark away", run_remove)
    removed.add_argument("id", type=int)


def run_list(args: argparse.Namespace) -> int:
    """Print remarks."""
    with connect(args) as desk:
        return show(args, desk.list_remarks(find_site(desk, args.site).id), COLUMNS, "No remarks on this site.")


def run_add(args: argparse.Namespace) -> int:
    """Add one."""
    with connect(args) as desk:
        day = read_day(args.day) if args.day else date.today()
        return show(args, desk.add_remark(find_site(desk, args.site).id, RemarkBody(day=day, text=args.text)), COLUMNS)


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        desk.remove_remark(args.id)
    err.print(f"Removed remark {args.id}.")
    return 0
