"""``hodcarrier trend SITE``."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import course, emit, out
from hodcarrier.cli.service import connect, find_client, find_site, read_day, save_file, show, table_form_of, verb
from hodcarrier.core.judge.trend_words import is_of_hundred
from hodcarrier.core.states import Every, SiteKind
from hodcarrier.wire.trends import TrendOut

COLUMNS = [("at", "When (UTC)"), ("value", "Value"), ("bricks", ""), ("pages", "Pages examined"), ("said", "")]
PERIODS = [("last", "Up to"), ("value", "Value"), ("bricks", ""), ("said", "")]
FIGURES = [("figure", "Figure"), ("label", "What")]
SITES = [("host", "Site"), ("first", "First"), ("last", "Last"), ("state", "State"), ("words", "")]


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = verb(commands, "trend", "a figure of a site over time", run)
    parser.add_argument("site", help="host, its beginning, or id; all sites of a client: client:NAME")
    parser.add_argument(
        "--figure",
        default="health",
        help="health, findings, pages, area.NAME, severity.NAME, check.ID, or one from outside; see --figures (default: health)",
    )
    parser.add_argument("--figures", action="store_true", help="list the figures from outside that the site has")
    parser.add_argument(
        "--every", type=Every, choices=list(Every), default=Every.RUN, help="each run, or by week or month (default: run)"
    )
    parser.add_argument("--save", type=Path, metavar="FILE", help="write it to a file that ends in .csv, .xlsx or .jsonl")
    parser.add_argument("--from", dest="start", metavar="DAY")
    parser.add_argument("--to", dest="end", metavar="DAY")


def run(args: argparse.Namespace) -> int:
    """Print the trend."""
    start, end = (read_day(d) if d else None for d in (args.start, args.end))
    with connect(args) as desk:
        if args.site.startswith("client:"):
            client = find_client(desk, args.site.removeprefix("client:"))
            sites = desk.list_sites(SiteKind.OWN, client=client.id)
            found = [(site.host, desk.get_trend(site.id, args.figure, start, end, args.every)) for site in sites]
            emit([_summed(host, trend) for host, trend in found], args.format, SITES, f"{client.name} has no sites of its own.")
            return 0
        site_id = find_site(desk, args.site).id
        if args.figures:
            return show(args, desk.list_trend_figures(site_id), FIGURES, "The site has no figures from outside.")
        if args.save:
            form = table_form_of(args.save)
            return save_file(args.save, desk.export_trend(site_id, form, args.figure, start, end, args.every))
        trend = desk.get_trend(site_id, args.figure, start, end, args.every)
    if args.format == "json":
        return show(args, trend, COLUMNS)
    return _print(args, trend)


def _summed(host: str, trend: TrendOut) -> dict[str, Any]:
    known = [point.value for point in trend.points if point.value is not None]
    ends = {"first": _shown(trend, known[0]), "last": _shown(trend, known[-1])} if known else {"first": None, "last": None}
    return {"host": host, **ends, "state": trend.state, "words": trend.words}


def _shown(trend: TrendOut, value: float | None) -> float | int | None:
    whole = value is not None and value.is_integer() and not is_of_hundred(trend.figure)
    return value if value is None else int(value) if whole else round(value, 1)


def _print(args: argparse.Namespace, trend: TrendOut) -> int:
    hundred = is_of_hundred(trend.figure)
    rows: list[dict[str, Any]] = [
        {
            "at": p.at.isoformat(),
            "last": p.last.isoformat() if p.last else "",
            "value": _shown(trend, p.value),
            "bricks": course(p.value) if hundred and p.value is not None else "",
            "pages": p.pages,
            "said": p.note,
        }
        for p in trend.points
    ]
    for remark in trend.remarks:
        day = remark.day.isoformat()
        rows.append({"at": day, "last": day, "value": None, "bricks": "", "pages": None, "said": f"remark: {remark.text}"})
    rows.sort(key=lambda r: str(r["last"] or r["at"]))
    if args.format == "table":
        good = "" if trend.high_is_good is None else f" {'High' if trend.high_is_good else 'Low'} is good."
        out.print(f"{trend.words}{good}", markup=False)
        if trend.between:
            out.print(trend.between, markup=False)
    emit(rows, args.format, COLUMNS if trend.every == Every.RUN else PERIODS, "Nothing is known of that time.")
    return 0
