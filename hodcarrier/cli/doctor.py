"""``hodcarrier doctor``: is everything in a service's folder whole? Works beside the service and without it."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from hodcarrier.cli.backup import DATA_HELP
from hodcarrier.cli.output import count, err


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = commands.add_parser("doctor", help="check that the register, the run files and the key are whole")
    parser.add_argument(
        "--repair",
        action="store_true",
        help="set damaged run files aside, take back those that were restored, and remove what belongs to no run",
    )
    parser.add_argument("--data", type=Path, help=DATA_HELP)
    parser.add_argument("--config", help="configuration file (default: hodcarrier.toml in the XDG folder)")
    parser.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Check, say what was found, and exit with 1 when something is not whole."""
    from hodcarrier.audit.doctor import examine_folder
    from hodcarrier.service.settings import read_settings

    found = examine_folder(read_settings(args.config, {"data": args.data}).data, repair=args.repair)
    for line in found.problems:
        print(line)
    for line in found.repaired:
        print(line)
    err.print(f"Looked at the register, the key and {count(found.files, 'run file')}.")
    if not found.problems:
        err.print("Everything is whole.")
        return 0
    if not args.repair and found.can_repair:
        err.print("`hodcarrier doctor --repair` sets damaged files aside; restore them from a backup to have them back.")
    return 1
