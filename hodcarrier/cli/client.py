"""``hodcarrier client list|add|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, err
from hodcarrier.cli.service import connect, noun, show, verb
from hodcarrier.core.errors import NotFound


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "client", "the agency's clients")
    verb(verbs, "list", "all clients", run_list)
    added = verb(verbs, "add", "add a client", run_add)
    added.add_argument("name")
    removed = verb(verbs, "remove", "remove a client and everything kept for it", run_remove)
    removed.add_argument("name")


def run_list(args: argparse.Namespace) -> int:
    """Print the clients."""
    with connect(args) as desk:
        rows = desk.clients()
    if args.format == "table":
        plain = [{"id": str(c.id), "name": c.name, "sites": [s.host for s in c.sites]} for c in rows]
        emit(
            plain,
            "table",
            [("id", "Id"), ("name", "Client"), ("sites", "Sites")],
            "No clients yet. Add one: hodcarrier client add NAME",
        )
        return 0
    return show(args, rows, [("id", "Id"), ("name", "Client")])


def run_add(args: argparse.Namespace) -> int:
    """Add one."""
    with connect(args) as desk:
        return show(args, desk.add_client(args.name), [("id", "Id"), ("name", "Client")])


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        found = [c for c in desk.clients() if args.name in (str(c.id), c.name)]
        if not found:
            raise NotFound(f"There is no client called “{args.name}”.", "See `hodcarrier client list`.")
        desk.remove_client(found[0].id)
    err.print(f"Removed {found[0].name}.")
    return 0
