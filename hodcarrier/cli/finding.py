"""``hodcarrier finding list RUN``."""

from __future__ import annotations

import argparse
from itertools import islice
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import connect, noun, run_of, show, verb

COLUMNS = [("severity", "Severity"), ("check", "Check"), ("subject", "Page"), ("message", "Finding"), ("since", "Since")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "finding", "what a run found")
    listed = verb(verbs, "list", "findings of a run", run_list)
    listed.add_argument("run_id", metavar="RUN", help="id of a run, or a site for its latest")
    listed.add_argument("--check", default="")
    listed.add_argument("--severity", choices=("critical", "high", "medium", "low"), default="")
    listed.add_argument("--limit", type=int, default=50)


def run_list(args: argparse.Namespace) -> int:
    """Print findings."""
    with connect(args) as desk:
        rows = list(islice(desk.findings(run_of(desk, args.run_id), check=args.check, severity=args.severity), args.limit + 1))
    code = show(args, rows[: args.limit], COLUMNS, "No findings of that kind.")
    if len(rows) > args.limit:
        err.print(f"The first {args.limit}; more with --limit.")
    return code
