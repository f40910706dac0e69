"""``hodcarrier trend SITE``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import course, emit, out
from hodcarrier.cli.service import connect, find_site, read_day, show, verb

COLUMNS = [("at", "When (UTC)"), ("value", "Value"), ("bricks", ""), ("pages", "Pages examined"), ("said", "")]


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = verb(commands, "trend", "a figure over the runs of a site", run)
    parser.add_argument("site")
    parser.add_argument("--figure", default="health", help="health, findings, pages, area.NAME, severity.NAME or check.ID")
    parser.add_argument("--from", dest="start", metavar="DAY")
    parser.add_argument("--to", dest="end", metavar="DAY")


def run(args: argparse.Namespace) -> int:
    """Print the trend."""
    with connect(args) as desk:
        start, end = (read_day(d) if d else None for d in (args.start, args.end))
        found = desk.get_trend(find_site(desk, args.site).id, args.figure, start, end)
    if args.format == "json":
        return show(args, found, COLUMNS)
    hundred = found.figure == "health" or found.figure.startswith("area.")
    rows: list[dict[str, Any]] = [
        {
            "at": p.at.isoformat(),
            "value": p.value,
            "bricks": course(p.value) if hundred and p.value is not None else "",
            "pages": p.pages,
            "said": p.note,
        }
        for p in found.points
    ]
    rows += [
        {"at": r.day.isoformat(), "value": None, "bricks": "", "pages": None, "said": f"remark: {r.text}"} for r in found.remarks
    ]
    rows.sort(key=lambda r: str(r["at"]))
    if args.format == "table":
        out.print(f"{found.words} {'High' if found.high_is_good else 'Low'} is good.")
    emit(rows, args.format, COLUMNS, "No runs in that time.")
    return 0
