"""``hodcarrier client list|add|edit|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import count, emit, err
from hodcarrier.cli.service import ask, connect, noun, read_day, show, the_one_called, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.wire.clients import ClientBody, ClientChange, ClientOut


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "client", "the agency's clients")
    verb(verbs, "list", "all clients", run_list)
    added = verb(verbs, "add", "add a client", run_add)
    added.add_argument("name")
    edited = verb(verbs, "edit", "rename a client, or set its holidays", run_edit)
    edited.add_argument("name", help="name or id")
    edited.add_argument("--rename", metavar="NAME")
    edited.add_argument(
        "--holiday", action="append", metavar="DAY", help="a day that is no working day (repeat; replaces the list)"
    )
    removed = verb(verbs, "remove", "remove a client and everything kept for it", run_remove)
    removed.add_argument("name")
    removed.add_argument("--yes", action="store_true", help="do not ask")


def run_list(args: argparse.Namespace) -> int:
    """Print the clients."""
    with connect(args) as desk:
        rows = desk.list_clients()
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
        return show(args, desk.add_client(ClientBody(name=args.name)), [("id", "Id"), ("name", "Client")])


def _find(desk: Hodcarrier, key: str) -> ClientOut:
    return the_one_called(desk.list_clients(), key, "client")


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    days = None if args.holiday is None else [read_day(day) for day in args.holiday]
    given: dict[str, Any] = {"name": args.rename, "holidays": days}
    with connect(args) as desk:
        changed = desk.change_client(
            _find(desk, args.name).id, ClientChange(**{name: value for name, value in given.items() if value is not None})
        )
        return show(args, changed, [("id", "Id"), ("name", "Client"), ("holidays", "Holidays")])


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        found = _find(desk, args.name)
        ask(
            f"Remove {found.name} with its {count(len(found.sites), 'site')} and everything kept for them? This cannot be undone.",
            args.yes,
        )
        desk.remove_client(found.id)
    err.print(f"Removed {found.name}.")
    return 0
