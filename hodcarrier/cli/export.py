"""``hodcarrier export findings RUN.sqlite``: what a saved run file holds, for other programs."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import Any

from hodcarrier import __version__


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = commands.add_parser("export", help="findings of a saved run file as csv, json or SARIF")
    nouns = parser.add_subparsers(dest="verb", required=True, metavar="WHAT")
    findings = nouns.add_parser("findings", help="every finding, waived ones marked")
    findings.add_argument("file", type=Path, metavar="RUN.sqlite", help="a run file, as `try --save` writes it")
    findings.add_argument("--format", choices=("csv", "json", "jsonl", "sarif"), default="csv")
    findings.set_defaults(run=run_findings)


def run_findings(args: argparse.Namespace) -> int:
    """Write the findings to stdout."""
    from hodcarrier.core.states import ExportForm
    from hodcarrier.report.tables import export_parts
    from hodcarrier.runfile.reader import RunFile
    from hodcarrier.runfile.results import compared_at, each_finding, texts

    with RunFile.open(args.file) as opened:
        sys.stdout.writelines(
            export_parts(
                ExportForm(args.format), each_finding(opened, waived=None), __version__, texts(opened), compared_at(opened)
            )
        )
    return 0
