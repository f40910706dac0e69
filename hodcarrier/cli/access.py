"""``hodcarrier access show|set|remove``: what opens a site that is not public."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import err
from hodcarrier.cli.service import ask_password, connect, find_site, name_value, noun, show, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.wire.plans import AccessBody

COLUMNS = [
    ("password", "Password"),
    ("headers", "Headers"),
    ("cookies", "Cookies"),
    ("origins", "Sent to"),
    ("changed_at", "Changed (UTC)"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "access", "what opens a site that is not public")
    shown = verb(verbs, "show", "what kinds of access are kept; never a secret", run_show)
    shown.add_argument("site")
    changed = verb(verbs, "set", "keep a password, headers, cookies: sealed, never shown again", run_set)
    changed.add_argument("site")
    changed.add_argument("--user", default="", help="name for HTTP basic; the password is asked for, or HODCARRIER_SITE_PASSWORD")
    changed.add_argument("--header", action="append", default=[], metavar="NAME=VALUE", help="an extra request header (repeat)")
    changed.add_argument("--cookie", action="append", default=[], metavar="NAME=VALUE", help="a cookie (repeat)")
    removed = verb(verbs, "remove", "forget it", run_remove)
    removed.add_argument("site")


def run_show(args: argparse.Namespace) -> int:
    """Print what is kept."""
    with connect(args) as desk:
        return show(args, desk.get_access(find_site(desk, args.site).id), COLUMNS)


def run_set(args: argparse.Namespace) -> int:
    """Keep access."""
    if not (args.user or args.header or args.cookie):
        raise InvalidInput("There is nothing to keep.", "Give --user, --header or --cookie.")
    password = ask_password("Password of the site: ", "HODCARRIER_SITE_PASSWORD") if args.user else ""
    body = AccessBody(username=args.user, password=password, headers=_pairs(args.header), cookies=_pairs(args.cookie))
    with connect(args) as desk:
        return show(args, desk.set_access(find_site(desk, args.site).id, body), COLUMNS)


def _pairs(items: list[str]) -> dict[str, str]:
    return {name.strip(): value for name, value in (name_value(item, "X-Preview=yes") for item in items)}


def run_remove(args: argparse.Namespace) -> int:
    """Forget access."""
    with connect(args) as desk:
        site = find_site(desk, args.site)
        desk.remove_access(site.id)
    err.print(f"The access to {site.host} is forgotten.")
    return 0
