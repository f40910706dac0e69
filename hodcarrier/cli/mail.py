"""``hodcarrier mail list|resend``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import connect, limit, noun, show, verb
from hodcarrier.core.states import DeliveryState

COLUMNS = [
    ("id", "Id"),
    ("at", "Written (UTC)"),
    ("state", "State"),
    ("recipient", "To"),
    ("subject", "Subject"),
    ("attempts", "Attempts"),
    ("next_at", "Next attempt (UTC)"),
    ("error", "Last error"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "mail", "mails that the service sends")
    listed = verb(verbs, "list", "mails and what became of them, the latest first", run_list)
    listed.add_argument("--state", choices=tuple(DeliveryState), help="only those in this state")
    listed.add_argument("--limit", type=limit, default=100, help="rows at most (default: 100)")
    again = verb(verbs, "resend", "send a mail now that was given up or waits", run_resend)
    again.add_argument("id", type=int)


def run_list(args: argparse.Namespace) -> int:
    """Print mails."""
    state = DeliveryState(args.state) if args.state else None
    with connect(args) as desk:
        return show(args, desk.list_deliveries(state, args.limit), COLUMNS, "No mails of that kind.")


def run_resend(args: argparse.Namespace) -> int:
    """Send one again."""
    with connect(args) as desk:
        found = desk.send_again(args.id)
    err.print(f"The mail to {found.recipient} is sent now; see `hodcarrier mail list`.", markup=False)
    return 0
