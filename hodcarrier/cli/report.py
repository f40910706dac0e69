"""``hodcarrier report list|show|add|save``."""

from __future__ import annotations

import argparse
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from hodcarrier.cli.service import connect, find_site, noun, read_day, save_file, show, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.wire.reports import ReportBody

COLUMNS = [
    ("id", "Id"),
    ("title", "Report"),
    ("site_host", "Site"),
    ("from_day", "From"),
    ("to_day", "To"),
    ("created_at", "Made (UTC)"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "report", "reports for clients")
    verb(verbs, "list", "reports, the latest first", run_list)
    shown = verb(verbs, "show", "one report", run_show)
    shown.add_argument("id", type=int)
    added = verb(verbs, "add", "make a report", run_add)
    added.add_argument("site")
    added.add_argument("--from", dest="start", metavar="DAY", help="30 days ago if left out")
    added.add_argument("--to", dest="end", metavar="DAY", help="today if left out")
    added.add_argument("--title", default="")
    added.add_argument("--note", default="")
    saved = verb(verbs, "save", "write a report to a file", run_save)
    saved.add_argument("id", type=int)
    saved.add_argument("file", type=Path, help="ends in .pdf or .html")


def run_list(args: argparse.Namespace) -> int:
    """Print reports."""
    with connect(args) as desk:
        return show(args, desk.list_reports(), COLUMNS, "No reports yet. Make one: hodcarrier report add SITE")


def run_show(args: argparse.Namespace) -> int:
    """Print one."""
    with connect(args) as desk:
        return show(args, desk.get_report(args.id), COLUMNS)


def run_add(args: argparse.Namespace) -> int:
    """Make one."""
    end = read_day(args.end) if args.end else date.today()
    start = read_day(args.start) if args.start else end - timedelta(days=30)
    with connect(args) as desk:
        body = ReportBody(site_id=find_site(desk, args.site).id, from_day=start, to_day=end, title=args.title, note=args.note)
        return show(args, desk.add_report(body), COLUMNS)


def run_save(args: argparse.Namespace) -> int:
    """Write one to a file."""
    form = args.file.suffix.lstrip(".").lower()
    if form not in ("pdf", "html"):
        raise InvalidInput(f"{args.file} ends in neither .pdf nor .html.", "Choose one of the two.")
    with connect(args) as desk:
        document = desk.get_report_pdf(args.id) if form == "pdf" else desk.get_report_page(args.id)
    return save_file(args.file, document)
