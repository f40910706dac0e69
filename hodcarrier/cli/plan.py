"""``hodcarrier plan show|edit``."""

from __future__ import annotations

import argparse
import json
from typing import Any

from hodcarrier.cli.output import emit, err
from hodcarrier.cli.service import connect, find_site, noun, verb
from hodcarrier.core.errors import InvalidInput


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "plan", "a site's crawl settings")
    shown = verb(verbs, "show", "the settings of a site; changed ones are marked", run_show)
    shown.add_argument("site")
    edited = verb(verbs, "edit", "change settings: plan edit SITE rate_per_s=2 checks_off='[\"text-thin\"]'", run_edit)
    edited.add_argument("site")
    edited.add_argument("settings", nargs="+", metavar="NAME=VALUE", help="value as JSON, or plain text")


def run_show(args: argparse.Namespace) -> int:
    """Print the plan."""
    with connect(args) as desk:
        plan = desk.plan(find_site(desk, args.site).id)
    if args.format == "json":
        emit(plan.values, "json", [])
        return 0
    rows = [
        {
            "name": name,
            "value": json.dumps(value, ensure_ascii=False),
            "changed": "changed" if value != plan.defaults.get(name) else "",
        }
        for name, value in plan.values.items()
    ]
    emit(rows, args.format, [("name", "Setting"), ("value", "Value"), ("changed", "")])
    return 0


def run_edit(args: argparse.Namespace) -> int:
    """Change the plan."""
    values: dict[str, Any] = {}
    for item in args.settings:
        name, equals, text = item.partition("=")
        if not equals:
            raise InvalidInput(f"“{item}” is not NAME=VALUE.", "Write it as rate_per_s=2.")
        try:
            values[name] = json.loads(text)
        except ValueError:
            values[name] = text
    with connect(args) as desk:
        site = find_site(desk, args.site)
        plan = desk.change_plan(site.id, values, desk.plan(site.id).version)
    err.print(f"Changed the plan of {site.host} (version {plan.version}). Future runs use it.")
    return 0
