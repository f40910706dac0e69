"""``hodcarrier view list|add|remove``: filters of the console's screens under a name."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Mapping
from contextlib import suppress
from typing import Any
from urllib.parse import parse_qsl

from hodcarrier.cli.output import err
from hodcarrier.cli.service import connect, noun, show, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import ViewPlace
from hodcarrier.wire.views import ViewBody

COLUMNS = [("id", "Id"), ("place", "Screen"), ("name", "View"), ("query", "Filters"), ("shared", "Shared"), ("author", "By")]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "view", "saved filters of the console's screens")
    listed = verb(verbs, "list", "your views, and those that others share", run_list)
    listed.add_argument("--place", choices=tuple(ViewPlace), help="those of one screen")
    added = verb(verbs, "add", "save filters under a name", run_add)
    added.add_argument("place", choices=tuple(ViewPlace), help="the screen")
    added.add_argument("name")
    added.add_argument("query", help="what stands behind the question mark in the screen's address")
    added.add_argument("--share", action="store_true", help="everybody at the agency sees it")
    removed = verb(verbs, "remove", "remove a view", run_remove)
    removed.add_argument("id", type=int)


def use_view(desk: Hodcarrier, args: argparse.Namespace, place: ViewPlace, kinds: Mapping[str, Callable[[str], Any]]) -> None:
    """Filter by a saved view, named by its id, its name or the unique beginning of its name. ``kinds``: the filters that the command has too, by
    how they are read; those that were given on the command line stay. What only says how the console draws the list is passed over."""
    there = desk.list_views(place)
    key = args.view.strip().lower()
    exact = [view for view in there if key in (str(view.id), view.name.lower())]
    near = exact or [view for view in there if key and view.name.lower().startswith(key)]
    if len(near) != 1:
        names = ", ".join(view.name for view in there)
        raise NotFound(
            f"No view of this screen is called “{args.view}”.", f"There are {names}." if names else "None is saved yet."
        )
    for name, value in parse_qsl(near[0].query):
        if name in kinds and not getattr(args, name):
            with suppress(ValueError):  # as in the console, a word that means nothing narrows nothing
                setattr(args, name, kinds[name](value))


def run_list(args: argparse.Namespace) -> int:
    """Print views."""
    with connect(args) as desk:
        place = ViewPlace(args.place) if args.place else None
        return show(args, desk.list_views(place), COLUMNS, "No views are saved. Save one in the console, beside the filters.")


def run_add(args: argparse.Namespace) -> int:
    """Save one."""
    with connect(args) as desk:
        body = ViewBody(place=ViewPlace(args.place), name=args.name, query=args.query, shared=args.share)
        return show(args, desk.add_view(body), COLUMNS)


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        desk.remove_view(args.id)
    err.print(f"Removed view {args.id}.")
    return 0
