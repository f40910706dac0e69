"""``hodcarrier share list|add|prolong|remove|portal``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import err, out, table
from hodcarrier.cli.service import connect, find_client, noun, show, verb
from hodcarrier.wire.reports import ReportLinkBody, ReportLinkChange

COLUMNS = [
    ("id", "Id"),
    ("name", "For"),
    ("email", "Sent to"),
    ("expires_at", "Ends (UTC)"),
    ("passphrase", "Passphrase"),
    ("seen", "Opened"),
    ("seen_at", "Last (UTC)"),
    ("ended", "Ended"),
]
SITES = [("host", "Site"), ("health", "Health"), ("change", "Change"), ("words", "Where it is going")]
REPORTS = [("id", "Id"), ("title", "Report"), ("from_day", "From"), ("to_day", "To"), ("approved_at", "Approved (UTC)")]
WAITING = [("todo_id", "To-do"), ("title", "Waits for an answer"), ("site_host", "Site"), ("due", "Due")]
WORK = [("title", "Work"), ("site_host", "Site"), ("day", "Day"), ("cleared", "Cleared"), ("places", "Places")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "share", "share links of reports, and what clients see who sign in")
    listed = verb(verbs, "list", "whom a report was shared with", run_list)
    added = verb(verbs, "add", "share what was approved of a report by a link, which is told once", run_add)
    prolonged = verb(verbs, "prolong", "let a share link be good for longer, also one that has expired", run_prolong)
    removed = verb(verbs, "remove", "end a share link", run_remove)
    for parser in (listed, added, prolonged, removed):
        parser.add_argument("report", type=int, help="id of the report")
    added.add_argument("name", help="whom it is for")
    for parser in (added, prolonged):
        parser.add_argument("--days", type=int, default=90, help="how long it is good for (default 90)")
    added.add_argument("--passphrase", default="", help="asked for before it opens, 8 characters or more")
    for parser in (prolonged, removed):
        parser.add_argument("id", type=int, help="id of the link")
    portal = verb(verbs, "portal", "what somebody of a client sees who signs in", run_portal)
    portal.add_argument("client")


def run_list(args: argparse.Namespace) -> int:
    """Print links."""
    with connect(args) as desk:
        return show(args, desk.list_report_links(args.report), COLUMNS, "It was shared with nobody.")


def run_add(args: argparse.Namespace) -> int:
    """Make a link."""
    body = ReportLinkBody(name=args.name, days=args.days, passphrase=args.passphrase)
    with connect(args) as desk:
        link = desk.add_report_link(args.report, body)
    code = show(args, link, [*COLUMNS[:5], ("url", "Address")])
    err.print("The address is shown only now. Whoever has it can read the report.")
    return code


def run_prolong(args: argparse.Namespace) -> int:
    """Let a link be good for longer."""
    with connect(args) as desk:
        link = desk.prolong_report_link(args.report, args.id, ReportLinkChange(days=args.days))
    return show(args, link, COLUMNS[:5])


def run_remove(args: argparse.Namespace) -> int:
    """End a link."""
    with connect(args) as desk:
        desk.revoke_report_link(args.report, args.id)
    err.print(f"Link {args.id} answers no more.")
    return 0


def run_portal(args: argparse.Namespace) -> int:
    """Print what a client sees."""
    with connect(args) as desk:
        found = desk.get_portal(find_client(desk, args.client).id)
    if args.format != "table":
        return show(args, found, SITES)
    for rows, columns, none in (
        (found.sites, SITES, "No site of its own."),
        (found.reports, REPORTS, "No report was approved yet."),
        (found.approvals, WAITING, "Nothing waits for an answer."),
        (found.done, WORK, "Nothing was done and confirmed yet."),
        (found.hand, WORK, "Nothing is in hand."),
    ):
        table([each.model_dump(mode="json") for each in rows], columns, none)
        out.print()
    return 0
