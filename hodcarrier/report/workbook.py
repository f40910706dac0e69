"""Tables as a workbook (Office Open XML, ISO/IEC 29500)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any, BinaryIO

import xlsxwriter

ROWS_MAX = 1_048_575  # of a sheet, below its head
CELL_CHARS_MAX = 32_767
WIDTH_MIN, WIDTH_MAX = 10, 60
_WIDE = frozenset({"url", "title", "description", "h1", "canonical", "redirect_to", "message", "subject", "evidence"})

# The names of columns by what stands above them, the columns in their order, and the rows.
Sheet = tuple[Mapping[str, str], Sequence[str], Iterable[Mapping[str, Any]]]


def write_workbook(out: BinaryIO, sheets: Mapping[str, Sheet]) -> None:
    """Write sheets by name: figures as figures, texts as texts that are no formulas and no links, the head row frozen and with filters. Rows are
    written as they come, so that a large table needs no more memory than a small one; those beyond what a sheet can hold go on another one."""
    options = {"constant_memory": True, "strings_to_formulas": False, "strings_to_urls": False, "strings_to_numbers": False}
    book = xlsxwriter.Workbook(out, options)
    bold = book.add_format({"bold": True, "bottom": 1})
    for name, (heads, columns, rows) in sheets.items():
        number, sheet = 0, None
        for row in rows:
            if sheet is None or number % ROWS_MAX == 0:
                _close(sheet, min(number, ROWS_MAX), len(columns))
                title = name if number == 0 else f"{name} {number // ROWS_MAX + 1}"
                sheet = _begin(book, title, heads, columns, bold)
            _write(sheet, number % ROWS_MAX + 1, [row.get(column) for column in columns])
            number += 1
        if sheet is None:
            sheet = _begin(book, name, heads, columns, bold)
        _close(sheet, number % ROWS_MAX or number, len(columns))
    book.close()


def _begin(book: Any, name: str, heads: Mapping[str, str], columns: Sequence[str], bold: Any) -> Any:
    sheet = book.add_worksheet(name[:31])
    sheet.freeze_panes(1, 0)
    for place, column in enumerate(columns):
        head = heads.get(column, column)
        sheet.set_column(place, place, WIDTH_MAX if column in _WIDE else max(WIDTH_MIN, len(head) + 4))
        sheet.write_string(0, place, head, bold)
    return sheet


def _write(sheet: Any, row: int, cells: Sequence[Any]) -> None:
    for place, cell in enumerate(cells):
        if isinstance(cell, bool):
            sheet.write_boolean(row, place, cell)
        elif isinstance(cell, int | float):
            sheet.write_number(row, place, cell)
        elif cell is not None and cell != "":
            sheet.write_string(row, place, str(cell)[:CELL_CHARS_MAX])


def _close(sheet: Any, rows: int, columns: int) -> None:
    if sheet is not None and columns:
        sheet.autofilter(0, 0, max(1, rows), columns - 1)
