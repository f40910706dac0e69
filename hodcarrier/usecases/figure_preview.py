"""Reading tables of figures row by row, and showing how they are understood before anything is imported."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from datetime import date
from itertools import islice
from typing import Any

from hodcarrier.core.errors import DamagedRun, InvalidInput, NotFound
from hodcarrier.core.figures.kinds import FIELDS
from hodcarrier.core.figures.tables import Cell, Layout, Problem, RowReader, Understood, Value, texts_of, understand, written_as
from hodcarrier.core.states import DayOrder, DecimalMark, FigureKind
from hodcarrier.figurefile.documents import Document
from hodcarrier.figurefile.reading import ids_of
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.figures import FigureField, FigureLayout, FigurePreview, RowProblem

_HEAD_ROWS, _SAMPLED_EVERY, _SAMPLE_MAX = 1_000, 500, 3_000
_SHOWN_ROWS, _SHOWN_PROBLEMS, _SHOWN_COLUMNS = 8, 20, 40


class Reading:
    """Reads rows one after the other, and notes those that cannot be read, and the days that there are."""

    def __init__(self, reader: RowReader) -> None:
        self._reader = reader
        self.readable = self.unreadable = 0
        self.problems: list[RowProblem] = []
        self.first: date | None = None
        self.last: date | None = None

    def read(self, rows: Iterator[list[Cell]], head_row: int, *, strict: bool) -> Iterator[tuple[Value, ...]]:
        """The rows below the headings. ``strict``: raises :class:`InvalidInput` for the first that cannot be read."""
        days = [place for place, each in enumerate(self._reader.fields) if each.type == "day"]
        for number, row in enumerate(rows, 1):
            if number <= head_row + 1 or not any(cell is not None and cell != "" for cell in row):
                continue
            found = self._reader.read(row)
            if isinstance(found, Problem):
                if strict:
                    raise InvalidInput(
                        f"Row {number} cannot be read: {found.text}.",
                        "Correct it, or leave out what cannot be read.",
                        "leave_out",
                    )
                self.unreadable += 1
                if len(self.problems) < _SHOWN_PROBLEMS:
                    self.problems.append(RowProblem(row=number, text=found.text))
                continue
            self.readable += 1
            for place in days:
                day = found[place]
                if isinstance(day, date):
                    self.first = day if self.first is None or day < self.first else self.first
                    self.last = day if self.last is None or day > self.last else self.last
            yield found


def days_of(reading: Reading) -> dict[str, str]:
    """The first and the last day that was read, as they are stored."""
    return {name: day.isoformat() for name, day in (("first", reading.first), ("last", reading.last)) if day is not None}


def _sample(document: Document, sheet: str) -> list[list[Cell]]:
    """The first rows of a table, and some of all others: what a column holds may show late."""
    with document.rows(sheet) as rows:
        first = list(islice(rows, _HEAD_ROWS))
        return first + list(islice(rows, _SAMPLED_EVERY - 1, _SAMPLED_EVERY * _SAMPLE_MAX, _SAMPLED_EVERY))


def understood_sheet(document: Document, kind: FigureKind | None, sheet: str | None) -> tuple[str, Understood]:
    """The sheet that is named, or the first of which something is known; and how it is understood."""
    named = [sheet] if sheet is not None else document.sheets
    looks = [(name, understand(_sample(document, name), kind)) for name in named]
    return max(looks, key=lambda look: (not look[1].layout.missing, len(look[1].layout.columns)))


def fitted(document: Document, sheet: str, layout: Layout, before: Layout | None) -> Layout:
    """A layout whose columns were changed, with days and decimals read as the new columns are written, where what was so far does not fit them and nobody has
    just chosen it."""
    if before is None or (layout.columns, layout.head_row) == (before.columns, before.head_row):
        return layout
    ways = written_as(_sample(document, sheet), layout)
    return replace(
        layout,
        days=ways.layout.days if layout.days == before.days and layout.days not in ways.days else layout.days,
        decimals=ways.layout.decimals
        if layout.decimals == before.decimals and layout.decimals not in ways.decimals
        else layout.decimals,
    )


def fitted_again(document: Document, sheet: str, layout: Layout) -> Layout:
    """The layout of an earlier table for another one of the same form, with days and decimals as this one writes them where it is written otherwise."""
    ways = written_as(_sample(document, sheet), layout)
    return replace(
        layout,
        days=layout.days if layout.days in ways.days else ways.layout.days,
        decimals=layout.decimals if layout.decimals in ways.decimals else ways.layout.decimals,
    )


def kept_layout(kept: Mapping[str, Any]) -> Layout:
    """How a table is understood, as its record keeps it."""
    return Layout(
        FigureKind(kept["kind"]),
        kept["head_row"],
        kept["columns"],
        kept["fixed"],
        DayOrder(kept["days"]),
        DecimalMark(kept["decimals"]),
    )


def preview(
    work: Workspace, site_id: int, base: str, run_id: str, kept: Mapping[str, Any], document: Document, *, known: bool
) -> FigurePreview:
    """What a waiting table says, for which all of it is read. ``run_id`` is the latest run, which knows the site's pages; ``known``: one of its form was imported before."""
    sheet = kept["sheet"] if kept["sheet"] in document.sheets else document.sheets[0]
    layout = kept_layout(kept)
    sample = _sample(document, sheet)
    ways = written_as(sample, layout)
    fields = FIELDS[layout.kind]
    shown = FigurePreview(
        sheets=list(document.sheets) if document.is_workbook else [],
        encoding=document.encoding,
        separator=document.separator,
        layout=FigureLayout(
            kind=layout.kind,
            sheet=sheet,
            head_row=layout.head_row + 1,
            columns={name: column + 1 for name, column in layout.columns.items()},
            fixed=dict(layout.fixed),
            days=layout.days,
            decimals=layout.decimals,
        ),
        known_layout=known,
        fields=[FigureField(name=each.name, head=each.head, needed=each.needed) for each in fields],
        missing=[each.name for each in layout.missing],
        heads=texts_of(sample[layout.head_row : layout.head_row + 1] or [[]], _SHOWN_COLUMNS)[0],
        cells=texts_of(sample[layout.head_row + 1 : layout.head_row + 1 + _SHOWN_ROWS], _SHOWN_COLUMNS),
        day_orders=list(ways.days),
        decimal_marks=list(ways.decimals),
    )
    reading = Reading(RowReader(layout, base))
    texts: dict[str, set[str]] = {"page": set(), "query": set(), "keyword": set()}
    places = [(place, each.name) for place, each in enumerate(fields) if each.name in texts]
    with document.rows(sheet) as rows:
        for values in reading.read(rows, layout.head_row, strict=False):
            if len(shown.rows) < _SHOWN_ROWS:
                shown.rows.append({each.name: _as_text(value) for each, value in zip(fields, values, strict=True)})
            for place, name in places:
                if (text := values[place]) is not None:
                    texts[name].add(str(text))
    shown.readable, shown.unreadable, shown.problems = reading.readable, reading.unreadable, reading.problems
    shown.first, shown.last = reading.first, reading.last
    unknown = _unknown_pages(work, run_id, texts["page"])
    shown.pages, shown.pages_unknown, shown.unknown = len(texts["page"]), len(unknown), sorted(unknown)[:10]
    queries = texts["query"] | texts["keyword"]
    shown.queries = len(queries)
    with work.figures.read(site_id) as db:
        shown.queries_unknown = len(queries) - (len(ids_of(db, queries)) if db is not None else 0)
    return shown


def _as_text(value: Value) -> str:
    if isinstance(value, float):
        return f"{value:,.10g}"
    return "" if value is None else f"{value:,}" if isinstance(value, int) else str(value)


def _unknown_pages(work: Workspace, run_id: str, pages: set[str]) -> list[str]:
    """Pages that a run has not met; all where there is none that could tell."""
    if not run_id:
        return sorted(pages)
    try:
        with work.open_run(run_id) as found:
            return [page for page in pages if not found.rows("SELECT 1 FROM address WHERE url = ?", page)]
    except (DamagedRun, NotFound):
        return sorted(pages)
