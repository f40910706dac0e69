"""Tables of figures: where their headings stand, what their columns are, and what each row says."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime

from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.figures.days import day_orders, read_day
from hodcarrier.core.figures.kinds import FIELDS, Field, FieldType, field_of
from hodcarrier.core.figures.numbers import decimal_marks, is_nothing, read_number
from hodcarrier.core.states import DayOrder, DecimalMark, FigureKind
from hodcarrier.core.web.urls import normalize

# A cell as it comes from a file: a workbook knows numbers and days, a text file has texts alone.
Cell = str | int | float | date | None
Value = str | int | float | date | None
HEAD_ROWS_MAX = 40  # notes above a table are no longer than this
SAMPLE_ROWS = 2_000
TEXT_MAX = 2_000
_HOST = re.compile(r"[\w-]+(?:\.[\w-]+)*\.[^\W\d_]{2,}(?::\d{1,5})?")
_FILE_ENDS = frozenset({"html", "htm", "xhtml", "php", "asp", "aspx", "jsp", "pdf", "shtml", "cfm"})
_DEVICES = {"mobile": "phone", "smartphone": "phone", "handy": "phone", "computer": "desktop", "pc": "desktop"}


@dataclass(frozen=True)
class Layout:
    """How a table is to be understood: the row of its headings (from 0), the column of each field (from 0), what holds for every row where there is no column, how days
    are written, and what stands before decimals."""

    kind: FigureKind
    head_row: int
    columns: Mapping[str, int]
    fixed: Mapping[str, str] = field(default_factory=dict)
    days: DayOrder = DayOrder.YMD
    decimals: DecimalMark = DecimalMark.POINT

    @property
    def missing(self) -> list[Field]:
        """The fields that every row needs and that neither a column nor a fixed value gives."""
        return [
            each for each in FIELDS[self.kind] if each.needed and each.name not in self.columns and not self.fixed.get(each.name)
        ]


@dataclass(frozen=True)
class Understood:
    """A layout, and in what other ways days and numbers could be read as well."""

    layout: Layout
    days: Sequence[DayOrder] = ()
    decimals: Sequence[DecimalMark] = ()


def understand(rows: Sequence[Sequence[Cell]], kind: FigureKind | None = None) -> Understood:
    """What the first rows of a table look like, the kind of figures included unless it is given. Where nothing is known, nothing is said: columns are missing."""
    kinds = [kind] if kind is not None else list(FigureKind)
    layouts = [_headed(rows, each) for each in kinds]
    # The kind that has all it needs and knows the most columns; of equals the first, as they are listed.
    found = max(layouts, key=lambda each: (not each.missing, len(each.columns)))
    return written_as(rows, found)


def written_as(rows: Sequence[Sequence[Cell]], layout: Layout) -> Understood:
    """A layout with days and numbers read as its columns are written."""
    below = rows[layout.head_row + 1 :]
    types = {name: each.type for name in layout.columns if (each := field_of(layout.kind, name)) is not None}
    days = day_orders(_texts(below, [layout.columns[name] for name, of in types.items() if of == FieldType.DAY]))
    numbers = (FieldType.NUMBER, FieldType.COUNT, FieldType.RANK)
    marks = decimal_marks(_texts(below, [layout.columns[name] for name, of in types.items() if of in numbers]))
    return Understood(
        replace(layout, days=days[0] if days else layout.days, decimals=marks[0] if marks else layout.decimals), days, marks
    )


def _texts(rows: Sequence[Sequence[Cell]], columns: Sequence[int]) -> list[str]:
    """The texts in columns, those that have no digit left out: they are no days and no numbers in any way of writing."""
    return [
        cell
        for row in rows[:SAMPLE_ROWS]
        for column in columns
        if column < len(row) and isinstance(cell := row[column], str) and any(sign.isdigit() for sign in cell)
    ]


def _headed(rows: Sequence[Sequence[Cell]], kind: FigureKind) -> Layout:
    """The row whose cells name the most fields; of equals, the first."""
    best: tuple[int, int, Mapping[str, int]] = (0, 0, {})
    for number, row in enumerate(rows[:HEAD_ROWS_MAX]):
        columns = _columns(row, kind)
        if len(columns) > best[0]:
            best = (len(columns), number, columns)
    return Layout(kind, best[1], best[2])


def _columns(row: Sequence[Cell], kind: FigureKind) -> dict[str, int]:
    """The columns that a row of headings names. A heading is of one field: the one that it names most exactly."""
    heads = [" ".join(str(cell or "").replace("_", " ").replace("\n", " ").lower().split()).rstrip(":*") for cell in row]
    ways = sorted(
        (words.words.index(head), place, column, words.name)
        for place, words in enumerate(FIELDS[kind])
        for column, head in enumerate(heads)
        if head in words.words
    )
    found: dict[str, int] = {}
    for _, _, column, name in ways:
        if name not in found and column not in found.values():
            found[name] = column
    return found


@dataclass(frozen=True)
class Problem:
    """Why a row cannot be read, in words."""

    text: str


class RowReader:
    """Reads rows by a layout. ``base`` is the address of the site, for pages that are given by their path. Pages come out as they are known in runs."""

    def __init__(self, layout: Layout, base: str) -> None:
        self.fields = FIELDS[layout.kind]
        self._layout, self._base = layout, base
        self._seen: dict[FieldType, dict[Cell, Value | Problem]] = {of: {} for of in FieldType}
        read: Mapping[FieldType, Callable[[Cell], Value | Problem]] = {
            FieldType.DAY: self._day,
            FieldType.PAGE: self._page,
            FieldType.HOST: _host,
            FieldType.TEXT: _text,
            FieldType.COUNT: self._count,
            FieldType.NUMBER: self._number,
            FieldType.RANK: self._rank,
        }
        self._ways = [
            (each, layout.columns.get(each.name), layout.fixed.get(each.name), read[each.type], self._seen[each.type])
            for each in self.fields
        ]

    def read(self, row: Sequence[Cell]) -> tuple[Value, ...] | Problem:
        """The values of a row in the order of the fields, or why there are none."""
        values: list[Value] = []
        for each, column, fixed, read, seen in self._ways:
            cell: Cell = row[column] if column is not None and column < len(row) else None
            if column is None and fixed:
                cell = fixed
            value = seen.get(cell)
            if value is None:
                value = read(cell)
                # What is remembered saves reading it again; more than some tens of thousands of texts would save nothing.
                if len(seen) < 50_000:
                    seen[cell] = value
            if isinstance(value, Problem):
                return Problem(f"{each.head}: {value.text}")
            if each.needed and value is None and each.type != FieldType.RANK:
                return Problem(f"{each.head} is empty")
            values.append(value)
        return tuple(values)

    def _day(self, cell: Cell) -> Value | Problem:
        if isinstance(cell, datetime):
            return cell.date()
        if isinstance(cell, date):
            return cell
        text = str(cell or "").strip()
        if is_nothing(text):
            return None
        # A day that is fixed for all rows was chosen, not read.
        found = read_day(text, self._layout.days) or (
            read_day(text, DayOrder.YMD) if text == self._layout.fixed.get("day") else None
        )
        return found or Problem(f"“{text[:80]}” is no day")

    def _page(self, cell: Cell) -> Value | Problem:
        text = str(cell or "").strip()
        if is_nothing(text):
            return None
        try:
            found = normalize(_with_scheme(text), self._base)
        except InvalidUrl:
            return Problem(f"“{text[:80]}” is no address")
        return found if found.startswith(("http://", "https://")) else Problem(f"“{text[:80]}” is no web address")

    def _number(self, cell: Cell) -> Value | Problem:
        if isinstance(cell, bool):
            return Problem(f"“{cell}” is no number")
        if isinstance(cell, int | float):
            return float(cell)
        text = str(cell or "").strip()
        if is_nothing(text):
            return None
        found = read_number(text, self._layout.decimals)
        return Problem(f"“{text[:80]}” is no number") if found is None else found

    def _count(self, cell: Cell) -> Value | Problem:
        found = self._number(cell)
        if not isinstance(found, float):
            return found
        return int(found) if found >= 0 and found == int(found) else Problem(f"“{cell}” is no count")

    def _rank(self, cell: Cell) -> Value | Problem:
        text = str(cell if cell is not None else "").strip()
        # “> 100” and 0 say that it was not among those that were looked at.
        if text.startswith((">", "+")) or text == "0":
            return None
        found = self._number(cell)
        if not isinstance(found, float):
            return found
        return int(found) if found >= 1 else Problem(f"“{cell}” is no position")


def _with_scheme(text: str) -> str:
    """An address that is written without its scheme: what stands before the first slash looks like a host, not like a file."""
    host = text.partition("/")[0]
    is_host = _HOST.fullmatch(host) and host.rpartition(".")[2].lower() not in _FILE_ENDS
    return f"https://{text}" if is_host else text


def _host(cell: Cell) -> Value | Problem:
    text = str(cell or "").strip().lower()
    return None if is_nothing(text) else text.partition("://")[2].partition("/")[0] or text.partition("/")[0]


def _text(cell: Cell) -> Value | Problem:
    text = " ".join(str(cell if cell is not None else "").split())[:TEXT_MAX]
    return None if is_nothing(text) else _DEVICES.get(text.lower(), text)


def texts_of(rows: Iterable[Sequence[Cell]], columns: int) -> list[list[str]]:
    """Rows as they are shown beside how they are understood: texts, of the first columns."""
    return [["" if cell is None else str(cell)[:200] for cell in row[:columns]] for row in rows]
