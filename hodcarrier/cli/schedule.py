"""``hodcarrier schedule list|show|edit|week|pause|resume|remove``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, err
from hodcarrier.cli.service import connect, find_client, find_site, noun, read_day, show, verb
from hodcarrier.wire.schedules import ScheduleBody
from hodcarrier.wire.week import WeekRun

WEEK = [
    ("day", "Day"),
    ("at", "UTC"),
    ("site", "Site"),
    ("client", "Client"),
    ("state", "State"),
    ("minutes", "Minutes"),
    ("health", "Health"),
]
COLUMNS = [("words", "When"), ("next_due_at", "Next (UTC)"), ("paused_at", "Paused"), ("mail_to", "Mail to")]


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
    week = verb(verbs, "week", "the runs of a week: those that were, and those that are planned", run_week)
    week.add_argument("--from", dest="start", metavar="DAY", help="YYYY-MM-DD (default: Monday of this week)")
    week.add_argument("--days", type=int, default=7, help="how many days (default: 7)")
    week.add_argument("--client", help="name or id of a client")
    paused = verb(verbs, "pause", "pause a site's schedule", run_pause)
    paused.add_argument("site")
    resumed = verb(verbs, "resume", "resume a site's schedule; what it missed is not made up for", run_resume)
    resumed.add_argument("site")
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


def run_week(args: argparse.Namespace) -> int:
    """Print the week."""
    with connect(args) as desk:
        client = find_client(desk, args.client).id if args.client else None
        found = desk.get_week(read_day(args.start) if args.start else None, args.days, client)
    if args.format == "json":
        return show(args, found, WEEK)
    rows = [
        {
            "day": f"{run.at:%a %d %b}",
            "at": f"{run.at:%H:%M}",
            "site": run.host,
            "client": run.client_name,
            "state": _state(run),
            "minutes": "" if run.minutes is None else f"{run.minutes:.0f}" if run.minutes >= 1 else "under 1",
            "health": run.health,
        }
        for run in found.runs
    ]
    emit(rows, args.format, WEEK, "No runs, and none planned. Set a schedule: hodcarrier schedule edit SITE weekly:tuesday")
    for each in found.blackout:
        err.print(f"{each.day:%a %d %b}: blackout day of {each.client_name}", markup=False)
    return 0


def _state(run: WeekRun) -> str:
    if run.state is not None:
        return f"benchmark, {run.state}" if run.benchmark else run.state
    return "paused" if run.paused else "second attempt" if run.retry else "planned"


def run_pause(args: argparse.Namespace) -> int:
    """Pause one."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        desk.pause_schedule(site.id)
    err.print(f"The schedule of {site.host} is paused.")
    return 0


def run_resume(args: argparse.Namespace) -> int:
    """Let one go on."""
    with connect(args) as desk:
        return show(args, desk.resume_schedule(find_site(desk, args.site).id), COLUMNS)


def run_remove(args: argparse.Namespace) -> int:
    """Remove a schedule."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        desk.remove_schedule(site.id)
    err.print(f"{site.host} is no longer audited automatically.")
    return 0
