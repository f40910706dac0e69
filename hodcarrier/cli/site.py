"""``hodcarrier site list|show|domain|add|edit|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import count, emit, err, out
from hodcarrier.cli.plan import read_settings
from hodcarrier.cli.preset import add_schedule, find_preset, read_schedule
from hodcarrier.cli.service import ask, connect, find_client, find_member, find_site, noun, show, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import SiteKind
from hodcarrier.wire.presets import SitesChange, SitesPick
from hodcarrier.wire.sites import SiteBody, SiteOut

COLUMNS = [
    ("id", "Id"),
    ("host", "Site"),
    ("client_name", "Client"),
    ("kind", "Kind"),
    ("health", "Health"),
    ("runs", "Runs"),
    ("open_todos", "To-dos"),
    ("tags", "Tags"),
]
DOMAIN = [
    ("first_seen", "From"),
    ("last_seen", "To"),
    ("domain", "Domain"),
    ("registrar", "Registrar"),
    ("created", "Registered"),
    ("expires", "Ends"),
    ("name_servers", "Name servers"),
]
CHANGES = [("site", "Site"), ("name", "What"), ("before", "Now"), ("after", "Then")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "site", "clients' sites and their competitors")
    listed = verb(verbs, "list", "all sites", run_list)
    listed.add_argument("--kind", choices=tuple(SiteKind))
    listed.add_argument("--client", help="name or id of a client, archived ones too")
    listed.add_argument("--tag", default="", help="those that have this tag, themselves or by their client")
    listed.add_argument("--owner", help="those of clients in this member's charge")
    listed.add_argument("--text", default="", help="words that host or client name hold")
    shown = verb(verbs, "show", "one site with its last run and schedule", run_show)
    shown.add_argument("site", help="host, its beginning, or id")
    known = verb(verbs, "domain", "what the registry says of a site's domain, now and before", run_domain)
    known.add_argument("site", help="host, its beginning, or id")
    added = verb(verbs, "add", "add a site to a client", run_add)
    added.add_argument("client", help="name or id of the client")
    added.add_argument("address", help="where the crawl starts, such as https://shop.example/")
    added.add_argument("--competitor", action="store_true", help="the site competes with the client")
    edited = verb(verbs, "edit", "change settings, schedules and tags of one or many sites", run_edit)
    edited.add_argument(
        "site", nargs="+", help="host, its beginning, or id; all sites with a tag: tag:NAME; all of a client: client:NAME"
    )
    edited.add_argument("--preset", help="settings and schedule of a preset")
    edited.add_argument(
        "--set", dest="settings", action="append", default=[], metavar="NAME=VALUE", help="a setting of their plans (repeat)"
    )
    add_schedule(edited)
    edited.add_argument("--no-schedule", action="store_true", help="take their schedules away")
    pausing = edited.add_mutually_exclusive_group()
    pausing.add_argument("--pause", dest="paused", action="store_const", const=True, help="pause their schedules")
    pausing.add_argument("--resume", dest="paused", action="store_const", const=False, help="let their schedules go on")
    edited.add_argument("--tag", action="append", default=[], metavar="TAG", help="give them a tag (repeat)")
    edited.add_argument("--untag", action="append", default=[], metavar="TAG", help="take a tag away (repeat)")
    edited.add_argument("--preview", action="store_true", help="show what would change, and change nothing")
    removed = verb(verbs, "remove", "remove a site and its records", run_remove)
    removed.add_argument("site")
    removed.add_argument("--yes", action="store_true", help="do not ask")


def run_list(args: argparse.Namespace) -> int:
    """Print the sites."""
    with connect(args) as desk:
        return show(
            args,
            desk.list_sites(
                SiteKind(args.kind) if args.kind else None,
                client=find_client(desk, args.client, archived=True).id if args.client else None,
                tag=args.tag,
                owner=find_member(desk, args.owner).id if args.owner else None,
                text=args.text,
            ),
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


def run_domain(args: argparse.Namespace) -> int:
    """Print what is known of a domain."""
    with connect(args) as desk:
        found = desk.get_domain(find_site(desk, args.site).id)
    if args.format == "json":
        return show(args, found, [])
    rows = [each.model_dump(mode="json") for each in ([found.now] if found.now else []) + found.before]
    if args.format == "csv":
        emit(rows, args.format, DOMAIN, "")
        return 0
    out.print(found.sentence, markup=False)
    if found.now is not None and found.error:
        err.print(f"The registry could not be asked last: {found.error}", markup=False)
    if rows:
        emit(rows, args.format, DOMAIN, "")
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


def run_edit(args: argparse.Namespace) -> int:
    """Show what would change, and change it."""
    with connect(args) as desk:
        chosen = [site for key in args.site for site in _sites(desk, key)]
        pick = SitesPick(
            site_ids=list(dict.fromkeys(site.id for site in chosen)),
            preset_id=find_preset(desk, args.preset).id if args.preset else None,
            values=read_settings(args.settings),
            schedule=read_schedule(args),
            no_schedule=args.no_schedule,
            paused=args.paused,
            add_tags=args.tag,
            remove_tags=args.untag,
        )
        drafts = desk.plan_site_changes(pick)
        rows = [{"site": draft.host, **each.model_dump()} for draft in drafts for each in draft.differences]
        if args.format == "json":
            show(args, drafts, CHANGES)
        else:
            emit(rows, args.format, CHANGES, "Nothing would change: the sites are so already.")
        if args.preview or not rows:
            return 0
        changed = desk.change_sites(SitesChange(changes=[draft.change for draft in drafts]))
    err.print(f"{count(changed.changed, 'site')} changed.")
    return 0


def _sites(desk: Hodcarrier, key: str) -> list[SiteOut]:
    """The sites that a word names: one, all with a tag, or all own sites of a client."""
    kind, _, name = key.partition(":")
    if kind == "tag" and name:
        found = desk.list_sites(tag=name)
    elif kind == "client" and name:
        found = desk.list_sites(SiteKind.OWN, client=find_client(desk, name).id)
    else:
        return [find_site(desk, key)]
    if not found:
        raise NotFound(f"“{key}” names no site.", "See `hodcarrier site list`.")
    return found


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        ask(f"Remove {site.host} with its {site.runs:,} runs, to-dos and reports? This cannot be undone.", args.yes)
        desk.remove_site(site.id)
    err.print(f"Removed {site.host}.")
    return 0
