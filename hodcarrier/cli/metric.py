"""``hodcarrier metric list|kinds|search|visits|import|add|files|file|forget``: figures that come from outside."""

from __future__ import annotations

import argparse
import base64
import gzip
from pathlib import Path
from typing import Any

from hodcarrier.cli.output import count, emit, err, number, out
from hodcarrier.cli.outside import add_visits
from hodcarrier.cli.service import (
    add_save,
    connect,
    find_site,
    limit,
    name_value,
    noun,
    read_day,
    save_file,
    say_more,
    show,
    table_form_of,
    verb,
)
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import Brand, DayOrder, DecimalMark, FigureKind, SearchBy, SearchView
from hodcarrier.wire.figures import (
    FILE_BYTES_MAX,
    FigureFileBody,
    FigureFileOut,
    FigureImport,
    FigureLayoutBody,
    FigureOutcome,
    FigurePreview,
    FigureRows,
    SearchOut,
)

COLUMNS = [("name", "Figure"), ("day", "Day"), ("value", "Value"), ("source", "Source")]
KINDS = [("kind", "Figures"), ("rows", "Rows"), ("first", "From"), ("last", "To"), ("sources", "Source")]
# A million rows are read in half a minute, and on a busy machine in some.
IMPORT_S = 600.0
FILES = [
    ("id", "Id"),
    ("name", "File"),
    ("kind", "Figures"),
    ("stage", "Stage"),
    ("at", "Added"),
    ("author", "By"),
    ("source", "Source"),
    ("rows", "Rows"),
]
SEARCH = [
    ("text", "Query"),
    ("clicks", "Clicks"),
    ("clicks_before", "Before"),
    ("change", "Change"),
    ("movement", "Told"),
    ("impressions", "Impressions"),
    ("ctr", "CTR"),
    ("position", "Position"),
    ("lost_clicks", "Clicks missed"),
]


def add_parser(commands: Any) -> None:
    """Describe the commands."""
    verbs = noun(commands, "metric", "figures the crawl cannot know")
    listed = verb(verbs, "list", "figures of a site as a whole", run_list)
    listed.add_argument("site")
    kinds = verb(verbs, "kinds", "what there is of each kind of figures of a site", run_kinds)
    kinds.add_argument("site")
    _describe_search(verb(verbs, "search", "queries or pages with clicks, impressions and positions", run_search))
    add_visits(verbs)
    _describe_import(verb(verbs, "import", "import a table of figures (CSV or XLSX)", run_import))
    added = verb(verbs, "add", "type figures in", run_add)
    added.add_argument("site")
    added.add_argument("kind", type=FigureKind, choices=list(FigureKind))
    added.add_argument("values", nargs="+", metavar="FIELD=VALUE", help="one row, such as day=2026-11-02 name=Reviews value=41")
    added.add_argument("--source", default="typed in", help="where the figures are from")
    files = verb(verbs, "files", "tables of figures that were added", run_files)
    files.add_argument("site")
    shown = verb(verbs, "file", "one table of figures", run_file)
    shown.add_argument("site")
    shown.add_argument("id", type=int)
    forgotten = verb(verbs, "forget", "remove a table; figures that were imported stay", run_forget)
    forgotten.add_argument("site")
    forgotten.add_argument("id", type=int)


def _describe_search(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("site")
    parser.add_argument("--by", type=SearchBy, choices=list(SearchBy), default=SearchBy.QUERY, help="default: query")
    parser.add_argument("--view", type=SearchView, choices=list(SearchView), default=SearchView.ALL, help="default: all")
    parser.add_argument("--weeks", type=int, default=4, help="length of the period, and of the one before (default: 4)")
    parser.add_argument("--to", type=read_day, metavar="DAY", help="last day of the period (default: the last with figures)")
    parser.add_argument("--brand", type=Brand, choices=list(Brand), default=Brand.BOTH, help="default: both")
    parser.add_argument("--device", default="", help="figures of this device only")
    parser.add_argument("--country", default="", help="figures of this country only")
    parser.add_argument("--text", default="", help="only queries or pages with this in them")
    parser.add_argument(
        "--sort",
        default="",
        metavar="FIGURE",
        help="clicks, impressions, ctr, position, change or lost; - in front for descending",
    )
    parser.add_argument("--limit", type=limit, default=25, help="how many (default: 25)")
    add_save(parser)


def _describe_import(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("site")
    parser.add_argument("file", type=Path)
    parser.add_argument("--check", action="store_true", help="only show how the table is understood")
    parser.add_argument(
        "--kind", type=FigureKind, choices=list(FigureKind), help="what the figures are of (default: as the headings say)"
    )
    parser.add_argument("--sheet", help="the sheet of a workbook")
    parser.add_argument("--head-row", type=int, metavar="N", help="the row of the headings")
    parser.add_argument(
        "--column", action="append", default=[], metavar="FIELD=N", help="the column of a field (1 is the first); may be repeated"
    )
    parser.add_argument(
        "--fixed", action="append", default=[], metavar="FIELD=VALUE", help="what holds for all rows; may be repeated"
    )
    parser.add_argument("--days", type=DayOrder, choices=list(DayOrder), help="in which order days are written")
    parser.add_argument("--decimals", type=DecimalMark, choices=list(DecimalMark), help="what stands before decimals")
    parser.add_argument("--source", default="", help="where the table is from (default: the name of the file)")
    parser.add_argument("--leave-out", action="store_true", help="leave out rows that cannot be read")


def run_list(args: argparse.Namespace) -> int:
    """Print figures of a site as a whole."""
    with connect(args) as desk:
        rows = desk.list_metrics(find_site(desk, args.site).id)
    if args.format != "table":
        return show(args, rows, COLUMNS)
    plain = [{**row.model_dump(mode="json"), "value": f"{row.value:,.10g}"} for row in rows]
    emit(plain, "table", COLUMNS, "No figures were imported for this site.")
    return 0


def run_kinds(args: argparse.Namespace) -> int:
    """Print what there is."""
    with connect(args) as desk:
        rows = desk.list_figures(find_site(desk, args.site).id)
    if args.format == "json":
        return show(args, rows, KINDS)
    plain = [{**row.model_dump(mode="json"), "sources": ", ".join(row.sources)} for row in rows]
    emit(plain, args.format, KINDS, "There are no figures of this site. Import some with `hodcarrier metric import SITE FILE`.")
    return 0


def run_search(args: argparse.Namespace) -> int:
    """Print queries or pages."""
    asked = {name: getattr(args, name) for name in ("by", "view", "weeks", "to", "brand", "device", "country", "text", "sort")}
    with connect(args) as desk:
        site_id = find_site(desk, args.site).id
        if args.save:
            return save_file(args.save, desk.export_search_figures(site_id, table_form_of(args.save), **asked))
        found = desk.get_search_figures(site_id, **asked, limit=args.limit)
    if args.format == "json":
        return show(args, found, SEARCH)
    rows = [
        {
            "text": row.text,
            "clicks": row.now.clicks,
            "clicks_before": row.before.clicks,
            "change": "" if row.change is None else f"{row.change:+.0%}".replace("-", "−"),
            "movement": row.movement,
            "impressions": row.now.impressions,
            "ctr": "" if row.now.ctr is None else f"{row.now.ctr:.1%}",
            "position": None if row.now.position is None else round(row.now.position, 1),
            "lost_clicks": None if row.lost_clicks is None else round(row.lost_clicks),
        }
        for row in found.items
    ]
    columns = [(name, "Page" if name == "text" and args.by == SearchBy.PAGE else head) for name, head in SEARCH]
    if args.format == "table":
        _say_sums(found)
    emit(rows, args.format, columns, _nothing(found))
    if args.format == "table":
        say_more(len(rows), found.total)
    return 0


def _say_sums(found: SearchOut) -> None:
    if found.first is None:
        return
    now, before = found.now, found.before
    out.print(
        f"{found.first:%d %b %Y} to {found.last:%d %b %Y}: {count(now.clicks, 'click')} (before: {before.clicks:,}), "
        f"{count(now.impressions, 'impression')} (before: {before.impressions:,}), "
        f"mean position {number(now.position)} (before: {number(before.position)})",
        markup=False,
    )


def _nothing(found: SearchOut) -> str:
    if found.first is None:
        return "There are no search figures of this site. Import some with `hodcarrier metric import SITE FILE`."
    return f"None in this view. Told by {found.test}."


def run_import(args: argparse.Namespace) -> int:
    """Show how a table is understood, and import it."""
    try:
        content = args.file.read_bytes()
    except OSError as error:
        raise InvalidInput(f"{args.file} cannot be read: {error.strerror}.", "Check the path.", "file") from None
    packed = content if content.startswith(b"PK") else gzip.compress(content, 6)
    if len(packed) > FILE_BYTES_MAX:
        raise InvalidInput(f"{args.file} is larger than 23 MiB, even packed.", "Import it in parts.", "file")
    body = FigureFileBody(name=args.file.name, content=base64.b64encode(packed).decode(), source=args.source)
    with connect(args, IMPORT_S) as desk:
        site = find_site(desk, args.site).id
        table = desk.add_figure_file(site, body)
        kept = False
        try:
            table = _laid_out(desk, site, table, args)
            assert table.preview is not None
            if args.check:
                if args.format == "table":
                    _say_preview(table, table.preview)
            else:
                table = desk.import_figure_file(site, table.id, FigureImport(leave_out=args.leave_out))
                kept = True
        finally:
            if not kept:
                desk.remove_figure_file(site, table.id)
    if args.format != "table":
        return show(args, table, FILES)
    if table.outcome is not None:
        err.print(_outcome(table.outcome), markup=False)
    else:
        err.print("Nothing was imported.")
    return 0


def _laid_out(desk: Hodcarrier, site: int, table: FigureFileOut, args: argparse.Namespace) -> FigureFileOut:
    """The table understood as the options say."""
    if args.kind is not None or args.sheet is not None:
        table = desk.lay_out_figure_file(site, table.id, FigureLayoutBody(kind=args.kind, sheet=args.sheet))
    assert table.preview is not None
    layout = table.preview.layout
    columns, fixed = dict(layout.columns), dict(layout.fixed)
    for item in args.column:
        name, column = name_value(item, "--column page=3")
        if not column.isdecimal():
            raise InvalidInput(f"“{column}” is not the number of a column.", "Count from 1.", "column")
        columns[name.strip()] = int(column)
    for item in args.fixed:
        name, value = name_value(item, "--fixed device=phone")
        fixed[name.strip()] = value
        columns.pop(name.strip(), None)
    changed = layout.model_copy(
        update={
            "columns": columns,
            "fixed": fixed,
            "head_row": args.head_row or layout.head_row,
            "days": args.days or layout.days,
            "decimals": args.decimals or layout.decimals,
        }
    )
    return table if changed == layout else desk.lay_out_figure_file(site, table.id, FigureLayoutBody(layout=changed))


def _say_preview(table: FigureFileOut, preview: FigurePreview) -> None:
    layout, heads = preview.layout, {field.name: field.head for field in preview.fields}
    given = [f"{heads[name]} in column {column}" for name, column in sorted(layout.columns.items(), key=lambda item: item[1])]
    given += [f"{heads[name]} is {value} in all rows" for name, value in layout.fixed.items()]
    sheet = f", sheet {layout.sheet}" if layout.sheet else ""
    said = "; ".join(given) or "No column is recognised"
    out.print(
        f"{table.name}{sheet}, from {table.source}: {layout.kind} figures, headings in row {layout.head_row}. {said}.",
        markup=False,
    )
    columns = [(field.name, field.head) for field in preview.fields if field.name in layout.columns or field.name in layout.fixed]
    emit(preview.rows, "table", columns, "No row can be read as it is understood now.")
    rows = f"{count(preview.readable, 'row')} can be read"
    days = f", {preview.first:%d %b %Y} to {preview.last:%d %b %Y}" if preview.first and preview.last else ""
    pages = (
        f". {count(preview.pages, 'page')}, {preview.pages_unknown:,} of them unknown to the latest run" if preview.pages else ""
    )
    queries = (
        f". {count(preview.queries, 'query').replace('querys', 'queries')}, {preview.queries_unknown:,} of them new"
        if preview.queries
        else ""
    )
    out.print(f"{rows}{days}{pages}{queries}.", markup=False)
    if len(preview.day_orders) > 1:
        out.print(f"Days could be read as {' or '.join(preview.day_orders)}; they are read as {layout.days}.", markup=False)
    if len(preview.decimal_marks) > 1 and any("," in cell or "." in cell for row in preview.cells for cell in row):
        out.print(f"Decimals are read after a {layout.decimals}.", markup=False)
    for problem in preview.problems:
        out.print(f"Row {problem.row}: {problem.text}.", markup=False)
    if preview.unreadable > len(preview.problems):
        out.print(f"… and {preview.unreadable - len(preview.problems):,} more rows that cannot be read.", markup=False)


def _outcome(found: FigureOutcome) -> str:
    parts = [f"{found.new:,} new", f"{found.same:,} as they were", f"{found.replaced:,} in place of others"]
    parts += [f"{found.repeated:,} given more than once"] if found.repeated else []
    parts += [f"{found.left_out:,} left out"] if found.left_out else []
    return f"Imported: {', '.join(parts)}."


def run_add(args: argparse.Namespace) -> int:
    """Type a row in."""
    row = dict(name_value(item, "value=41") for item in args.values)
    with connect(args) as desk:
        site = find_site(desk, args.site).id
        found = desk.add_figures(site, FigureRows(kind=args.kind, source=args.source, rows=[row]))
    if args.format != "table":
        return show(args, found, [])
    err.print(_outcome(found), markup=False)
    return 0


def run_files(args: argparse.Namespace) -> int:
    """Print tables."""
    with connect(args) as desk:
        rows = desk.list_figure_files(find_site(desk, args.site).id)
    if args.format == "json":
        return show(args, rows, FILES)
    plain = [
        {**row.model_dump(mode="json"), "rows": row.outcome.new + row.outcome.replaced if row.outcome else None} for row in rows
    ]
    emit(plain, args.format, FILES, "No table of figures was added to this site.")
    return 0


def run_file(args: argparse.Namespace) -> int:
    """Print one table."""
    with connect(args) as desk:
        table = desk.get_figure_file(find_site(desk, args.site).id, args.id)
    if args.format != "table":
        return show(args, table, FILES)
    if table.preview is not None:
        _say_preview(table, table.preview)
    elif table.outcome is not None:
        out.print(f"{table.name}, {table.kind} figures from {table.source}, added by {table.author}.", markup=False)
        out.print(_outcome(table.outcome), markup=False)
    return 0


def run_forget(args: argparse.Namespace) -> int:
    """Remove a table."""
    with connect(args) as desk:
        desk.remove_figure_file(find_site(desk, args.site).id, args.id)
    err.print(f"Table {args.id} is removed. Figures that were imported stay.")
    return 0
