"""The inventory of a run as the surfaces show it: any columns, any filter, sums and spreads, exports of just what is seen."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from hodcarrier.core.inventory.columns import COLUMNS, Column
from hodcarrier.core.inventory.filters import (
    OPERATORS,
    UNITS,
    AllOf,
    AnyOf,
    Condition,
    Filter,
    Not,
    read_filter,
    read_parameter,
    write_filter,
)
from hodcarrier.core.inventory.views import DEFAULT_COLUMNS, DEFAULT_SORT, VIEWS
from hodcarrier.core.states import InventoryKind
from hodcarrier.runfile import listing
from hodcarrier.runfile.links import columns_of
from hodcarrier.usecases.outside_columns import Outside, outside_of
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.base import Listed
from hodcarrier.wire.inventory import ColumnOut, FilterOut, InventoryFigures, InventoryRow, InventoryView, ShareOut, SpreadOut

PART = 1_000


def list_columns(of: InventoryKind) -> list[ColumnOut]:
    """The columns of one kind of list."""
    at_first = {name: place for place, name in enumerate(DEFAULT_COLUMNS[of], 1)}
    return [
        ColumnOut(
            name=column.name,
            label=column.label,
            group=column.group,
            kind=column.kind,
            unit=column.unit,
            total=column.total,
            text=column.text,
            operators=list(OPERATORS[column.kind]),
            units=list(UNITS.get(column.unit, {})),
            choices=list(column.choices),
            shown=at_first.get(column.name, 0),
        )
        for column in COLUMNS[of].values()
    ]


def list_inventory_views() -> list[InventoryView]:
    """The views that ship."""
    return [InventoryView(name=v.name, of=v.of, where=v.where, columns=list(v.columns), sort=v.sort) for v in VIEWS]


def chosen_columns(of: InventoryKind, names: str) -> list[str]:
    """Columns by their names with commas between; none: those that are shown where nothing else is asked for."""
    return [name.strip() for name in names.split(",") if name.strip()] or list(DEFAULT_COLUMNS[of])


def filter_of(of: InventoryKind, where: str, short: Sequence[tuple[str, str, str]] = ()) -> Filter:
    """A filter as it is written, and those in short (field, operator, value), all of which hold. Raises :class:`InvalidInput`."""
    written = read_filter(where, COLUMNS[of])
    parts = tuple(read_parameter(*each, COLUMNS[of]) for each in short)
    return AllOf((written, *parts)) if parts else written


def list_inventory(
    work: Workspace, run_id: str, of: InventoryKind, found: Filter, columns: str, sort: str, limit: int, after: int
) -> Listed[InventoryRow]:
    """Addresses or references of a run, a part at a time."""
    kinds = COLUMNS[of]
    beside = _beside(work, run_id, of)
    with work.open_run(run_id) as opened:
        held = columns_of(opened, of, beside)
        part = listing.list_part(
            held, kinds, listing.met(held, found, kinds), chosen_columns(of, columns), sort or DEFAULT_SORT[of], limit, after
        )
    rows = [InventoryRow(id=int(row.pop("id") or 0), values=row) for row in part.rows]
    return Listed(items=rows, total=part.total, after=None if part.after is None else str(part.after))


def get_inventory_figures(
    work: Workspace, run_id: str, of: InventoryKind, found: Filter, columns: str, by: str
) -> InventoryFigures:
    """What a list comes to. ``by``: columns by whose values it is counted, with commas between."""
    kinds = COLUMNS[of]
    counted = [_column(kinds, name) for name in (chosen_columns(of, by) if by else [])]
    summed = [_column(kinds, name).name for name in chosen_columns(of, columns)]
    beside = _beside(work, run_id, of)
    with work.open_run(run_id) as opened:
        held = columns_of(opened, of, beside)
        mask = listing.met(held, found, kinds)
        sums = listing.sums(held, kinds, mask, summed)
        return InventoryFigures(
            total=int(mask.sum()),
            all=len(held),
            sums={name: figure.value for name, figure in sums.items()},
            filter=_filter_out(found),
            spreads=[
                SpreadOut(column=column.name, shares=[_share_out(share) for share in listing.spread(held, column, mask)])
                for column in counted
            ],
            recorded=sorted(held.names & set(kinds)),
        )


def each_row(
    work: Workspace, run_id: str, of: InventoryKind, found: Filter, columns: Sequence[str], sort: str
) -> Iterator[dict[str, listing.Value]]:
    """All rows of a list with the values of columns. What is wrong with them is said before the first row. Raises :class:`InvalidInput`."""
    kinds = COLUMNS[of]
    sort = sort or DEFAULT_SORT[of]
    listing.check_columns(kinds, [*columns, *([sort.removeprefix("-")] if sort else [])])

    def rows() -> Iterator[dict[str, listing.Value]]:
        beside = _beside(work, run_id, of)
        with work.open_run(run_id) as opened:
            held = columns_of(opened, of, beside)
            for part in listing.parts(held, kinds, listing.met(held, found, kinds), columns, sort, PART):
                for row in part:
                    del row["id"]
                    yield row

    return rows()


def _beside(work: Workspace, run_id: str, of: InventoryKind) -> Outside | None:
    return outside_of(work, run_id) if of == InventoryKind.PAGE else None


def _column(kinds: dict[str, Column], name: str) -> Column:
    listing.check_columns(kinds, [name])
    return kinds[name]


def _share_out(share: listing.Share) -> ShareOut:
    return ShareOut(count=share.count, value=share.value, low=share.low, high=share.high, where=write_filter(share.where))


def _filter_out(found: Filter) -> FilterOut:
    match found:
        case Condition(column, operator, values):
            return FilterOut(kind="condition", column=column, operator=operator, values=list(values))
        case Not(part):
            return FilterOut(kind="not", parts=[_filter_out(part)])
        case AllOf(parts):
            return FilterOut(kind="all", parts=[_filter_out(part) for part in parts])
        case AnyOf(parts):
            return FilterOut(kind="any", parts=[_filter_out(part) for part in parts])
