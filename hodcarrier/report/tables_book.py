"""The tables of a report as a workbook, one sheet each."""

from __future__ import annotations

from typing import BinaryIO

from hodcarrier.report.blocks import Table
from hodcarrier.report.drawn import DrawnReport
from hodcarrier.report.workbook import Sheet, write_workbook

_SHEET_CHARS = 31
# What the name of a sheet may not hold (ISO/IEC 29500-1, 18.2.19, and those who read it).
_FORBIDDEN = str.maketrans(dict.fromkeys("[]:*?/\\'", " "))


def write_tables(out: BinaryIO, report: DrawnReport) -> None:
    """Write the tables: figures as figures, texts as they are shown."""
    sheets: dict[str, Sheet] = {}
    for section in report.sections:
        for block in section.blocks:
            if isinstance(block, Table):
                sheets[_name(block.name or section.title, sheets)] = _sheet(block)
    if not sheets:
        sheets[report.language.say("Tables")[:_SHEET_CHARS]] = ({"text": report.values.title}, ["text"], [])
    write_workbook(out, sheets)


def _name(wanted: str, taken: dict[str, Sheet]) -> str:
    """A name that no other sheet has."""
    base = " ".join(wanted.translate(_FORBIDDEN).split())[:_SHEET_CHARS] or "–"
    lower, number = {name.casefold() for name in taken}, 1
    name = base
    while name.casefold() in lower:
        number += 1
        name = f"{base[: _SHEET_CHARS - 3]} {number}"
    return name


def _sheet(table: Table) -> Sheet:
    kept = [n for n, column in enumerate(table.columns) if column.head]
    columns, heads = [str(n) for n in kept], {str(n): table.columns[n].head for n in kept}
    rows = []
    for row in table.rows:
        cells = {}
        for n in kept:
            cell = row[n]
            cells[str(n)] = cell.value if cell.value is not None else f"{cell.text} ({cell.under})" if cell.under else cell.text
        rows.append(cells)
    return heads, columns, rows
