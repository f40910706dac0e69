"""``hodcarrier metric list|import``."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import emit, err
from hodcarrier.cli.service import connect, find_site, noun, read_text, show, verb
from hodcarrier.wire.metrics import MetricImport

COLUMNS = [("name", "Figure"), ("day", "Day"), ("value", "Value"), ("source", "Source")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "metric", "figures the crawl cannot know")
    listed = verb(verbs, "list", "imported figures of a site", run_list)
    listed.add_argument("site")
    imported = verb(verbs, "import", "import a CSV with day, name, value, source", run_import)
    imported.add_argument("site")
    imported.add_argument("file", type=Path)


def run_list(args: argparse.Namespace) -> int:
    """Print figures."""
    with connect(args) as desk:
        rows = desk.list_metrics(find_site(desk, args.site).id)
    if args.format != "table":
        return show(args, rows, COLUMNS)
    plain = [{**row.model_dump(mode="json"), "value": f"{row.value:,.10g}"} for row in rows]
    emit(plain, "table", COLUMNS, "No figures were imported for this site.")
    return 0


def run_import(args: argparse.Namespace) -> int:
    """Import a table."""
    text = read_text(args.file)
    with connect(args) as desk:
        rows = desk.import_metrics(find_site(desk, args.site).id, MetricImport(csv=text))
    err.print(f"Imported {len(rows)} figures.")
    return 0
