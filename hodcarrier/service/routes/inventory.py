"""The inventory of a run: columns, lists, figures, exports."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from fastapi.responses import StreamingResponse

from hodcarrier.core.inventory.filters import Filter
from hodcarrier.core.states import InventoryKind, TableForm
from hodcarrier.report.tables import csv_parts, json_lines
from hodcarrier.report.workbook import write_workbook
from hodcarrier.service.deps import Work, actual_run
from hodcarrier.service.guard import serves
from hodcarrier.service.spooled import spooled
from hodcarrier.usecases import inventory
from hodcarrier.wire.base import Listed
from hodcarrier.wire.inventory import ColumnOut, InventoryFigures, InventoryRow, InventoryView

router = APIRouter()
PARAMETERS = frozenset({"of", "where", "columns", "sort", "limit", "after", "by", "form"})
TYPES = {
    TableForm.CSV: "text/csv; charset=utf-8",
    TableForm.XLSX: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    TableForm.LINES: "application/jsonl",
}


def _filter(request: Request, of: InventoryKind = InventoryKind.PAGE, where: str = "") -> Filter:
    """All that a request filters by: what is written out, and every parameter that is the name of a column."""
    short = [
        (name.partition(".")[0], name.partition(".")[2], value)
        for name, value in request.query_params.multi_items()
        if name not in PARAMETERS
    ]
    return inventory.filter_of(of, where, short)


Filtered = Annotated[Filter, Depends(_filter)]


@serves(router, "list_columns")
def list_columns(of: InventoryKind = InventoryKind.PAGE) -> list[ColumnOut]:
    return inventory.list_columns(of)


@serves(router, "list_inventory_views")
def list_inventory_views() -> list[InventoryView]:
    return inventory.list_inventory_views()


@serves(router, "list_inventory")
def list_inventory(
    run_id: str,
    work: Work,
    found: Filtered,
    of: InventoryKind = InventoryKind.PAGE,
    columns: str = "",
    sort: str = "",
    limit: Annotated[int, Query(ge=1, le=1000)] = 100,
    after: Annotated[int, Query(ge=0)] = 0,
) -> Listed[InventoryRow]:
    return inventory.list_inventory(work, actual_run(work, run_id), of, found, columns, sort, limit, after)


@serves(router, "get_inventory_figures")
def get_inventory_figures(
    run_id: str, work: Work, found: Filtered, of: InventoryKind = InventoryKind.PAGE, columns: str = "", by: str = ""
) -> InventoryFigures:
    return inventory.get_inventory_figures(work, actual_run(work, run_id), of, found, columns, by)


@serves(router, "export_inventory")
def export_inventory(
    run_id: str,
    work: Work,
    found: Filtered,
    of: InventoryKind = InventoryKind.PAGE,
    columns: str = "",
    sort: str = "",
    form: TableForm = TableForm.CSV,
) -> Response:
    run = actual_run(work, run_id)
    names = inventory.chosen_columns(of, columns)
    rows = inventory.each_row(work, run, of, found, names, sort)
    headers = {"Content-Disposition": f'attachment; filename="inventory-{run}.{form}"'}
    if form == TableForm.CSV:
        return StreamingResponse(csv_parts(rows, names), media_type=TYPES[form], headers=headers)
    if form == TableForm.LINES:
        return StreamingResponse(json_lines(rows), media_type=TYPES[form], headers=headers)
    heads = {column.name: column.label for column in inventory.list_columns(of)}
    return spooled(lambda out: write_workbook(out, {of.value: (heads, names, rows)}), TYPES[form], headers)
