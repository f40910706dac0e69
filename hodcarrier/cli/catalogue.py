"""``hodcarrier catalogue list|show ID``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, err, out, severity
from hodcarrier.core import catalogue
from hodcarrier.core.catalogue import AREAS, Entry, Retired


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    parser = commands.add_parser("catalogue", help="every check, its reasons and its remedy")
    verbs = parser.add_subparsers(dest="verb", required=True, metavar="VERB")
    listed = verbs.add_parser("list", help="all checks")
    listed.add_argument("--area", choices=tuple(AREAS), help="only this area")
    listed.add_argument("--format", choices=("table", "json", "csv"), default="table")
    listed.set_defaults(run=run_list)
    shown = verbs.add_parser("show", help="one check in full")
    shown.add_argument("id", help="the id of a check, such as title-missing")
    shown.add_argument("--format", choices=("table", "json", "csv"), default="table")
    shown.set_defaults(run=run_show)


def run_list(args: argparse.Namespace) -> int:
    """Print the list."""
    rows = [describe(e) for e in catalogue.load().values() if args.area in (None, e.area)]
    emit(rows, args.format, [("id", "Check"), ("severity", "Severity"), ("subject", "On"), ("summary", "What it finds")])
    return 0


def run_show(args: argparse.Namespace) -> int:
    """Print one check."""
    known = catalogue.load()
    if (current := known.current(args.id)) in known.retired:
        return _show_retired(args, current, known.retired[current])
    row = describe(known.find(args.id))
    if current != args.id and args.format == "table":
        err.print(f"{args.id} is called {current} now.", markup=False)
    if args.format != "table":
        emit(row, args.format, [])
        return 0
    out.print(f"[bold]{row['summary']}[/bold]")
    line = severity(row["severity"])
    line.append(
        f"  {row['id']} · {row['area_name']} · looks at: {row['subject']}{' · applies to ' + row['applies_to'] if row['applies_to'] else ''}",
        style="dim",
    )
    out.print(line)
    for heading, text in (
        ("Why it matters", row["why"]),
        ("How to fix it", row["fix"]),
        ("Effort", row["effort"]),
        ("Rests on", row["standard"]),
    ):
        out.print(f"\n[bold]{heading}[/bold]")
        out.print(text, markup=False)
    if row["limits"]:
        out.print("\n[bold]Limits[/bold] (a plan may change them)")
        for name, limit in row["limits"].items():
            out.print(f"{name} = {limit['default']:g} {limit['unit']}: {limit['meaning']}", markup=False)
    return 0


def describe(entry: Entry[Any]) -> dict[str, Any]:
    """A check as plain values."""
    check = entry.check
    return {
        "id": entry.id,
        "area": entry.area,
        "area_name": AREAS[entry.area],
        "severity": check.severity,
        "subject": check.subject,
        "summary": check.summary,
        "terms": list(check.terms),
        "why": check.why,
        "fix": check.fix,
        "effort": check.effort,
        "standard": check.standard,
        "applies_to": check.applies_to,
        "examples": len(check.examples),
        "limits": {n: {"default": k.default, "unit": k.unit, "meaning": k.meaning} for n, k in check.limits.items()},
        "messages": dict(check.messages),
        "revision": check.revision,
        "since": check.since,
    }


def _show_retired(args: argparse.Namespace, check: str, gone: Retired) -> int:
    """Say what became of a check that was taken out."""
    instead = list(gone.instead)
    row = {"id": check, "summary": gone.summary, "retired": {"since": gone.since, "reason": gone.reason, "instead": instead}}
    if args.format == "json":
        emit(row, "json", [])
        return 0
    out.print(f"[bold]{gone.summary}[/bold]")
    out.print(f"{check} · {AREAS[gone.area]} · retired in {gone.since}", style="dim", markup=False)
    out.print(gone.reason, markup=False)
    if instead:
        out.print(f"See instead: {', '.join(instead)}", markup=False)
    return 0
