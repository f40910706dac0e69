"""``hodcarrier compare BASE HEAD``."""

from __future__ import annotations

import argparse
from typing import Any

from hodcarrier.cli.output import SIGNS, emit, err, out, signed
from hodcarrier.cli.service import connect, limit, rows_max, run_of, verb
from hodcarrier.core.errors import NotFound
from hodcarrier.core.judge.compare import CLASSES
from hodcarrier.core.states import Change
from hodcarrier.core.words import visible
from hodcarrier.wire.comparisons import ComparisonOut

# As many as the service gives of a comparison at once.
ROWS_MAX = 2_000


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = verb(commands, "compare", "two runs of a site side by side", run)
    parser.add_argument("base", metavar="BASE", help="the earlier run")
    parser.add_argument("head", metavar="HEAD", help="the later run, or a site for its latest")
    parser.add_argument("--change", choices=tuple(CLASSES), default="", help="only this class")
    parser.add_argument("--event", type=event_number, metavar="N", help="only findings of this event, by its number in the table")
    parser.add_argument("--limit", type=limit, help="rows at most (default: 20, or all for csv and json)")


def event_number(text: str) -> int:
    """The number of an event, from 1."""
    if not text.isascii() or not text.isdigit() or not int(text):
        raise argparse.ArgumentTypeError(f"“{text}” is no number of an event: give one from the table, such as 1.")
    return int(text)


def _print_events(found: ComparisonOut) -> None:
    """What happened, with its part of the change in health."""
    todos: dict[int, list[str]] = {}
    for todo in found.event_todos:
        todos.setdefault(todo.event, []).append(f"{todo.todo_id} {todo.state}")
    rows = [
        {
            "event": place + 1,
            "health": signed(event.shown),
            "title": visible(event.title),
            "detail": visible(event.detail),
            "findings": " ".join(f"{SIGNS.get(change, '·')} {n:,}" for change, n in event.counts.items()),
            "todos": ", ".join(todos.get(place, [])),
        }
        for place, event in enumerate(found.events)
    ]
    columns = [("event", ""), ("health", "Health"), ("title", "What happened"), ("findings", "Findings"), ("todos", "To-do")]
    if rows:
        emit(rows, "table", [*columns, ("detail", "Details")], "")


def run(args: argparse.Namespace) -> int:
    """Print the comparison."""
    wanted = rows_max(args, 20)
    event = args.event - 1 if args.event else None
    change_wanted = Change(args.change) if args.change else None
    with connect(args) as desk:
        base, head = run_of(desk, args.base), run_of(desk, args.head)
        found = desk.compare_runs(base, head, change_wanted, event=event, limit=min(wanted, ROWS_MAX))
        after = found.after
        while after is not None and len(found.findings) < wanted:
            left = min(wanted - len(found.findings), ROWS_MAX)
            part = desk.compare_runs(base, head, change_wanted, event=event, limit=left, after=after)
            found.findings.extend(part.findings)
            after = part.after
    if event is not None and event >= len(found.events):
        raise NotFound(
            f"There is no event {args.event} between these runs.", f"They are numbered 1 to {len(found.events)} in the table."
        )
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
    out.print(visible(found.sentence), markup=False)
    if found.base_health is not None and found.head_health is not None and found.health_change is None:
        out.print(f"Both runs examined only {found.health.pages:,} of {found.health.pages_larger:,} pages.")
    _print_events(found)
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
