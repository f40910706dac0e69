"""``hodcarrier compare BASE HEAD``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import SIGNS, emit, err, out, signed
from hodcarrier.cli.service import connect, limit, rows_max, run_of, verb
from hodcarrier.core.judge.compare import CLASSES
from hodcarrier.core.states import Change
from hodcarrier.core.words import visible

# As many as the service gives of a comparison at once.
ROWS_MAX = 2_000


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = verb(commands, "compare", "two runs of a site side by side", run)
    parser.add_argument("base", metavar="BASE", help="the earlier run")
    parser.add_argument("head", metavar="HEAD", help="the later run, or a site for its latest")
    parser.add_argument("--change", choices=tuple(CLASSES), default="", help="only this class")
    parser.add_argument("--limit", type=limit, help="rows at most (default: 20, or all for csv and json)")


def run(args: argparse.Namespace) -> int:
    """Print the comparison."""
    wanted = rows_max(args, 20)
    change_wanted = Change(args.change) if args.change else None
    with connect(args) as desk:
        base, head = run_of(desk, args.base), run_of(desk, args.head)
        found = desk.compare_runs(base, head, change_wanted, limit=min(wanted, ROWS_MAX))
        after = found.after
        while after is not None and len(found.findings) < wanted:
            part = desk.compare_runs(base, head, change_wanted, limit=min(wanted - len(found.findings), ROWS_MAX), after=after)
            found.findings.extend(part.findings)
            after = part.after
    if found.findings_total > len(found.findings):
        err.print(f"{len(found.findings):,} of {found.findings_total:,} findings; more with --limit, or fewer with --change.")
    if args.format == "json":
        emit(found.model_dump(mode="json"), "json", [])
        return 0
    rows = [{"sign": SIGNS.get(f.change, "·"), **f.model_dump()} for f in found.findings]
    columns = [
        ("sign", ""),
        ("change", "Class"),
        ("severity", "Severity"),
        ("summary", "What"),
        ("subject", "Page"),
        ("place", "Place"),
    ]
    if args.format == "csv":
        emit(rows, "csv", columns)
        return 0
    if found.base_health is not None and found.head_health is not None:
        change = f"both examined only {found.health.pages:,} of {found.health.pages_larger:,} pages: not compared"
        if found.health_change is not None:
            change = signed(found.health_change)
        out.print(f"Health {found.base_health:.1f} → {found.head_health:.1f} ({change}), high is good")
    for setting in found.settings:
        out.print(f"! {setting.name} differs: {setting.base} → {setting.head}", style="rgb(190,95,60)", markup=False)
    counts = [
        {"sign": SIGNS.get(name, "·"), "class": name.replace("-", " "), "count": found.counts[name], "meaning": words}
        for name, words in CLASSES.items()
        if found.counts.get(name)
    ]
    emit(
        counts, "table", [("sign", ""), ("class", "Class"), ("count", "Findings"), ("meaning", "")], "Neither run has a finding."
    )
    emit(rows, "table", columns, "")
    changes = [c.model_dump() for c in found.page_changes[:wanted]]
    if changes:
        out.print(f"\n[bold]Page changes[/bold] ({found.page_changes_total:,}; the first {len(changes)})")
        emit(changes, "table", [("url", "Page"), ("field", "What"), ("base", "Before"), ("head", "After")])
    if found.robots_diff:
        out.print("\n[bold]robots.txt[/bold]")
        for line in found.robots_diff:
            out.print(visible(line), markup=False)
        out.print(f"{len(found.newly_blocked):,} known pages are newly blocked.")
    return 0
