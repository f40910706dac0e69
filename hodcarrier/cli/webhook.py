"""``hodcarrier webhook list|add|edit|remove|renew|test|log|resend``."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from typing import Any

from hodcarrier.cli.output import err, table
from hodcarrier.cli.service import connect, find_client, limit, noun, show, verb
from hodcarrier.core.states import DeliveryState, Topic
from hodcarrier.wire.webhooks import TOPICS, WebhookBody, WebhookChange, WebhookOut

COLUMNS = [
    ("id", "Id"),
    ("name", "Webhook"),
    ("address", "Address"),
    ("told_of", "Told of"),
    ("client_name", "Client"),
    ("active", "Active"),
    ("waiting", "Waiting"),
    ("given_up", "Given up"),
    ("last_error", "Last error"),
]
LOG_COLUMNS = [
    ("id", "Id"),
    ("at", "Happened (UTC)"),
    ("topic", "Topic"),
    ("state", "State"),
    ("attempts", "Attempts"),
    ("status", "Status"),
    ("error", "Last error"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "webhook", "other programs that are told what happens")
    verb(verbs, "list", "webhooks, with how their messages fare", run_list)
    added = verb(verbs, "add", "make a webhook; its secret is shown once", run_add)
    added.add_argument("name")
    added.add_argument("address", help="an https address that takes POST requests")
    edited = verb(verbs, "edit", "change a webhook, or switch it off", run_edit)
    edited.add_argument("id", type=int)
    edited.add_argument("--name")
    edited.add_argument("--address", help="where messages are sent")
    edited.add_argument("--active", choices=("yes", "no"), help="no: it is told nothing")
    for parser in (added, edited):
        parser.add_argument(
            "--topic",
            action="append",
            choices=[topic for topic in TOPICS if topic != Topic.WEBHOOK_TEST],
            metavar="TOPIC",
            help=f"what it is told of (repeat for more; left out: everything): {', '.join(TOPICS)}",
        )
        parser.add_argument("--client", help="only what concerns this client" + (", or any" if parser is edited else ""))
    removed = verb(verbs, "remove", "remove a webhook and its log", run_remove)
    renewed = verb(verbs, "renew", "make a new secret, shown once; for a day the old one signs too", run_renew)
    tried = verb(verbs, "test", "send a message that only tries it out", run_test)
    logged = verb(verbs, "log", "what a webhook was told, the latest first", run_log)
    again = verb(verbs, "resend", "send a message once more, under the same id", run_resend)
    for parser in (removed, renewed, tried, logged, again):
        parser.add_argument("id", type=int)
    logged.add_argument("--state", choices=tuple(DeliveryState), help="only those in this state")
    logged.add_argument("--limit", type=limit, default=100, help="rows at most (default: 100)")
    again.add_argument("message", type=int, help="number of the message, as the log shows it")


def run_list(args: argparse.Namespace) -> int:
    """Print webhooks."""
    with connect(args) as desk:
        found = desk.list_webhooks()
    return _show(args, found)


def run_add(args: argparse.Namespace) -> int:
    """Make one."""
    with connect(args) as desk:
        client = find_client(desk, args.client).id if args.client else None
        made = desk.add_webhook(WebhookBody(name=args.name, url=args.address, topics=args.topic or [], client_id=client))
    return _show_secret(args, made)


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    active = None if args.active is None else args.active == "yes"
    given = {"name": args.name, "url": args.address, "topics": args.topic, "active": active}
    change = {name: value for name, value in given.items() if value is not None}
    with connect(args) as desk:
        if args.client is not None:
            change["client_id"] = None if args.client == "any" else find_client(desk, args.client).id
        return _show(args, [desk.change_webhook(args.id, WebhookChange(**change))])


def _show(args: argparse.Namespace, found: Sequence[WebhookOut]) -> int:
    if args.format != "table":
        return show(args, found, [])
    rows = [{**w.model_dump(mode="json"), "address": w.url, "told_of": list(w.topics) or "everything"} for w in found]
    table(rows, COLUMNS, "There is no webhook.")
    return 0


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        desk.remove_webhook(args.id)
    err.print(f"Webhook {args.id} is removed.")
    return 0


def run_renew(args: argparse.Namespace) -> int:
    """Make a new secret."""
    with connect(args) as desk:
        return _show_secret(args, desk.renew_secret(args.id))


def _show_secret(args: argparse.Namespace, webhook: WebhookOut) -> int:
    if args.format != "table":
        return show(args, webhook, [])
    print(webhook.secret)
    err.print(
        f"The secret of webhook {webhook.id}, “{webhook.name}”. Give it to the receiver; it is not shown again.", markup=False
    )
    return 0


def run_test(args: argparse.Namespace) -> int:
    """Try one out."""
    with connect(args) as desk:
        desk.try_webhook(args.id)
    err.print(f"A test message is sent now; see `hodcarrier webhook log {args.id}`.")
    return 0


def run_log(args: argparse.Namespace) -> int:
    """Print what one was told."""
    state = DeliveryState(args.state) if args.state else None
    with connect(args) as desk:
        columns = [*LOG_COLUMNS, *([("body", "Body")] if args.format != "table" else [])]
        return show(args, desk.list_messages(args.id, state, args.limit), columns, "It has been told nothing yet.")


def run_resend(args: argparse.Namespace) -> int:
    """Send one again."""
    with connect(args) as desk:
        found = desk.send_message_again(args.id, args.message)
    err.print(f"Message {found.id} ({found.topic}) is sent now; see `hodcarrier webhook log {args.id}`.")
    return 0
