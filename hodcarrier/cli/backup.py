"""``hodcarrier backup DIR`` and ``hodcarrier restore DIR``: a service's folder, copied while it works and put back."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import count, err

DATA_HELP = "the service's folder (default: as the configuration says)"


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    made = commands.add_parser("backup", help="back up a service's folder, while it works")
    made.add_argument(
        "target", type=Path, metavar="DIR", help="an empty folder, or that of an earlier backup, which is brought up to date"
    )
    made.add_argument("--check", action="store_true", help="only check that every file of the backup is whole")
    made.set_defaults(run=run_backup)
    put_back = commands.add_parser("restore", help="put a backup into an empty folder")
    put_back.add_argument("source", type=Path, metavar="DIR", help="folder of a backup")
    put_back.set_defaults(run=run_restore)
    for parser in (made, put_back):
        parser.add_argument("--data", type=Path, help=DATA_HELP)
        parser.add_argument("--config", help="configuration file (default: hodcarrier.toml in the XDG folder)")


def _folder(args: argparse.Namespace) -> Path:
    from hodcarrier.service.settings import read_settings

    return read_settings(args.config, {"data": args.data}).data


def run_backup(args: argparse.Namespace) -> int:
    """Make or check a backup."""
    from hodcarrier.audit.backup import back_up, check

    if args.check:
        damaged = check(args.target)
        for name in damaged:
            err.print(f"damaged or missing: {name}", markup=False)
        err.print("The backup is damaged." if damaged else "Every file of the backup is whole.")
        return 1 if damaged else 0
    found = back_up(_folder(args), args.target)
    err.print(
        f"Backed up the register and {count(found.runs, 'run')} ({found.copied:,} copied now, {found.total_bytes / 1024**2:,.1f} MiB in all)"
        f" to {args.target}. Keep it as safe as the service: it holds the key to clients' sites.",
        markup=False,
    )
    return 0


def run_restore(args: argparse.Namespace) -> int:
    """Put a backup back."""
    from hodcarrier.audit.backup import restore

    data = _folder(args)
    found = restore(args.source, data)
    err.print(
        f"Restored the register and {count(found.runs, 'run')} to {data}. Start it with `hodcarrier serve --data {data}`.",
        markup=False,
    )
    return 0
