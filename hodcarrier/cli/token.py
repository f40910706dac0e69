"""``hodcarrier token list|add|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import ask_password, connect, noun, show, verb
from hodcarrier.client import Hodcarrier, RequestFailed
from hodcarrier.core.states import TokenScope
from hodcarrier.wire.members import SignInBody, TokenBody

COLUMNS = [
    ("id", "Id"),
    ("name", "Name"),
    ("member_name", "Member"),
    ("begins", "Begins"),
    ("scope", "Good for"),
    ("created_at", "Made (UTC)"),
    ("expires_at", "Ends (UTC)"),
    ("revoked_at", "Revoked (UTC)"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "token", "keys for programs")
    listed = verb(verbs, "list", "your tokens", run_list)
    listed.add_argument("--everybody", action="store_true", help="those of all members (owners)")
    added = verb(verbs, "add", "make a token; it is shown once", run_add)
    added.add_argument("name", help="what it is for")
    added.add_argument("--read", action="store_true", help="good for reading alone")
    added.add_argument("--days", type=int, default=365, metavar="N", help="it ends after N days (default 365)")
    added.add_argument("--email", help="sign in with this address and a password (asked for, or HODCARRIER_PASSWORD)")
    removed = verb(verbs, "remove", "revoke a token of yours; as an owner, anybody's", run_remove)
    removed.add_argument("id", type=int)


def run_list(args: argparse.Namespace) -> int:
    """Print tokens."""
    with connect(args) as desk:
        found = desk.list_all_tokens() if args.everybody else desk.list_tokens()
        return show(args, found, COLUMNS, "Nobody has a token." if args.everybody else "You have no tokens.")


def run_add(args: argparse.Namespace) -> int:
    """Make one."""
    with connect(args) as desk:
        if args.email:
            _sign_in(desk, args.email)
        scope = TokenScope.READ if args.read else TokenScope.ALL
        token = desk.add_token(TokenBody(name=args.name, scope=scope, days=args.days))
    if args.format != "table":
        return show(args, token, [*COLUMNS, ("secret", "Secret")])
    print(token.secret)
    err.print("Keep it now; it is not shown again.")
    return 0


def _sign_in(desk: Hodcarrier, email: str) -> None:
    password = ask_password("Password: ", "HODCARRIER_PASSWORD")
    try:
        desk.sign_in(SignInBody(email=email, password=password))
    except RequestFailed as refused:
        if refused.problem.field != "code":
            raise
        code = ask_password("Code of your authenticator: ", "HODCARRIER_CODE")
        desk.sign_in(SignInBody(email=email, password=password, code=code))


def run_remove(args: argparse.Namespace) -> int:
    """Revoke one."""
    with connect(args) as desk:
        desk.revoke_token(args.id)
    err.print(f"Token {args.id} is revoked.")
    return 0
