"""What ``hodcarrier page``, ``file``, ``external`` and ``link`` have in common: lists of a run's inventory with any columns and filters."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Iterable
from itertools import islice
from typing import Any

from hodcarrier.cli.output import count, emit, err
from hodcarrier.cli.service import add_save, connect, limit, noun, rows_max, run_of, save_file, show, table_form_of, verb
from hodcarrier.cli.standing import add_links_from
from hodcarrier.client import Hodcarrier
from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.states import ColumnKind, InventoryKind
from hodcarrier.wire.inventory import ColumnOut, InventoryRow, ShareOut

RUN_HELP = "id of a run, a site for its latest, or SITE@DAY for the one it had on a day"
SHOWN = 50
COLUMN_COLUMNS = [
    ("name", "Column"),
    ("label", "What it is"),
    ("group", "Group"),
    ("kind", "Kind"),
    ("unit", "Unit"),
    ("text", ""),
]
VIEW_COLUMNS = [("name", "View"), ("where", "Filter"), ("columns", "Columns"), ("sort", "Sorted by")]
# Units of what is measured; all else is counted, so that 2 stands between 1 and 3 alone.
MEASURED = frozenset({"bytes", "ms", "s", "%", "points"})
WORDS = {
    InventoryKind.PAGE: "pages",
    InventoryKind.FILE: "files",
    InventoryKind.EXTERNAL: "URLs of other sites",
    InventoryKind.LINK: "links",
}


def add_parser(commands: Any) -> None:
    """Describe the commands on files, URLs of other sites and links; those on pages are in :mod:`hodcarrier.cli.page`."""
    add_verbs(noun(commands, "file", "the files that a run's pages use"), InventoryKind.FILE)
    add_verbs(noun(commands, "external", "the URLs of other sites that a run's pages name"), InventoryKind.EXTERNAL)
    links = noun(commands, "link", "the links of a run's pages and what else they refer to; links from other sites")
    add_verbs(links, InventoryKind.LINK)
    add_links_from(links)


def add_verbs(verbs: Any, of: InventoryKind) -> None:
    """The verbs that lists of addresses have."""
    listed = _verb(verbs, "list", f"{WORDS[of]} of a run", _run_list, of)
    _add_filter(listed)
    listed.add_argument("--columns", default="", metavar="A,B", help="columns to show, with commas between; see `columns`")
    listed.add_argument("--view", metavar="NAME", help="filter and columns of a view that ships; see `views`")
    listed.add_argument("--sort", help="a column; - in front for descending")
    listed.add_argument("--limit", type=limit, help=f"rows at most (default: {SHOWN}, or all for csv and json)")
    add_save(listed)
    figures = _verb(verbs, "figures", f"how {WORDS[of]} are spread over the values of columns", _run_figures, of)
    _add_filter(figures)
    figures.add_argument("--by", default="status", metavar="A,B", help="columns, with commas between (default: status)")
    _verb(verbs, "columns", "the columns, and how filters compare them", _run_columns, of)
    _verb(verbs, "views", "the views that ship", _run_views, of)


def _verb(
    verbs: Any, name: str, text: str, run: Callable[[argparse.Namespace], int], of: InventoryKind
) -> argparse.ArgumentParser:
    parser = verb(verbs, name, text, run)
    parser.set_defaults(of=of)
    return parser


def _add_filter(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("run_id", metavar="RUN", help=RUN_HELP)
    parser.add_argument("filters", nargs="*", metavar="FIELD=VALUE", help="such as status=404, words.lt=200, title.has=rope")
    parser.add_argument(
        "--where", default="", metavar="FILTER", help="a filter, such as 'status = 404 and (words < 200 or title is empty)'"
    )


def _short(args: argparse.Namespace) -> dict[str, str]:
    if not all("=" in item for item in args.filters):
        raise InvalidInput("A filter is FIELD=VALUE.", "Such as status=404 or words.lt=200, or give one with --where.")
    return dict(item.partition("=")[::2] for item in args.filters)


def _use_view(desk: Hodcarrier, args: argparse.Namespace) -> None:
    views = [view for view in desk.list_inventory_views() if view.of == args.of]
    key = args.view.strip().lower()
    found = [v for v in views if v.name.lower() == key] or [v for v in views if key and v.name.lower().startswith(key)]
    if len(found) != 1:
        raise NotFound(f"No view is called “{args.view}”.", f"There are {', '.join(view.name for view in views)}.")
    args.where = f"({found[0].where}) and ({args.where})" if args.where else found[0].where
    args.columns = args.columns or ",".join(found[0].columns)
    args.sort = args.sort or found[0].sort


def _run_list(args: argparse.Namespace) -> int:
    short = _short(args)
    with connect(args) as desk:
        if args.view:
            _use_view(desk, args)
        run, sort = run_of(desk, args.run_id), args.sort or ""
        if args.save:
            form = table_form_of(args.save)
            save_file(args.save, desk.export_inventory(run, args.of, args.where, args.columns, sort, form, **short))
            return 0
        wanted = rows_max(args, SHOWN)
        found: Iterable[InventoryRow] = desk.list_inventory(run, args.of, args.where, args.columns, sort, **short)
        rows = [row.values for row in islice(found, wanted + 1)]
        known = {column.name: column for column in desk.list_columns(args.of)}
    names = [name.strip() for name in args.columns.split(",") if name.strip()] or [
        c.name for c in sorted(known.values(), key=lambda c: c.shown) if c.shown
    ]
    heads = [(name, known[name].label if args.format == "table" else name) for name in names]
    emit(rows[:wanted], args.format, heads, f"No {WORDS[args.of]} like that.")
    if len(rows) > wanted:
        err.print(f"The first {wanted}; more with --limit.")
    return 0


def _run_figures(args: argparse.Namespace) -> int:
    short = _short(args)
    with connect(args) as desk:
        found = desk.get_inventory_figures(run_of(desk, args.run_id), args.of, args.where, "", args.by, **short)
        known = {column.name: column for column in desk.list_columns(args.of)}
    if args.format == "json":
        return show(args, found, [])
    rows = [
        {
            "column": known[spread.column].label,
            "value": words_of(known[spread.column], share),
            "count": share.count,
            "where": share.where,
        }
        for spread in found.spreads
        for share in spread.shares
    ]
    emit(
        rows,
        args.format,
        [("column", "Column"), ("value", "Value"), ("count", "How many"), ("where", "Filter")],
        "Nothing to count.",
    )
    if args.format == "table":
        one = "link" if args.of == InventoryKind.LINK else "address"
        err.print(f"{count(found.total, one)} of {found.all:,}")
    return 0


def words_of(column: ColumnOut, share: ShareOut) -> str:
    """A share's value as people read it."""
    if column.kind == ColumnKind.FLAG and share.value is not None:
        return "yes" if share.value else "no"
    if share.value is not None:
        return str(share.value)
    if share.low is None and share.high is None:
        return "none"
    unit = f" {column.unit}" if column.unit in MEASURED else ""
    low, high = share.low, share.high
    if low is None:
        return "0" if high == 1 and not unit else f"under {high:,g}{unit}"
    if high is None:
        return f"{low:,g}{unit} and more"
    if unit:
        return f"{low:,g} to {high:,g}{unit}"
    return f"{low:,g}" if high - low == 1 else f"{low:,g} to {high - 1:,g}"


def _run_columns(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        return show(args, desk.list_columns(args.of), COLUMN_COLUMNS)


def _run_views(args: argparse.Namespace) -> int:
    with connect(args) as desk:
        rows = [
            {**v.model_dump(mode="json"), "columns": ", ".join(v.columns)} for v in desk.list_inventory_views() if v.of == args.of
        ]
    emit(rows, args.format, VIEW_COLUMNS)
    return 0
