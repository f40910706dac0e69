"""``hodcarrier calendar list|add|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import connect, find_client, noun, show, verb
from hodcarrier.wire.members import FeedBody

COLUMNS = [("id", "Id"), ("client_name", "Client"), ("created_at", "Made (UTC)"), ("read_at", "Last read (UTC)")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "calendar", "due dates in your own calendar program")
    verb(verbs, "list", "your calendar feeds", run_list)
    added = verb(verbs, "add", "make a feed; its address is shown once", run_add)
    added.add_argument("--client", help="all to-dos of this client; left out: those that you do or watch")
    removed = verb(verbs, "remove", "remove a feed of yours: its address answers no more", run_remove)
    removed.add_argument("id", type=int)


def run_list(args: argparse.Namespace) -> int:
    """Print the feeds."""
    with connect(args) as desk:
        return show(args, desk.list_feeds(), COLUMNS, "You have no calendar feed.")


def run_add(args: argparse.Namespace) -> int:
    """Make one."""
    with connect(args) as desk:
        feed = desk.add_feed(FeedBody(client_id=find_client(desk, args.client).id if args.client else None))
    if args.format != "table":
        return show(args, feed, [*COLUMNS, ("url", "Address")])
    print(feed.url)
    err.print("Subscribe to it in your calendar program. Who has the address can read the feed; it is not shown again.")
    return 0


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        desk.remove_feed(args.id)
    err.print(f"Feed {args.id} is removed.")
    return 0
