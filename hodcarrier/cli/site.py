"""``hodcarrier site list|show|add|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, err
from hodcarrier.cli.service import ask, connect, find_site, noun, show, verb
from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import SiteKind
from hodcarrier.wire.sites import SiteBody, SiteOut

COLUMNS = [
    ("id", "Id"),
    ("host", "Site"),
    ("client_name", "Client"),
    ("kind", "Kind"),
    ("health", "Health"),
    ("runs", "Runs"),
    ("open_todos", "To-dos"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "site", "clients' sites and their competitors")
    listed = verb(verbs, "list", "all sites", run_list)
    listed.add_argument("--kind", choices=tuple(SiteKind))
    shown = verb(verbs, "show", "one site with its last run and schedule", run_show)
    shown.add_argument("site", help="host, its beginning, or id")
    added = verb(verbs, "add", "add a site to a client", run_add)
    added.add_argument("client", help="name or id of the client")
    added.add_argument("address", help="where the crawl starts, such as https://shop.example/")
    added.add_argument("--competitor", action="store_true", help="the site competes with the client")
    removed = verb(verbs, "remove", "remove a site and its records", run_remove)
    removed.add_argument("site")
    removed.add_argument("--yes", action="store_true", help="do not ask")


def run_list(args: argparse.Namespace) -> int:
    """Print the sites."""
    with connect(args) as desk:
        return show(
            args,
            desk.list_sites(SiteKind(args.kind) if args.kind else None),
            COLUMNS,
            "No sites yet. Add one: hodcarrier site add CLIENT ADDRESS",
        )


def run_show(args: argparse.Namespace) -> int:
    """Print one site."""
    with connect(args) as desk:
        site = desk.get_site(find_site(desk, args.site).id)
    if args.format != "table":
        return show(args, site, COLUMNS)
    emit(_facts(site), "table", [("name", ""), ("value", "")])
    return 0


def _facts(site: SiteOut) -> list[dict[str, Any]]:
    last = site.last_run
    return [
        {"name": "Site", "value": f"{site.host} ({site.kind}, of {site.client_name})"},
        {"name": "Health", "value": "no run yet" if site.health is None else f"{site.health:.1f} of 100, high is good"},
        {
            "name": "Last run",
            "value": f"{last.id}, {last.state}, {last.requested_at:%a %d %b %Y %H:%M} UTC, {last.pages or 0} pages"
            if last
            else "none",
        },
        {"name": "Running", "value": f"{site.running.id}, {site.running.state}" if site.running else "no"},
        {"name": "Schedule", "value": site.schedule.words if site.schedule else "none"},
        {
            "name": "Next run",
            "value": f"{site.schedule.next_due_at:%a %d %b %Y %H:%M} UTC"
            if site.schedule and site.schedule.next_due_at
            else "not planned",
        },
        {"name": "Open to-dos", "value": str(site.open_todos)},
    ]


def run_add(args: argparse.Namespace) -> int:
    """Add one."""
    with connect(args) as desk:
        found = [c for c in desk.list_clients() if args.client in (str(c.id), c.name)] or [
            c for c in desk.list_clients() if c.name.startswith(args.client)
        ]
        if len(found) != 1:
            raise NotFound(f"There is no one client called “{args.client}”.", "See `hodcarrier client list`.")
        body = SiteBody(
            client_id=found[0].id, address=args.address, kind=SiteKind.COMPETITOR if args.competitor else SiteKind.OWN
        )
        return show(args, desk.add_site(body), COLUMNS)


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        ask(f"Remove {site.host} with its {site.runs:,} runs, to-dos and reports? This cannot be undone.", args.yes)
        desk.remove_site(site.id)
    err.print(f"Removed {site.host}.")
    return 0
