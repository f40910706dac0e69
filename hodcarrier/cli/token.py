"""``hodcarrier token list|add|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import ask_password, connect, noun, show, verb
from hodcarrier.wire.members import SignInBody, TokenBody

COLUMNS = [("id", "Id"), ("name", "Name"), ("begins", "Begins"), ("created_at", "Made (UTC)"), ("revoked_at", "Revoked (UTC)")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "token", "keys for programs")
    verb(verbs, "list", "your tokens", run_list)
    added = verb(verbs, "add", "make a token; it is shown once", run_add)
    added.add_argument("name", help="what it is for")
    added.add_argument("--email", help="sign in with this address and a password (asked for, or HODCARRIER_PASSWORD)")
    removed = verb(verbs, "remove", "revoke a token", run_remove)
    removed.add_argument("id", type=int)


def run_list(args: argparse.Namespace) -> int:
    """Print tokens."""
    with connect(args) as desk:
        return show(args, desk.list_tokens(), COLUMNS, "You have no tokens.")


def run_add(args: argparse.Namespace) -> int:
    """Make one."""
    with connect(args) as desk:
        if args.email:
            desk.sign_in(SignInBody(email=args.email, password=ask_password("Password: ", "HODCARRIER_PASSWORD")))
        token = desk.add_token(TokenBody(name=args.name))
    if args.format != "table":
        return show(args, token, [*COLUMNS, ("secret", "Secret")])
    print(token.secret)
    err.print("Keep it now; it is not shown again.")
    return 0


def run_remove(args: argparse.Namespace) -> int:
    """Revoke one."""
    with connect(args) as desk:
        desk.revoke_token(args.id)
    err.print(f"Token {args.id} is revoked.")
    return 0
