"""``hodcarrier log list``: who did what."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.service import connect, find_member, limit, noun, read_day, show_first, verb

ROWS = 50
COLUMNS = [("at", "When (UTC)"), ("who", "Who"), ("action", "What"), ("subject", "Of what")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "log", "who did what")
    listed = verb(verbs, "list", "what was done, the latest first", run_list)
    listed.add_argument("--who", help="only what this member did")
    listed.add_argument("--text", default="", help="only what has all these words in it")
    listed.add_argument("--from", dest="from_day", help="YYYY-MM-DD")
    listed.add_argument("--to", dest="to_day", help="YYYY-MM-DD")
    listed.add_argument("--limit", type=limit, help=f"rows at most (default: {ROWS}, or all for csv and json)")


def run_list(args: argparse.Namespace) -> int:
    """Print the log."""
    with connect(args) as desk:
        who = find_member(desk, args.who).id if args.who else None
        from_day, to_day = (read_day(day) if day else None for day in (args.from_day, args.to_day))
        rows = desk.list_log(who, args.text, from_day, to_day)
        return show_first(args, rows, ROWS, COLUMNS, "Nothing like that was done.")
