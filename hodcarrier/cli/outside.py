"""``hodcarrier metric visits``, ``hodcarrier page outside`` and ``--weight``: what is known of a site and its pages from outside."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import count, emit, out
from hodcarrier.cli.service import (
    Column,
    add_save,
    connect,
    find_site,
    limit,
    read_day,
    save_file,
    say_more,
    show,
    table_form_of,
    verb,
)
from hodcarrier.core.states import VisitBy, VisitView, Weight
from hodcarrier.core.web.urls import read_address, split
from hodcarrier.wire.figures import SearchRow, VisitRow

VISITS = [
    ("text", "Page"),
    ("visits", "Visits"),
    ("before", "Before"),
    ("change", "Change"),
    ("movement", "Told"),
    ("engaged", "Engaged"),
    ("conversions", "Conversions"),
]
QUERIES = [
    ("text", "Query"),
    ("clicks", "Clicks"),
    ("before", "Before"),
    ("impressions", "Impressions"),
    ("position", "Position"),
]
CHANNELS = [("text", "Channel"), ("visits", "Visits"), ("before", "Before")]
KEYWORDS = [("keyword", "Keyword"), ("device", "Device"), ("place", "Place"), ("rank", "Position"), ("day", "Looked at")]


def add_visits(verbs: Any) -> None:
    """Describe ``metric visits``."""
    parser = verb(verbs, "visits", "visits by page or channel, against the weeks before", run_visits)
    parser.add_argument("site")
    parser.add_argument("--by", type=VisitBy, choices=list(VisitBy), default=VisitBy.PAGE, help="default: page")
    parser.add_argument("--view", type=VisitView, choices=list(VisitView), default=VisitView.ALL, help="default: all")
    parser.add_argument("--weeks", type=int, default=4, help="length of the period, and of the one before (default: 4)")
    parser.add_argument("--to", type=read_day, metavar="DAY", help="last day of the period (default: the last with figures)")
    parser.add_argument("--channel", default="", help="visits by this channel only")
    parser.add_argument("--text", default="", help="only pages or channels with this in them")
    parser.add_argument(
        "--sort", default="", metavar="FIGURE", help="visits, before, engaged, conversions or change; - in front for descending"
    )
    parser.add_argument("--limit", type=limit, default=25, help="how many (default: 25)")
    add_save(parser)


def add_outside(verbs: Any) -> None:
    """Describe ``page outside``."""
    parser = verb(verbs, "outside", "what is known of a page from outside: clicks, visits, positions, links", run_outside)
    parser.add_argument("address", help="of a page of a site that is set up")
    parser.add_argument("--site", help="which site, if it is not told by the host")


def add_weight(parser: argparse.ArgumentParser) -> None:
    """Describe ``--weight``."""
    parser.add_argument(
        "--weight",
        type=Weight,
        choices=list(Weight),
        default=Weight.GAIN,
        help="put those first that bring the most of it: gain of health, or what the pages concerned get in four weeks (default: gain)",
    )


def weighed(columns: list[Column], weight: Weight) -> list[Column]:
    """Columns with the weight that rows were put in order by, where it is another than the gain; it stands before their ids."""
    return columns if weight == Weight.GAIN else [*columns[:-1], ("weight", weight.capitalize()), columns[-1]]


def run_visits(args: argparse.Namespace) -> int:
    """Print visits."""
    asked = {name: getattr(args, name) for name in ("by", "view", "weeks", "to", "channel", "text", "sort")}
    with connect(args) as desk:
        site_id = find_site(desk, args.site).id
        if args.save:
            return save_file(args.save, desk.export_visits(site_id, table_form_of(args.save), **asked))
        found = desk.get_visits(site_id, **asked, limit=args.limit)
    if args.format == "json":
        return show(args, found, VISITS)
    if args.format == "table" and found.first is not None:
        now, before = count(found.now.sessions, "visit"), f"{found.before.sessions:,}"
        out.print(f"{found.first:%d %b %Y} to {found.last:%d %b %Y}: {now} (before: {before})", markup=False)
    nothing = "There are no visits of this site. Import some with `hodcarrier metric import SITE FILE`, or add a feed."
    columns = [(name, "Channel" if name == "text" and args.by == VisitBy.CHANNEL else head) for name, head in VISITS]
    empty = nothing if found.first is None else f"None in this view. Told by {found.test}."
    emit([_visits(row) for row in found.items], args.format, columns, empty)
    if args.format == "table":
        say_more(len(found.items), found.total)
    return 0


def _visits(row: VisitRow) -> dict[str, Any]:
    conversions = row.now.conversions
    return {
        "text": row.text,
        "visits": row.now.sessions,
        "before": row.before.sessions,
        "change": "" if row.change is None else f"{row.change:+.0%}".replace("-", "−"),
        "movement": row.movement,
        "engaged": row.now.engaged,
        "conversions": None if conversions is None else round(conversions, 1),
    }


def run_outside(args: argparse.Namespace) -> int:
    """Print what is known of a page."""
    with connect(args) as desk:
        address = read_address(args.address)
        found = desk.get_page_figures(find_site(desk, args.site or split(address).host).id, address)
    if args.format == "json":
        return show(args, found, [])
    queries = [_query(row) for row in found.queries]
    if args.format == "csv":
        emit(queries, args.format, QUERIES)
        return 0
    out.print(address, style="bold", markup=False)
    out.print(found.sentence, markup=False)
    for rows, columns in (
        (queries, QUERIES),
        ([_visits(row) for row in found.channels], CHANNELS),
        ([each.model_dump(mode="json") for each in found.keywords], KEYWORDS),
    ):
        if rows:
            out.print()
            emit(rows, args.format, columns)
    return 0


def _query(row: SearchRow) -> dict[str, Any]:
    place = row.now.position
    return {
        "text": row.text,
        "clicks": row.now.clicks,
        "before": row.before.clicks,
        "impressions": row.now.impressions,
        "position": None if place is None else round(place, 1),
    }
