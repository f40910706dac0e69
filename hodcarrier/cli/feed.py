"""``hodcarrier feed list|show|add|edit|pull|remove``."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from typing import Any

from hodcarrier.cli.output import emit, err, out, table
from hodcarrier.cli.service import ask, ask_password, connect, find_site, noun, show, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import FigureKind
from hodcarrier.wire.feeds import FigureFeedBody, FigureFeedChange, FigureFeedOut

COLUMNS = [
    ("id", "Id"),
    ("site_host", "Site"),
    ("name", "Feed"),
    ("state", "State"),
    ("sentence", "How it fares"),
    ("asked_at", "Asked (UTC)"),
    ("next_at", "Next (UTC)"),
]
OFFERS = [
    ("kind", "Kind"),
    ("first", "First day"),
    ("last", "Last day"),
    ("until", "Taken in until"),
    ("rows", "Rows"),
    ("taken", "Taken"),
]
TOKEN = "HODCARRIER_FEED_TOKEN"


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "feed", "addresses that serve figures from outside, asked every day")
    listed = verb(verbs, "list", "feeds, with how they fare", run_list)
    listed.add_argument("site", nargs="?", help="host, its beginning, or id; left out: all sites")
    shown = verb(verbs, "show", "what a feed has, and how much of it was taken in", run_show)
    added = verb(verbs, "add", "make a feed; it is asked at once", run_add)
    added.add_argument("site", help="host, its beginning, or id")
    added.add_argument("address", help="an https address that speaks the protocol of docs/figure-feed.md")
    edited = verb(verbs, "edit", "change a feed, or switch it off", run_edit)
    pulled = verb(verbs, "pull", "have a feed asked now", run_pull)
    removed = verb(verbs, "remove", "remove a feed; what it brought stays", run_remove)
    for parser in (shown, edited, pulled, removed):
        parser.add_argument("id", type=int)
    edited.add_argument("--address", help="where it is asked")
    edited.add_argument("--active", choices=("yes", "no"), help="no: it is not asked")
    edited.add_argument("--no-token", action="store_true", help="it needs no token any more")
    for parser in (added, edited):
        parser.add_argument("--name")
        parser.add_argument("--with-token", action="store_true", help=f"it needs a token, which is asked for, or {TOKEN}")
        parser.add_argument(
            "--kind",
            action="append",
            choices=tuple(FigureKind),
            help="take figures of this kind only (repeat for more; left out: all)",
        )
    removed.add_argument("--yes", action="store_true", help="do not ask")


def run_list(args: argparse.Namespace) -> int:
    """Print feeds."""
    with connect(args) as desk:
        site = find_site(desk, args.site).id if args.site else None
        return show(args, desk.list_figure_feeds(site), COLUMNS, "There is no feed. Add one: hodcarrier feed add SITE ADDRESS")


def run_show(args: argparse.Namespace) -> int:
    """Print what one has."""
    with connect(args) as desk:
        return _show(args, _find(desk, args.id))


def _find(desk: Hodcarrier, feed_id: int) -> FigureFeedOut:
    found = next((feed for feed in desk.list_figure_feeds() if feed.id == feed_id), None)
    if found is None:
        raise NotFound(f"There is no feed {feed_id}.", "List them with `hodcarrier feed list`.")
    return found


def _show(args: argparse.Namespace, feed: FigureFeedOut) -> int:
    if args.format == "json":
        return show(args, feed, [])
    rows = [{**each.model_dump(mode="json"), "taken": "yes" if each.wanted else "no"} for each in feed.offers]
    if args.format == "csv":
        emit(rows, args.format, OFFERS, "")
        return 0
    token = "with a token" if feed.has_token else "without a token"
    out.print(f"{feed.name}, {feed.site_host}: {feed.sentence}", markup=False)
    out.print(f"{feed.url}, {token}; asked next {feed.next_at:%a %d %b %Y %H:%M} UTC", markup=False)
    table(rows, OFFERS, "It has not said yet what it has.")
    return 0


def _kinds(given: Sequence[str] | None) -> list[FigureKind] | None:
    return [FigureKind(kind) for kind in given] if given else None


def run_add(args: argparse.Namespace) -> int:
    """Make one."""
    token = ask_password("Token of the feed: ", TOKEN) if args.with_token else ""
    body = FigureFeedBody(url=args.address, name=args.name or "", token=token, kinds=_kinds(args.kind) or [])
    with connect(args) as desk:
        return _show(args, desk.add_figure_feed(find_site(desk, args.site).id, body))


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    token = "" if args.no_token else ask_password("Token of the feed: ", TOKEN) if args.with_token else None
    active = None if args.active is None else args.active == "yes"
    given = {"url": args.address, "name": args.name, "token": token, "kinds": _kinds(args.kind), "active": active}
    change = FigureFeedChange.model_validate({name: value for name, value in given.items() if value is not None})
    with connect(args) as desk:
        return _show(args, desk.change_figure_feed(args.id, change))


def run_pull(args: argparse.Namespace) -> int:
    """Have one asked."""
    with connect(args) as desk:
        feed = desk.pull_figure_feed(args.id)
    err.print(f"{feed.name} is asked now; see `hodcarrier feed show {feed.id}`.", markup=False)
    return 0


def run_remove(args: argparse.Namespace) -> int:
    """Remove one."""
    with connect(args) as desk:
        feed = _find(desk, args.id)
        ask(f"Remove the feed “{feed.name}” of {feed.site_host}? The figures that it brought stay.", args.yes)
        desk.remove_figure_feed(feed.id)
    err.print(f"The feed “{feed.name}” is removed.", markup=False)
    return 0
