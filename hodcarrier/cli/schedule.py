"""``hodcarrier schedule list|show|edit|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, err
from hodcarrier.cli.service import connect, find_site, noun, show, verb
from hodcarrier.wire.schedules import ScheduleBody

COLUMNS = [("words", "When"), ("next_due_at", "Next (UTC)"), ("mail_to", "Mail to")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "schedule", "when sites are audited")
    verb(verbs, "list", "all schedules, the next first", run_list)
    shown = verb(verbs, "show", "when a site is audited", run_show)
    shown.add_argument("site")
    edited = verb(verbs, "edit", "set when a site is audited", run_edit)
    edited.add_argument("site")
    edited.add_argument("rule", help="daily, weekly:tuesday, monthly:1 or a recurrence rule by RFC 5545")
    edited.add_argument("--at", metavar="HH:MM", help="time of day (as it is; 02:00 at first)")
    edited.add_argument("--zone", help="time zone, such as Europe/London (as it is; UTC at first)")
    edited.add_argument(
        "--mail", action="append", metavar="ADDRESS", help="tell this address when a run is done (repeat; “none” for nobody)"
    )
    removed = verb(verbs, "remove", "stop auditing a site automatically", run_remove)
    removed.add_argument("site")


def run_list(args: argparse.Namespace) -> int:
    """Print all schedules."""
    with connect(args) as desk:
        found = [(s.host, s.schedule) for s in desk.list_sites() if s.schedule]
    found.sort(key=lambda pair: str(pair[1].next_due_at))
    rows = [{"site": host, **schedule.model_dump(mode="json")} for host, schedule in found]
    emit(
        rows,
        args.format,
        [("site", "Site"), *COLUMNS],
        "No site has a schedule yet. Set one: hodcarrier schedule edit SITE weekly:tuesday",
    )
    return 0


def run_show(args: argparse.Namespace) -> int:
    """Print one schedule."""
    with connect(args) as desk:
        return show(args, desk.get_schedule(find_site(desk, args.site).id), COLUMNS)


def run_edit(args: argparse.Namespace) -> int:
    """Set a schedule."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        kept = site.schedule.model_dump(include={"at", "zone", "mail_to"}) if site.schedule else {}
        given = {
            "at": args.at,
            "zone": args.zone,
            "mail_to": None if args.mail is None else [m for m in args.mail if m != "none"],
        }
        body = ScheduleBody(rule=args.rule, **{**kept, **{name: value for name, value in given.items() if value is not None}})
        return show(args, desk.set_schedule(site.id, body), COLUMNS)


def run_remove(args: argparse.Namespace) -> int:
    """Remove a schedule."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        desk.remove_schedule(site.id)
    err.print(f"{site.host} is no longer audited automatically.")
    return 0
