"""``hodcarrier serve``: the service in this process."""

from __future__ import annotations

import argparse
import os
import socket
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

from hodcarrier.cli.service import port
from hodcarrier.core.errors import InvalidInput, Unavailable
from hodcarrier.core.passwords import complaint

if TYPE_CHECKING:
    from hodcarrier.service.settings import Settings


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = commands.add_parser("serve", help="start the service and its console")
    parser.add_argument("--config", help="configuration file (default: hodcarrier.toml in the XDG folder)")
    parser.add_argument("--data", type=Path, help="folder of the register and the run files")
    parser.add_argument("--host", help="address to listen on (default 127.0.0.1)")
    parser.add_argument("--port", type=port, help="port to listen on (default 8420)")
    parser.add_argument("--workers", type=int, help="runs at once (default 2)")
    parser.set_defaults(run=run)


def check_port(host: str, port: int) -> None:
    """Raise :class:`Unavailable` when nobody can listen on the port."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    with socket.socket(family, socket.SOCK_STREAM) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as error:
            raise Unavailable(f"Port {port} on {host} cannot be used: {error.strerror}.", "Choose another with --port.") from None


def run(args: argparse.Namespace) -> int:
    """Serve until interrupted."""
    from hodcarrier.audit.logs import set_up_logs
    from hodcarrier.audit.place import hold_folder
    from hodcarrier.service.settings import read_settings

    set_up_logs()
    options = {name: getattr(args, name) for name in ("data", "host", "port", "workers")}
    settings = read_settings(args.config, options)
    if settings.owner_password and (problem := complaint(settings.owner_password, settings.owner_name, settings.owner_email)):
        raise InvalidInput(problem, "Set another owner_password, or leave it out: one is made up then.", "owner_password")
    check_port(settings.host, settings.port)
    os.umask(0o077)  # register, run files and keys are the service's alone
    with hold_folder(settings.data):
        return _serve(settings)


def _serve(settings: Settings) -> int:
    from hodcarrier.service.app import make_app, make_workspace
    from hodcarrier.service.connections import serve

    app = make_app(settings, make_workspace(settings))
    sys.stderr.write(f"Hodcarrier answers at {settings.url}\n")
    serve(app, settings)
    return 0
