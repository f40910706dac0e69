"""``hodcarrier compare BASE HEAD``."""

from __future__ import annotations

import argparse
from itertools import islice
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import SIGNS, emit, err, out
from hodcarrier.cli.service import connect, limit, place_number, rows_max, run_of, save_file, table_form_of, verb
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import NotFound
from hodcarrier.core.judge.compare import CLASSES
from hodcarrier.core.states import Change, ComparedList, LineChange, PartKind
from hodcarrier.core.words import fill, signed, visible
from hodcarrier.wire.comparisons import ComparisonOut, FigureRow

LINES = {LineChange.SAME: " ", LineChange.ADDED: "+", LineChange.REMOVED: "−"}
LISTS = {
    ComparedList.APPEARED: "{n:page} appeared",
    ComparedList.GONE: "{n:page} gone",
    ComparedList.BLOCKED: "{n:page} newly blocked",
    ComparedList.LISTED: "{n:sitemap URL} added",
    ComparedList.UNLISTED: "{n:sitemap URL} removed",
    ComparedList.FILES_APPEARED: "{n:file} appeared",
    ComparedList.FILES_GONE: "{n:file} gone",
}
# As many as the service gives of a comparison at once.
ROWS_MAX = 2_000


def add_parser(commands: Any) -> None:
    """Describe the command."""
    parser = verb(commands, "compare", "two runs of a site side by side", run)
    parser.add_argument("base", metavar="BASE", help="the earlier run")
    parser.add_argument("head", metavar="HEAD", help="the later run, or a site for its latest")
    parser.add_argument("more", metavar="RUN", nargs="*", help="further runs: all of them side by side, figure by figure")
    parser.add_argument("--change", choices=tuple(CLASSES), default="", help="only this class")
    parser.add_argument("--event", type=place_number, metavar="N", help="only findings of this event, by its number in the table")
    parser.add_argument(
        "--by", choices=tuple(PartKind), type=PartKind, help="the causes, pages, folders or templates of which findings differ"
    )
    parser.add_argument("--urls", choices=tuple(ComparedList), type=ComparedList, help="the URLs of one list, such as pages gone")
    parser.add_argument(
        "--edit", type=place_number, metavar="N", help="the pages that one edit changed, by its number in the table"
    )
    parser.add_argument(
        "--save",
        type=Path,
        metavar="FILE",
        help="write the findings with their classes to a file that ends in .csv, .xlsx or .jsonl",
    )
    parser.add_argument("--limit", type=limit, help="rows at most (default: 20, or all for csv and json)")


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


def _columns(desk: Hodcarrier, args: argparse.Namespace) -> int:
    """Print runs side by side."""
    found = desk.compare_columns(",".join(run_of(desk, name) for name in (args.base, args.head, *args.more)))
    if args.format == "json":
        emit(found.model_dump(mode="json"), "json", [])
        return 0
    rows = [
        {"severity": row.severity or "", "label": row.label, **{run.id: _shown(row, n) for n, run in enumerate(found.runs)}}
        for row in found.rows
    ]
    heads = [(run.id, f"{run.at:%d %b %Y}" if run.at else run.id) for run in found.runs]
    emit(rows, args.format, [("severity", "Severity"), ("label", "Figure"), *heads], "")
    return 0


def _shown(row: FigureRow, place: int) -> str:
    value = row.values[place]
    if value is None:
        return ""
    return f"{value:.1f}" if row.id == "health" or row.id.startswith("area.") else f"{value:.0f}"


def _parts(desk: Hodcarrier, args: argparse.Namespace, base: str, head: str) -> int:
    """Print what findings are taken together by."""
    rows = [
        {
            **part.model_dump(mode="json"),
            "classes": " ".join(f"{SIGNS.get(change, '·')} {n:,}" for change, n in part.counts.items()),
        }
        for part in islice(desk.list_compared_parts(base, head, args.by), rows_max(args, 20))
    ]
    columns = [("name", args.by.capitalize()), ("then", "Then"), ("now", "Now"), ("classes", "Findings")]
    if args.by == PartKind.CAUSE:
        columns = [("severity", "Severity"), *columns]
    emit(rows, args.format, columns, "No findings differ between these runs.")
    return 0


def _urls(desk: Hodcarrier, args: argparse.Namespace, base: str, head: str) -> int:
    """Print one of the lists of URLs."""
    rows = [{"url": url} for url in islice(desk.list_compared_urls(base, head, args.urls), rows_max(args, 20))]
    emit(rows, args.format, [("url", "URL")], "There are none between these runs.")
    return 0


def _edit(desk: Hodcarrier, args: argparse.Namespace, base: str, head: str) -> int:
    """Print the pages that one edit changed."""
    groups = desk.compare_runs(base, head, limit=1).page_changes
    if args.edit > len(groups):
        raise NotFound(
            f"There is no change {args.edit} between these runs.", f"They are numbered 1 to {len(groups)} in the table."
        )
    pages = islice(desk.list_page_changes(base, head, groups[args.edit - 1].id), rows_max(args, 20))
    rows = [page.model_dump() for page in pages]
    emit(rows, args.format, [("url", "URL"), ("field", "What"), ("base", "Before"), ("head", "After")], "")
    return 0


def run(args: argparse.Namespace) -> int:
    """Print the comparison."""
    if args.more:
        with connect(args) as desk:
            return _columns(desk, args)
    for part, wanted_part in ((args.by, _parts), (args.urls, _urls), (args.edit, _edit)):
        if part:
            with connect(args) as desk:
                return wanted_part(desk, args, run_of(desk, args.base), run_of(desk, args.head))
    wanted = rows_max(args, 20)
    event = args.event - 1 if args.event else None
    change_wanted = Change(args.change) if args.change else None
    with connect(args) as desk:
        base, head = run_of(desk, args.base), run_of(desk, args.head)
        if args.save:
            form = table_form_of(args.save)
            return save_file(args.save, desk.export_comparison(base, head, form, change_wanted, event=event))
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
    _print_pages(found, wanted)
    return 0


def _print_pages(found: ComparisonOut, wanted: int) -> None:
    """What became of pages, files, sitemap entries and robots.txt."""
    changes = [
        {
            "number": number,
            "on": group.url if group.pages == 1 else fill(f"{{n:{group.role}}}", {"n": group.pages}),
            "field": group.field,
            "base": group.base if group.pages == 1 else group.removed,
            "head": group.head if group.pages == 1 else group.added,
        }
        for number, group in enumerate(found.page_changes[:wanted], 1)
    ]
    if changes:
        out.print(f"\n[bold]Page changes[/bold] ({found.page_changes_total:,}; the first {len(changes)})")
        emit(changes, "table", [("number", ""), ("on", "On"), ("field", "What"), ("base", "Before"), ("head", "After")])
    listed = [fill(LISTS[kind], {"n": n}) for kind, n in found.lists.items() if n]
    if listed:
        out.print(f"{', '.join(listed)}. List them with --urls.")
    if found.robots_lines:
        out.print("\n[bold]robots.txt[/bold]")
        for line in found.robots_lines:
            if line.gap:
                out.print("  …")
            turned = [
                fill(f"{word} {{n:known page}}", {"n": n}) for word, n in (("blocks", line.blocks), ("frees", line.frees)) if n
            ]
            said = f"   ← {', '.join(turned)}" if turned else ""
            out.print(f"{LINES[line.change]} {visible(line.text)}{said}", markup=False)
