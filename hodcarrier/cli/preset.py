"""``hodcarrier preset list|show|add|edit|remove``."""

from __future__ import annotations

import argparse
import json
from typing import Any

from hodcarrier.cli.output import emit, err
from hodcarrier.cli.plan import read_settings
from hodcarrier.cli.service import connect, find_site, noun, show, the_one_called, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.wire.presets import PresetBody, PresetChange, PresetOut, PresetTodo, SpreadSchedule

COLUMNS = [
    ("id", "Id"),
    ("name", "Preset"),
    ("sets", "What it sets"),
    ("when", "Schedule"),
    ("begins", "To-dos"),
    ("note", "What for"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "preset", "settings, schedule and first to-dos that sites are set up with")
    verb(verbs, "list", "all presets", run_list)
    shown = verb(verbs, "show", "what a preset sets", run_show)
    shown.add_argument("name", metavar="PRESET", help="name or id")
    added = verb(verbs, "add", "add a preset", run_add)
    added.add_argument("name")
    added.add_argument("--from", dest="source", metavar="SITE", help="take the settings and the schedule of this site")
    _add_fields(added)
    edited = verb(verbs, "edit", "change a preset; sites that were set up with it stay as they are", run_edit)
    edited.add_argument("name", metavar="PRESET", help="name or id")
    edited.add_argument("--rename", metavar="NAME")
    _add_fields(edited)
    removed = verb(verbs, "remove", "remove a preset; sites that were set up with it stay as they are", run_remove)
    removed.add_argument("name", metavar="PRESET", help="name or id")


def _add_fields(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("--note", help="what it is for")
    parser.add_argument(
        "--set", dest="settings", action="append", default=[], metavar="NAME=VALUE", help="a setting of a plan (repeat)"
    )
    add_schedule(parser)
    parser.add_argument(
        "--todo",
        action="append",
        metavar="TITLE",
        help="a to-do that a new client begins with, with “, N days” for when it is due (repeat; replaces the list)",
    )


def add_schedule(parser: argparse.ArgumentParser) -> None:
    """Describe a schedule for several sites."""
    parser.add_argument("--schedule", metavar="RULE", help="daily, weekly:tuesday, monthly:1 or a recurrence rule by RFC 5545")
    parser.add_argument("--at", metavar="HH:MM", default="02:00", help="time of day (default: 02:00)")
    parser.add_argument("--until", metavar="HH:MM", default="", help="spread the starts of several sites until then")
    parser.add_argument("--zone", default="UTC", help="time zone, such as Europe/London (default: UTC)")


def read_schedule(args: argparse.Namespace) -> SpreadSchedule | None:
    """The schedule that the options give, if any."""
    if args.schedule is None:
        return None
    return SpreadSchedule(rule=args.schedule, at=args.at, until=args.until, zone=args.zone)


def find_preset(desk: Hodcarrier, key: str) -> PresetOut:
    """A preset by id or name. Raises :class:`~hodcarrier.core.errors.NotFound`."""
    return the_one_called(desk.list_presets(), key, "preset")


def _todos(lines: list[str]) -> list[PresetTodo]:
    found = []
    for line in lines:
        title, _, rest = line.rpartition(", ")
        number, _, word = rest.partition(" ")
        dated = title and number.isdecimal() and word in ("day", "days")
        found.append(PresetTodo(title=title, days=int(number)) if dated else PresetTodo(title=line))
    return found


def run_list(args: argparse.Namespace) -> int:
    """Print the presets."""
    with connect(args) as desk:
        found = desk.list_presets()
    if args.format == "json":
        return show(args, found, COLUMNS)
    emit(
        [_row(preset) for preset in found],
        args.format,
        COLUMNS,
        "No presets yet. Add one: hodcarrier preset add NAME --from SITE",
    )
    return 0


def _row(preset: PresetOut) -> dict[str, Any]:
    schedule = preset.schedule
    return {
        "id": preset.id,
        "name": preset.name,
        "sets": ", ".join(f"{name}={json.dumps(value, ensure_ascii=False)}" for name, value in preset.settings.items()),
        "when": f"{schedule.rule} at {schedule.at}{f' to {schedule.until}' if schedule.until else ''} ({schedule.zone})"
        if schedule
        else "",
        "begins": [f"{todo.title}, {todo.days} days" if todo.days is not None else todo.title for todo in preset.todos],
        "note": preset.note,
    }


def run_show(args: argparse.Namespace) -> int:
    """Print one preset."""
    with connect(args) as desk:
        found = find_preset(desk, args.name)
    if args.format == "json":
        return show(args, found, COLUMNS)
    emit([_row(found)], args.format, COLUMNS)
    return 0


def run_add(args: argparse.Namespace) -> int:
    """Add one."""
    with connect(args) as desk:
        body = PresetBody(
            name=args.name,
            note=args.note or "",
            from_site=find_site(desk, args.source).id if args.source is not None else None,
            settings=read_settings(args.settings),
            schedule=read_schedule(args),
            todos=_todos(args.todo or []),
        )
        return _print(args, desk.add_preset(body))


def run_edit(args: argparse.Namespace) -> int:
    """Change one. Settings that are not named stay."""
    with connect(args) as desk:
        found = find_preset(desk, args.name)
        given: dict[str, Any] = {
            "name": args.rename,
            "note": args.note,
            "settings": {**found.settings, **read_settings(args.settings)} if args.settings else None,
            "schedule": read_schedule(args),
            "todos": None if args.todo is None else _todos(args.todo),
        }
        change = PresetChange(**{name: value for name, value in given.items() if value is not None})
        return _print(args, desk.change_preset(found.id, change, version=found.version))


def _print(args: argparse.Namespace, preset: PresetOut) -> int:
    if args.format == "json":
        return show(args, preset, COLUMNS)
    emit([_row(preset)], args.format, COLUMNS)
    return 0


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        found = find_preset(desk, args.name)
        desk.remove_preset(found.id)
    err.print(f"Removed the preset {found.name}.")
    return 0
