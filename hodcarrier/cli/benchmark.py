"""``hodcarrier benchmark list|show|trend|add|edit|schedule|remove|start``."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import emit, err, out
from hodcarrier.cli.service import called, connect, find_site, noun, save_file, show, table_form_of, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import NotFound
from hodcarrier.core.states import Lead
from hodcarrier.core.words import figure, gap
from hodcarrier.wire.benchmarks import BenchmarkBody, BenchmarkBrief, BenchmarkChange, BenchmarkRow, RoundScheduleBody

LACKING = {
    "kinds": "kind of page",
    "types": "structured data",
    "languages": "language",
    "terms": "in titles and headings",
}
MISSING_SHOWN = 15
SCHEDULE = [("words", "Rounds"), ("next_due_at", "Next (UTC)")]
COLUMNS = [
    ("id", "Id"),
    ("name", "Benchmark"),
    ("site_host", "Own site"),
    ("competitors", "Against"),
    ("rounds", "Rounds"),
    ("rank", "Rank by health"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "benchmark", "a site against its competitors")
    verb(verbs, "list", "all benchmarks", run_list)
    shown = verb(verbs, "show", "the latest round: measures, ranks, gaps", run_show)
    shown.add_argument("name", help="name or id")
    shown.add_argument(
        "--save",
        type=Path,
        metavar="FILE",
        help="write it to a file that ends in .csv, .xlsx (with checks and what they have) or .jsonl",
    )
    added = verb(verbs, "add", "set one up", run_add)
    added.add_argument("name")
    added.add_argument("site")
    added.add_argument("competitors", nargs="+", metavar="COMPETITOR")
    added.add_argument("--max-pages", type=int, default=500, help="pages of each site at most (default: 500)")
    added.add_argument("--rate", type=float, default=5.0, help="requests a second to each site (default: 5)")
    edited = verb(verbs, "edit", "change its name, competitors or limits", run_edit)
    edited.add_argument("name")
    edited.add_argument("--name", dest="new_name", help="another name")
    edited.add_argument("--against", nargs="+", metavar="COMPETITOR", help="the competitors from the next round on")
    edited.add_argument("--max-pages", type=int, help="pages of each site at most")
    edited.add_argument("--rate", type=float, help="requests a second to each site")
    removed = verb(verbs, "remove", "take it away with its rounds", run_remove)
    removed.add_argument("name")
    planned = verb(verbs, "schedule", "when rounds begin by themselves", run_schedule)
    planned.add_argument("name")
    planned.add_argument("rule", help="weekly:TU, monthly:1, an RRULE (RFC 5545), or none for no schedule")
    planned.add_argument("--at", default="03:00", help="time of day (default: 03:00)")
    planned.add_argument("--zone", default="UTC", help="time zone (default: UTC)")
    trend = verb(verbs, "trend", "a measure of every site over the rounds", run_trend)
    trend.add_argument("name")
    trend.add_argument("--measure", default="health", help="its id, as show --format json names them (default: health)")
    started = verb(verbs, "start", "run all its sites now", run_start)
    started.add_argument("name")


def _find(desk: Hodcarrier, key: str) -> BenchmarkBrief:
    found = desk.list_benchmarks()
    near = called(found, key)
    if len(near) == 1:
        return near[0]
    raise NotFound(
        f"There is no one benchmark called “{key}”.", "Benchmarks: " + (", ".join(b.name for b in found) or "none yet") + "."
    )


def run_list(args: argparse.Namespace) -> int:
    """Print benchmarks."""
    with connect(args) as desk:
        return show(
            args, desk.list_benchmarks(), COLUMNS, "No benchmarks yet. Set one up: hodcarrier benchmark add NAME SITE COMPETITOR"
        )


def run_show(args: argparse.Namespace) -> int:
    """Print the latest round."""
    with connect(args) as desk:
        found = desk.get_benchmark(_find(desk, args.name).id)
        if args.save:
            return save_file(args.save, desk.export_benchmark(found.id, table_form_of(args.save)))
    if args.format == "json":
        return show(args, found, COLUMNS)
    if not found.rows:
        err.print(f"{found.name}: {found.state}.")
        return 0
    if args.format == "csv":
        emit([_plain(row, found.hosts) for row in found.rows], "csv", [])
        return 0
    columns = [
        ("name", "Measure"),
        ("good", "Good is"),
        *((f"v{i}", host) for i, host in enumerate(found.hosts)),
        ("rank", "Rank"),
        ("gap", "To the best"),
    ]
    rows: list[dict[str, Any]] = []
    for row in found.rows:
        values = {f"v{i}": figure(v, row.unit) for i, v in enumerate(row.values)}
        rank = f"{row.ranks[0]} of {sum(r is not None for r in row.ranks)}" if row.ranks[0] else "–"
        rows.append(
            {
                "name": row.name,
                "good": "high" if row.high_is_good else "low",
                **values,
                "rank": rank,
                "gap": "level" if row.lead == Lead.LEVEL else gap(row.gap_to_best, row.unit),
            }
        )
    emit(rows, "table", columns)
    for heading, sentences in (("We lead", found.sentences.lead), ("To close first", found.sentences.close_first)):
        for said in sentences:
            out.print(f"{heading}: {said.text}", markup=False)
    if found.missing:
        out.print("")
        columns = [("kind", "They have"), ("name", "What"), *((f"v{i}", host) for i, host in enumerate(found.hosts) if i)]
        lacking = [
            {"kind": LACKING[each.kind], "name": each.name, **{f"v{i}": n or "" for i, n in enumerate(each.pages)}}
            for each in found.missing[:MISSING_SHOWN]
        ]
        emit(lacking, "table", columns)
    return 0


def run_edit(args: argparse.Namespace) -> int:
    """Change one."""
    with connect(args) as desk:
        against = [find_site(desk, key).id for key in args.against] if args.against else None
        body = BenchmarkChange(name=args.new_name, competitor_ids=against, pages_max=args.max_pages, rate_per_s=args.rate)
        return show(args, desk.change_benchmark(_find(desk, args.name).id, body), COLUMNS)


def run_remove(args: argparse.Namespace) -> int:
    """Take one away."""
    with connect(args) as desk:
        found = _find(desk, args.name)
        desk.remove_benchmark(found.id)
    err.print(f"{found.name} is removed.", markup=False)
    return 0


def run_schedule(args: argparse.Namespace) -> int:
    """Set when rounds begin, or that none does."""
    with connect(args) as desk:
        found = _find(desk, args.name)
        if args.rule == "none":
            desk.remove_round_schedule(found.id)
            err.print(f"Rounds of {found.name} begin only when somebody asks for one.", markup=False)
            return 0
        body = RoundScheduleBody(rule=args.rule, at=args.at, zone=args.zone)
        return show(args, desk.set_round_schedule(found.id, body), SCHEDULE)


def run_trend(args: argparse.Namespace) -> int:
    """Print a measure over the rounds."""
    with connect(args) as desk:
        found = desk.get_benchmark(_find(desk, args.name).id)
        rounds = desk.get_benchmark_trend(found.id, args.measure)
    columns = [("at", "Round (UTC)"), *((f"v{i}", host) for i, host in enumerate(found.hosts)), ("rank", "Our rank")]
    rows = [
        {
            "at": each.at.isoformat(),
            **{f"v{i}": value for i, value in enumerate(each.values)},
            "rank": each.ranks[0] if each.ranks else None,
        }
        for each in rounds
    ]
    emit(rows, args.format, columns, "No round has ended yet.")
    return 0


def _plain(row: BenchmarkRow, hosts: Sequence[str]) -> dict[str, Any]:
    """A measure as a row of a CSV table: plain numbers in its unit, one column for each site."""
    good = "high" if row.high_is_good else "low"
    values = dict(zip(hosts, row.values, strict=True))
    return {"measure": row.name, "unit": row.unit, "good": good, **values, "rank": row.ranks[0], "gap_to_best": row.gap_to_best}


def run_add(args: argparse.Namespace) -> int:
    """Set one up."""
    with connect(args) as desk:
        body = BenchmarkBody(
            name=args.name,
            site_id=find_site(desk, args.site).id,
            competitor_ids=[find_site(desk, key).id for key in args.competitors],
            pages_max=args.max_pages,
            rate_per_s=args.rate,
        )
        return show(args, desk.add_benchmark(body), COLUMNS)


def run_start(args: argparse.Namespace) -> int:
    """Start a round."""
    with connect(args) as desk:
        found = desk.start_round(_find(desk, args.name).id)
    err.print(f"A round of {found.name} has begun; see `hodcarrier benchmark show {found.id}`.")
    return 0
