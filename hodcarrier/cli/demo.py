"""``hodcarrier demo``: the made-up agency, its simulated web and the service, in one command."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from hodcarrier.cli.service import port
from hodcarrier.core.errors import Unavailable

# What the simulators need beside the service: the extra `demo` of the package.
DEMO_PACKAGES = frozenset({"aiosmtpd", "trustme"})


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = commands.add_parser("demo", help="try everything on a made-up agency and its simulated web")
    parser.add_argument("--data", type=Path, default=Path("demo-data"), help="folder for the demo (default demo-data)")
    parser.add_argument("--port", type=port, default=8420, help="port of the console (default 8420)")
    parser.add_argument("--keep", action="store_true", help="go on with the data of the last demo instead of starting anew")
    parser.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Run the demo until interrupted."""
    try:
        from hodcarrier.demo.start import start
    except ModuleNotFoundError as missing:
        if missing.name not in DEMO_PACKAGES:
            raise
        raise Unavailable(
            f"The demo needs {missing.name}, which is not installed.", "Install its extra: pip install 'hodcarrier[demo]'."
        ) from None

    return start(args.data, args.port, args.keep)
