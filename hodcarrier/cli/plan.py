"""``hodcarrier plan show|edit|explain|try|export|import|copy``."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import count, emit, err
from hodcarrier.cli.service import connect, find_site, name_value, noun, read_text, verb
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.plan import plan_values
from hodcarrier.core.web.lists import read_list
from hodcarrier.wire.plans import PlanBody, PlanCopy, PlanOut, PlanToml, PreviewBody


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "plan", "a site's crawl settings")
    shown = verb(verbs, "show", "the settings of a site; changed ones are marked", run_show)
    shown.add_argument("site")
    edited = verb(verbs, "edit", "change settings: plan edit SITE rate_per_s=2 checks_off='[\"text-thin\"]'", run_edit)
    edited.add_argument("site")
    edited.add_argument(
        "settings", nargs="+", metavar="NAME=VALUE", help="value as JSON, plain text, or @FILE with a list (txt, csv)"
    )
    verb(verbs, "explain", "what every setting means", run_explain)
    tried = verb(verbs, "try", "what settings would do with sample addresses, before saving them", run_try)
    tried.add_argument("site")
    tried.add_argument("settings", nargs="*", metavar="NAME=VALUE")
    tried.add_argument("--address", action="append", default=[], help="a sample (repeat); left out: pages of the latest run")
    exported = verb(verbs, "export", "the plan as TOML, on stdout", run_export)
    exported.add_argument("site")
    imported = verb(verbs, "import", "replace the plan by one in TOML", run_import)
    imported.add_argument("site")
    imported.add_argument("file", type=Path, help="a TOML file, or - for stdin")
    copied = verb(verbs, "copy", "take over another site's plan, but for its addresses", run_copy)
    copied.add_argument("source", metavar="FROM")
    copied.add_argument("site", metavar="TO")


def run_show(args: argparse.Namespace) -> int:
    """Print the plan."""
    with connect(args) as desk:
        plan = desk.get_plan(find_site(desk, args.site).id)
    values, defaults = plan_values(plan.values), plan_values(plan.defaults)
    if args.format == "json":
        emit(values, "json", [])
        return 0
    rows = [
        {
            "name": name,
            "value": json.dumps(value, ensure_ascii=False),
            "changed": "changed" if value != defaults[name] else "",
        }
        for name, value in values.items()
    ]
    emit(rows, args.format, [("name", "Setting"), ("value", "Value"), ("changed", "")])
    for found in plan.proposed_drops:
        drop = json.dumps([*plan.values.drop_parameters, found.name])
        err.print(
            f"“{found.name}” looks like a session id ({count(found.addresses, 'address')}, such as {found.example}). To drop it:\n"
            f"  hodcarrier plan edit {args.site} drop_parameters='{drop}'",
            markup=False,
        )
    return 0


def read_settings(items: list[str]) -> dict[str, Any]:
    """Settings of a plan as they are given on a command line."""
    values: dict[str, Any] = {}
    for item in items:
        name, text = name_value(item, "rate_per_s=2")
        try:
            values[name] = _read_file(Path(text[1:])) if text.startswith("@") else json.loads(text)
        except ValueError:
            values[name] = text
    return values


def _read_file(path: Path) -> list[str]:
    found = read_list(read_text(path))
    if not found.addresses:
        raise InvalidInput(f"{path} holds no web address.", "Give one such as https://shop.example/ in each line.", "file")
    if found.words:
        err.print(f"{path}: {found.words} The other {count(len(found.addresses), 'URL')} are used.", markup=False)
    return found.addresses


def _warn(plan: PlanOut) -> int:
    """Say what to know before the next run. Gives the exit code."""
    for notice in plan.notices:
        err.print(f"! {notice}", markup=False)
    return 0


def run_edit(args: argparse.Namespace) -> int:
    """Change the plan."""
    values = read_settings(args.settings)
    with connect(args) as desk:
        site = find_site(desk, args.site)
        plan = desk.change_plan(site.id, PlanBody(values=values), version=desk.get_plan(site.id).version)
    err.print(f"Changed the plan of {site.host} (version {plan.version}). Future runs use it.")
    return _warn(plan)


def run_explain(args: argparse.Namespace) -> int:
    """Print what every setting means."""
    with connect(args) as desk:
        rows = [s.model_dump() for s in desk.list_plan_settings()]
    emit(rows, args.format, [("group_name", "About"), ("name", "Setting"), ("label", "Called"), ("text", "What it does")])
    return 0


def run_try(args: argparse.Namespace) -> int:
    """Print what would be fetched."""
    with connect(args) as desk:
        rows = desk.preview_plan(
            find_site(desk, args.site).id, PreviewBody(values=read_settings(args.settings), addresses=args.address)
        )
    plain = [r.model_dump() for r in rows]
    emit(plain, args.format, [("fetched", "Fetched"), ("url", "Address"), ("why", "Why not")])
    err.print(f"{sum(r.fetched for r in rows)} of {len(rows)} addresses would be fetched. Nothing was saved.")
    return 0


def run_export(args: argparse.Namespace) -> int:
    """Write the plan as TOML."""
    with connect(args) as desk:
        sys.stdout.write(desk.get_plan_toml(find_site(desk, args.site).id).toml)
    return 0


def run_import(args: argparse.Namespace) -> int:
    """Replace the plan."""
    text = read_text(args.file)
    with connect(args) as desk:
        site = find_site(desk, args.site)
        plan = desk.replace_plan(site.id, PlanToml(toml=text))
    err.print(f"Replaced the plan of {site.host} (version {plan.version}). Future runs use it.")
    return _warn(plan)


def run_copy(args: argparse.Namespace) -> int:
    """Copy a plan."""
    with connect(args) as desk:
        source, site = find_site(desk, args.source), find_site(desk, args.site)
        plan = desk.copy_plan(site.id, PlanCopy(from_site=source.id))
    err.print(f"{site.host} has the plan of {source.host} now (version {plan.version}), with its own addresses.")
    return _warn(plan)
