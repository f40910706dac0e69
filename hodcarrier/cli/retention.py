"""``hodcarrier retention show|apply``: which run files are kept, and what letting the others go frees."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import count, err
from hodcarrier.cli.service import ask, connect, noun, show, verb
from hodcarrier.wire.files import RetentionBody, RetentionOut

COLUMNS = [("run_id", "Run"), ("site_host", "Site"), ("requested_at", "When (UTC)"), ("size_bytes", "Bytes")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "retention", "which run files are kept")
    shown = verb(verbs, "show", "what a rule would free; nothing is removed", run_show)
    applied = verb(verbs, "apply", "remove the files that a rule lets go; the runs keep their figures (owners)", run_apply)
    for parser in (shown, applied):
        parser.add_argument(
            "--weeks",
            type=int,
            default=26,
            metavar="N",
            help="keep all of the last N weeks, then one a month; always the first, the last two and those that reports name (default 26)",
        )
    applied.add_argument("--yes", action="store_true", help="do not ask")


def run_show(args: argparse.Namespace) -> int:
    """Print what would go."""
    with connect(args) as desk:
        found = desk.get_retention(weeks=args.weeks)
    if args.format != "table":
        return show(args, found if args.format == "json" else found.removable, COLUMNS)
    code = show(args, found.removable, COLUMNS, "This rule lets no file go.")
    err.print(f"{_words(found)} would be removed; {count(found.kept, 'file')} ({_mib(found.kept_bytes)}) stay.")
    return code


def run_apply(args: argparse.Namespace) -> int:
    """Remove them."""
    with connect(args) as desk:
        found = desk.get_retention(weeks=args.weeks)
        if not found.removable:
            err.print("This rule lets no file go.")
            return 0
        ask(f"Remove {_words(found)}? The runs keep their figures; their pages and findings cannot be opened again.", args.yes)
        removed = desk.apply_retention(RetentionBody(weeks=args.weeks))
    err.print(f"{_words(removed)} removed.")
    return 0


def _mib(size_bytes: int) -> str:
    return f"{size_bytes / 1024**2:,.1f} MiB"


def _words(found: RetentionOut) -> str:
    return f"{count(len(found.removable), 'file')} ({_mib(found.removable_bytes)})"
