"""``hodcarrier desk``: what needs a person today, and ``hodcarrier search``: find anything by its name."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, err, local, out
from hodcarrier.cli.service import connect, limit, noun, show, verb
from hodcarrier.core.words import signed
from hodcarrier.wire.desk import DeskOut

ITEMS = [
    ("alert_id", "Alert"),
    ("severity", "Severity"),
    ("host", "Site"),
    ("text", "What"),
    ("detail", "Cause"),
    ("day", "Since"),
]
SITES = [
    ("host", "Site"),
    ("health", "Health"),
    ("change", "Change"),
    ("critical", "Critical"),
    ("high", "High"),
    ("next", "Next run (UTC)"),
    ("why", "Why it stands here"),
]
EVENTS = [("share", "Health"), ("host", "Site"), ("title", "What happened"), ("detail", "")]
JUDGED = [("todo_id", "To-do"), ("title", "Title"), ("client_name", "Client"), ("text", "What the run said")]
HITS = [("kind", "Kind"), ("name", "Name"), ("detail", "Where"), ("link", "In the console")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    shown = verb(commands, "desk", "what needs attention today, across clients", run)
    shown.add_argument("--watch", action="store_true", help="show it again whenever something has changed, until interrupted")
    alerts = noun(commands, "alert", "what runs changed for the worse, as the desk shows it")
    acknowledged = verb(alerts, "acknowledge", "take an alert off the desk until further findings come", run_acknowledge)
    acknowledged.add_argument("alert_id", metavar="ALERT", type=int, nargs="+", help="number of an alert, as the desk shows it")
    found = verb(commands, "search", "find clients, sites, pages, checks and to-dos by their names", run_search)
    found.add_argument("text", nargs="+", help="words that the name holds")
    found.add_argument("--limit", type=limit, default=20, help="hits at most (default: 20)")


def run(args: argparse.Namespace) -> int:
    """Print the desk, once or whenever it changes."""
    with connect(args) as desk:
        found = desk.get_desk()
        code = _print(args, found)
        while args.watch:
            for _ in desk.watch_changes():
                before, found = found, desk.get_desk()
                if found.model_dump(exclude={"now"}) != before.model_dump(exclude={"now"}):
                    code = _print(args, found)
    return code


def _print(args: argparse.Namespace, found: DeskOut) -> int:
    if args.format == "json":
        return show(args, found, ITEMS)
    if args.format == "csv":
        return show(args, found.items, ITEMS)
    out.print(found.sentence, style="bold", markup=False)
    items = [i.model_dump(mode="json") for i in found.items]
    items = [{**item, "detail": local(item["detail"], item["host"]), "day": (item["since"] or "")[:10]} for item in items]
    emit(items, "table", ITEMS, "Everything is quiet." if found.quiet else "Nothing needs attention.")
    _print_news(found)
    sites = [
        {
            "host": s.site.host,
            "health": s.site.health,
            "change": signed(s.change),
            "critical": s.critical,
            "high": s.high,
            "why": s.why,
            "next": f"{s.next_due_at:%a %d %b %H:%M}" if s.next_due_at else "",
        }
        for s in found.sites
    ]
    emit(sites, "table", SITES, "No sites yet. Add one: hodcarrier site add CLIENT ADDRESS")
    if found.overdue:
        err.print(f"{found.overdue} of your to-dos are overdue: hodcarrier todo list --overdue")
    return 0


def _print_news(found: DeskOut) -> None:
    """What happened since the last working day, as far as anything did."""
    if found.events:
        out.print(f"\nSince {found.since:%A}", style="bold")
        rows = [{**e.model_dump(), "share": signed(e.shown), "detail": local(e.detail, e.host)} for e in found.events]
        emit(rows, "table", EVENTS)
        if found.more_events:
            err.print(f"{found.more_events} more events; see `hodcarrier compare`.")
    if found.judged:
        out.print("\nTo-dos confirmed or opened again", style="bold")
        emit([t.model_dump(mode="json") for t in found.judged], "table", JUDGED)
    for pattern in found.patterns:
        where = ", ".join(f"{site.host} +{site.findings:,}" for site in pattern.sites)
        said = f"\n{pattern.summary} rose on {len(pattern.sites)} sites of several clients since {pattern.since:%A}: {where}"
        out.print(said, markup=False)
    if found.events or found.judged or found.patterns:
        out.print("\nSites", style="bold")


def run_acknowledge(args: argparse.Namespace) -> int:
    """Acknowledge alerts."""
    with connect(args) as desk:
        for number in args.alert_id:
            desk.acknowledge_alert(number)
            err.print(f"Alert {number} is acknowledged.")
    return 0


def run_search(args: argparse.Namespace) -> int:
    """Print hits."""
    with connect(args) as desk:
        return show(args, desk.search(" ".join(args.text), args.limit), HITS, "Nothing has a name like that.")
