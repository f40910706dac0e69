"""Tables of figures: they wait until somebody has seen how they are understood, then their rows are taken in, all or none."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator, Mapping
from dataclasses import replace
from datetime import date, timedelta
from itertools import islice
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.attachments import bytes_of, clean_name
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.figures.kinds import FIELDS, field_of
from hodcarrier.core.figures.tables import HEAD_ROWS_MAX, Cell, Layout, RowReader, Value
from hodcarrier.core.states import FigureKind, FileStage
from hodcarrier.figurefile.documents import Document, open_document, unpack
from hodcarrier.figurefile.writer import Merged, merge
from hodcarrier.register.models import FigureFile, Member, Metric, Site
from hodcarrier.usecases.figure_preview import Reading, days_of, fitted, fitted_again, kept_layout, preview, understood_sheet
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run, log
from hodcarrier.wire.figures import (
    FigureFileBody,
    FigureFileOut,
    FigureImport,
    FigureLayout,
    FigureLayoutBody,
    FigureOutcome,
    FigureRows,
)

WAITING_MAX = 20
KEPT_DAYS = 14  # a table that nobody has imported by then is removed


def list_figure_files(work: Workspace, site_id: int) -> list[FigureFileOut]:
    """The tables of a site, the latest first."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        chosen = select(FigureFile).where(FigureFile.site_id == site_id).order_by(FigureFile.id.desc()).limit(200)
        return [_out(row) for row in session.scalars(chosen.options(joinedload(FigureFile.author)))]


def get_figure_file(work: Workspace, site_id: int, file_id: int) -> FigureFileOut:
    """One table; with a preview while it waits, for which all of it is read."""
    with work.reading() as session:
        row = _fetch(session, site_id, file_id)
        found, layout = _out(row), dict(row.layout)
        if row.stage != FileStage.WAITING or not layout:
            return found
        document, known = _document(work, row), row.heads != ""
        site = fetch(session, Site, site_id, "site")
        base, run = site.plan.start[0], latest_run(session, site)
        run_id = run.id if run is not None else ""
    # Outside of any transaction: it may take half a minute.
    found.preview = preview(work, site_id, base, run_id, layout, document, known=known)
    return found


def add_figure_file(work: Workspace, site_id: int, body: FigureFileBody, member: Member) -> FigureFileOut:
    """Keep a table until it is imported, understood as one of the same form was before, or by its headings. Raises :class:`InvalidInput` for what holds no table."""
    content = bytes_of(body.content)
    file_id = _begin(work, site_id, body, member)
    path = work.figures.table_path(file_id)
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        unpack(content, path)
        document = open_document(path)
        sheet, understood = understood_sheet(document, None, None)
        heads = _heads_of(document, sheet)
        with work.session() as session:
            row = _fetch(session, site_id, file_id)
            known = _known(session, row, heads)
            if known is not None:
                before = replace(kept_layout(known.layout), head_row=heads[known.heads])
                _keep(row, sheet, fitted_again(document, sheet, before))
                row.source, row.heads = row.source or known.source, known.heads
            else:
                _keep(row, sheet, understood.layout)
            row.source = row.source or row.name
        return get_figure_file(work, site_id, file_id)
    except BaseException:
        with work.session() as session:
            session.delete(_fetch(session, site_id, file_id))
        path.unlink(missing_ok=True)
        raise


def _begin(work: Workspace, site_id: int, body: FigureFileBody, member: Member) -> int:
    """A record of a table that is being read. Raises :class:`Conflict` where too many wait."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        waiting = select(func.count()).where(FigureFile.site_id == site_id, FigureFile.stage == FileStage.WAITING)
        if (session.scalar(waiting) or 0) >= WAITING_MAX:
            raise Conflict(f"{WAITING_MAX} tables wait for {site.host} already.", "Import or remove some of them first.")
        row = FigureFile(
            site_id=site_id,
            author_id=member.id,
            at=work.now(),
            name=clean_name(body.name),
            source=body.source,
            kind=FigureKind.SEARCH,
        )
        session.add(row)
        session.flush()
        return row.id


def lay_out_figure_file(work: Workspace, site_id: int, file_id: int, body: FigureLayoutBody) -> FigureFileOut:
    """Understand a waiting table in another way. Raises :class:`InvalidInput` for a layout that does not fit, and :class:`Conflict` when it is imported already."""
    with work.reading() as session:
        row = _fetch(session, site_id, file_id)
        document, kind = _document(work, row), row.kind
        before = kept_layout(row.layout) if row.layout else None
    sheet, layout = "", None
    if body.layout is not None:
        sheet = (body.layout.sheet or document.sheets[0]) if document.is_workbook else ""
        with document.rows(sheet):  # it is there
            pass
        layout = fitted(document, sheet, _layout(body.layout), before)
    elif body.kind is not None or body.sheet is not None:
        sheet, understood = understood_sheet(document, body.kind or (None if body.sheet is not None else kind), body.sheet)
        layout = understood.layout
    with work.session() as session:
        row = _fetch(session, site_id, file_id)
        if body.source is not None:
            row.source = body.source or row.name
        if layout is not None:
            _keep(row, sheet, layout)
    return get_figure_file(work, site_id, file_id)


def import_figure_file(work: Workspace, site_id: int, file_id: int, body: FigureImport, member: Member) -> FigureFileOut:
    """Take in the rows of a waiting table: all of them, or none. A row of the same thing on the same day takes the place of the one before.

    Raises :class:`InvalidInput` while fields are missing, or rows cannot be read and are not to be left out.
    """
    with work.reading() as session:
        row = _fetch(session, site_id, file_id)
        document, site = _document(work, row), fetch(session, Site, site_id, "site")
        if not row.layout:
            raise Conflict(f"{row.name} is still being read.", "Try again in a minute.")
        sheet, layout, source = row.layout["sheet"], kept_layout(row.layout), row.source
        reading = Reading(RowReader(layout, site.plan.start[0]))
        session.expunge_all()
    _check_fields(layout)
    with document.rows(sheet) as rows:
        merged = take_in(work, site_id, layout.kind, reading.read(rows, layout.head_row, strict=not body.leave_out), source)
    with work.session() as session:
        row = _fetch(session, site_id, file_id)
        _document(work, row)  # somebody else may have imported it meanwhile
        row.stage = FileStage.IMPORTED
        row.heads = next((mark for mark, number in _heads_of(document, sheet).items() if number == layout.head_row), "")
        row.outcome = {**vars(merged), "left_out": reading.unreadable, **days_of(reading)}
        log(session, work.now(), member.id, "figures imported", f"{row.name}: {merged.new + merged.replaced} rows, {site.host}")
        session.flush()
        found = _out(row)
    work.figures.table_path(file_id).unlink(missing_ok=True)
    return found


def remove_figure_file(work: Workspace, site_id: int, file_id: int, member: Member) -> None:
    """Remove a table that waits, or the record of one that was imported; its figures stay."""
    with work.session() as session:
        row = _fetch(session, site_id, file_id)
        log(session, work.now(), member.id, "table of figures removed", row.name)
        session.delete(row)
    work.figures.table_path(file_id).unlink(missing_ok=True)


def add_figures(work: Workspace, site_id: int, body: FigureRows, member: Member) -> FigureOutcome:
    """Take in rows that were typed, all or none. Raises :class:`InvalidInput` naming the row."""
    with work.reading() as session:
        site = fetch(session, Site, site_id, "site")
        base, host = site.plan.start[0], site.host
    names = [each.name for each in FIELDS[body.kind]]
    unknown = sorted({name for row in body.rows for name in row} - set(names))
    if unknown:
        raise InvalidInput(f"There is no field {', '.join(unknown)}.", f"Give {', '.join(names)}.", "rows")
    given = {name: place for place, name in enumerate(names) if any(name in row for row in body.rows)}
    layout = Layout(body.kind, -1, given)
    _check_fields(layout)
    reading = Reading(RowReader(layout, base))
    rows: Iterator[list[Cell]] = ([row.get(name) for name in names] for row in body.rows)
    merged = take_in(work, site_id, body.kind, reading.read(rows, -1, strict=True), body.source)
    with work.session() as session:
        log(session, work.now(), member.id, "figures added", f"{len(body.rows)} rows, {host}")
    return FigureOutcome.model_validate({**vars(merged), **days_of(reading)})


def forget_tables(work: Workspace) -> None:
    """Remove tables that wait for longer than :data:`KEPT_DAYS`, and files that no record knows any more."""
    with work.session() as session:
        old = FigureFile.stage == FileStage.WAITING, FigureFile.at < work.now() - timedelta(days=KEPT_DAYS)
        for row in session.scalars(select(FigureFile).where(*old)):
            session.delete(row)
        session.flush()
        known = set(session.scalars(select(FigureFile.id).where(FigureFile.stage == FileStage.WAITING)))
    for number in work.figures.waiting():
        if number not in known:
            work.figures.table_path(number).unlink(missing_ok=True)


def take_in(
    work: Workspace,
    site_id: int,
    kind: FigureKind,
    rows: Iterator[tuple[Value, ...]],
    source: str,
    whole: tuple[date, date] | None = None,
) -> Merged:
    """Take in rows of a kind, all or none. ``whole``: they are all that the source has of these days."""
    if kind == FigureKind.SITE:
        return _take_in_site(work, site_id, rows, source)
    with work.figures.write(site_id) as db:
        return merge(db, kind, rows, work.now(), source, whole)


def _take_in_site(work: Workspace, site_id: int, rows: Iterator[tuple[Value, ...]], source: str) -> Merged:
    """Figures of the site as a whole are in the register, where benchmarks and trends read them."""
    given = list(rows)
    staged: dict[tuple[str, date], tuple[float, str]] = {}
    for day, name, value, origin in given:
        assert isinstance(day, date) and isinstance(value, float)
        staged[(str(name)[:80], day)] = (value, str(origin or source)[:200])
    counts = {"new": 0, "same": 0, "replaced": 0}
    with work.session() as session:
        known = {(m.name, m.day): m for m in session.scalars(select(Metric).where(Metric.site_id == site_id))}
        for (name, day), (value, origin) in staged.items():
            metric = known.get((name, day))
            if metric is None:
                session.add(Metric(site_id=site_id, name=name, day=day, value=value, source=origin))
                counts["new"] += 1
            elif (metric.value, metric.source) == (value, origin):
                counts["same"] += 1
            else:
                metric.value, metric.source = value, origin
                counts["replaced"] += 1
    return Merged(**counts, repeated=len(given) - len(staged))


def _check_fields(layout: Layout) -> None:
    if layout.missing:
        heads = ", ".join(each.head for each in layout.missing)
        raise InvalidInput(
            f"Nothing says what is the {heads}.",
            "Look at how the table is understood, and name the column, or a value for all rows.",
            "layout",
        )


def _heads_of(document: Document, sheet: str) -> dict[str, int]:
    """What tells tables of one form from others, by each of the rows that may hold the headings."""
    with document.rows(sheet) as rows:
        first = list(islice(rows, HEAD_ROWS_MAX))
    marks = (hashlib.sha256(json.dumps([str(cell or "") for cell in row]).encode()).hexdigest()[:32] for row in first)
    return {mark: number for number, (mark, row) in enumerate(zip(marks, first, strict=True)) if any(row)}


def _known(session: Session, row: FigureFile, heads: Mapping[str, int]) -> FigureFile | None:
    """The latest imported table of the same form: of this site, else of any that its author may see."""
    same = FigureFile.heads.in_(list(heads)), FigureFile.stage == FileStage.IMPORTED, FigureFile.id != row.id
    return session.scalar(
        select(FigureFile).where(*same).order_by((FigureFile.site_id == row.site_id).desc(), FigureFile.id.desc()).limit(1)
    )


def _keep(row: FigureFile, sheet: str, layout: Layout) -> None:
    row.kind = layout.kind
    row.layout = {**vars(layout), "columns": dict(layout.columns), "fixed": dict(layout.fixed), "sheet": sheet}


def _layout(given: FigureLayout) -> Layout:
    """A layout as somebody has put it together. Raises :class:`InvalidInput` for fields that rows of the kind do not have."""
    unknown = sorted(name for name in {*given.columns, *given.fixed} if field_of(given.kind, name) is None)
    if unknown:
        names = ", ".join(each.name for each in FIELDS[given.kind])
        raise InvalidInput(f"There is no field {', '.join(unknown)}.", f"Give {names}.", "layout")
    if any(column < 1 for column in given.columns.values()):
        raise InvalidInput("Columns are counted from 1.", "Leave a field out that has none.", "layout")
    columns = {name: column - 1 for name, column in given.columns.items()}
    fixed = {name: text.strip() for name, text in given.fixed.items() if text.strip() and name not in columns}
    return Layout(given.kind, given.head_row - 1, columns, fixed, given.days, given.decimals)


def _fetch(session: Session, site_id: int, file_id: int) -> FigureFile:
    row = session.scalar(select(FigureFile).where(FigureFile.id == file_id, FigureFile.site_id == site_id))
    if row is None:
        raise NotFound(f"There is no table {file_id} of this site.", "List them with `hodcarrier metric files SITE`.")
    return row


def _document(work: Workspace, row: FigureFile) -> Document:
    if row.stage != FileStage.WAITING:
        raise Conflict(f"{row.name} is imported already.", "Add the file once more to import it in another way.")
    path = work.figures.table_path(row.id)
    if not path.is_file():
        raise Conflict(f"The table {row.name} is not there any more.", "Remove it, and add the file once more.")
    return open_document(path)


def _out(row: FigureFile) -> FigureFileOut:
    outcome: Mapping[str, Any] = row.outcome
    return FigureFileOut(
        id=row.id,
        site_id=row.site_id,
        name=row.name,
        source=row.source,
        kind=row.kind,
        stage=row.stage,
        at=row.at,
        author=row.author.name if row.author is not None else "",
        outcome=FigureOutcome.model_validate(outcome) if outcome else None,
    )
