"""``hodcarrier member list|add``."""

from __future__ import annotations

import argparse
import getpass
import sys
from typing import Any

from hodcarrier.cli.service import connect, noun, show, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.wire.people import MemberBody

COLUMNS = [
    ("id", "Id"),
    ("name", "Name"),
    ("email", "E-mail"),
    ("role", "Role"),
    ("open_todos", "To-dos"),
    ("overdue_todos", "Overdue"),
    ("active", "Active"),
]
ROLES = ("owner", "lead", "analyst", "writer", "developer", "account", "guest")


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "member", "who works here")
    verb(verbs, "list", "all members with their load", run_list)
    added = verb(verbs, "add", "add a member; the password is read from the terminal or stdin", run_add)
    added.add_argument("name")
    added.add_argument("email")
    added.add_argument("--role", choices=ROLES, default="analyst")
    added.add_argument("--client", type=int, help="id of the client, for a guest")


def run_list(args: argparse.Namespace) -> int:
    """Print members."""
    with connect(args) as desk:
        return show(args, desk.members(), COLUMNS)


def run_add(args: argparse.Namespace) -> int:
    """Add one."""
    password = getpass.getpass("Password (10 characters or more): ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    if len(password) < 10:
        raise InvalidInput("The password has fewer than 10 characters.", "Choose a longer one.")
    with connect(args) as desk:
        body = MemberBody(name=args.name, email=args.email, role=args.role, password=password, client_id=args.client)
        return show(args, desk.add_member(body), COLUMNS)
