"""``hodcarrier client list|add|edit|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import count, emit, err
from hodcarrier.cli.service import ask, connect, find_client, name_value, noun, read_day, show, verb
from hodcarrier.wire.clients import ClientBody, ClientChange


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "client", "the agency's clients")
    verb(verbs, "list", "all clients", run_list)
    added = verb(verbs, "add", "add a client", run_add)
    added.add_argument("name")
    edited = verb(verbs, "edit", "rename a client, or set its holidays and targets", run_edit)
    edited.add_argument("name", help="name or id")
    edited.add_argument("--rename", metavar="NAME")
    edited.add_argument(
        "--holiday", action="append", metavar="DAY", help="a day that is no working day (repeat; replaces the list)"
    )
    edited.add_argument(
        "--target",
        action="append",
        metavar="SEVERITY=DAYS",
        help="working days until to-dos of a severity are due (repeat; replaces the targets; a severity left out has the agency's own)",
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


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    days = None if args.holiday is None else [read_day(day) for day in args.holiday]
    targets = None if args.target is None else dict(name_value(item, "critical=2") for item in args.target)
    given: dict[str, Any] = {"name": args.rename, "holidays": days, "targets": targets}
    with connect(args) as desk:
        changed = desk.change_client(
            find_client(desk, args.name).id, ClientChange(**{name: value for name, value in given.items() if value is not None})
        )
        return show(args, changed, [("id", "Id"), ("name", "Client"), ("holidays", "Holidays"), ("targets", "Targets")])


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        found = find_client(desk, args.name)
        ask(
            f"Remove {found.name} with its {count(len(found.sites), 'site')} and everything kept for them? This cannot be undone.",
            args.yes,
        )
        desk.remove_client(found.id)
    err.print(f"Removed {found.name}.")
    return 0
