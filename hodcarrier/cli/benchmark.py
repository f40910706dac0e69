"""``hodcarrier benchmark list|show|add|start``."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from typing import Any

from hodcarrier.cli.output import emit, err, out
from hodcarrier.cli.service import called, connect, find_site, noun, show, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import NotFound
from hodcarrier.core.words import figure, gap
from hodcarrier.wire.benchmarks import BenchmarkBody, BenchmarkBrief, BenchmarkRow

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
    added = verb(verbs, "add", "set one up", run_add)
    added.add_argument("name")
    added.add_argument("site")
    added.add_argument("competitors", nargs="+", metavar="COMPETITOR")
    added.add_argument("--max-pages", type=int, default=500, help="pages of each site at most (default: 500)")
    added.add_argument("--rate", type=float, default=5.0, help="requests a second to each site (default: 5)")
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
        ("gap", "Gap to best"),
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
                "gap": gap(row.gap_to_best, row.unit),
            }
        )
    emit(rows, "table", columns)
    for heading, sentences in (("We lead", found.sentences.lead), ("To close first", found.sentences.close_first)):
        for sentence in sentences:
            out.print(f"{heading}: {sentence}", markup=False)
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
