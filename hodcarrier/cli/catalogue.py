"""``hodcarrier catalogue list|show ID``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import emit, out, severity
from hodcarrier.core import catalogue


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    parser = commands.add_parser("catalogue", help="every check, its reasons and its remedy")
    verbs = parser.add_subparsers(dest="verb", required=True, metavar="VERB")
    listed = verbs.add_parser("list", help="all checks")
    listed.add_argument("--area", choices=tuple(catalogue.AREAS), help="only this area")
    listed.add_argument("--format", choices=("table", "json", "csv"), default="table")
    listed.set_defaults(run=run_list)
    shown = verbs.add_parser("show", help="one check in full")
    shown.add_argument("id", help="the id of a check, such as title-missing")
    shown.add_argument("--format", choices=("table", "json"), default="table")
    shown.set_defaults(run=run_show)


def run_list(args: argparse.Namespace) -> int:
    """Print the list."""
    rows = [catalogue.describe(e) for e in catalogue.load().values() if args.area in (None, e.area)]
    emit(rows, args.format, [("id", "Check"), ("severity", "Severity"), ("subject", "On"), ("summary", "What it finds")])
    return 0


def run_show(args: argparse.Namespace) -> int:
    """Print one check."""
    row = catalogue.describe(catalogue.get(args.id))
    if args.format == "json":
        emit(row, "json", [])
        return 0
    out.print(f"[bold]{row['summary']}[/bold]")
    line = severity(row["severity"])
    line.append(f"  {row['id']} · {row['area_name']} · looks at: {row['subject']}", style="dim")
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
