"""Review sheets of sites: begun from a template, filled in by people and by what is known already, compared, and turned into to-dos."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload, undefer

from hodcarrier.core import catalogue
from hodcarrier.core.attachments import bytes_of, clean_name, media_of
from hodcarrier.core.errors import Conflict, DamagedRun, InvalidInput, NotFound
from hodcarrier.core.review.sheets import (
    CHECK,
    FIGURE,
    Answer,
    Checked,
    Figured,
    Item,
    Section,
    counted,
    difference,
    items_of,
    known_answer,
    sheet_sentence,
)
from hodcarrier.core.review.tables import read_answers, sheet_rows
from hodcarrier.core.states import LIVE_TODO, CheckOutcome, SheetAsks
from hodcarrier.register.models import Member, Run, Sheet, SheetAnswer, SheetFile, Site
from hodcarrier.runfile import results
from hodcarrier.usecases import todos
from hodcarrier.usecases.sheet_templates import find_template, read_sections, stored
from hodcarrier.usecases.trends import get_trend
from hodcarrier.usecases.workspace import Workspace, fetch, log, run_id_on, unless_taken
from hodcarrier.wire.results import TodoRef
from hodcarrier.wire.sheets import (
    SheetAnswers,
    SheetBrief,
    SheetFileBody,
    SheetFileOut,
    SheetLine,
    SheetOut,
    SheetPart,
    SheetStart,
    SheetTodos,
)
from hodcarrier.wire.todo_things import FILE_BYTES_MAX
from hodcarrier.wire.todos import TodoBody, TodoOut

FILES_MAX = 100


def list_sheets(work: Workspace, site_id: int) -> list[SheetBrief]:
    """The sheets of a site, the latest first."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        chosen = select(Sheet).where(Sheet.site_id == site_id).order_by(Sheet.day.desc(), Sheet.id.desc())
        sheets = session.scalars(chosen.options(joinedload(Sheet.author))).all()
        answers = _answers(session, [sheet.id for sheet in sheets])
        return [SheetBrief(**_brief(sheet, answers.get(sheet.id, {}))) for sheet in sheets]


def start_sheet(work: Workspace, site_id: int, body: SheetStart, member: Member) -> SheetOut:
    """Begin a sheet, and fill in what the latest audit and figures know. Raises :class:`Conflict` where there is one of that template and day already."""
    day = body.day or work.now().date()
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        name, sections = find_template(session, body.template)
        sheet = Sheet(
            site_id=site_id,
            template=body.template,
            name=name,
            sections=stored(sections),
            day=day,
            author_id=member.id,
            created_at=work.now(),
        )
        with unless_taken(session, f"{site.host} has this sheet for {day} already.", "Go on with that one, or give another day."):
            session.add(sheet)
            session.flush()
        log(session, work.now(), member.id, "sheet begun", f"{name}, {site.host}")
        sheet_id = sheet.id
    return prefill_sheet(work, sheet_id)


def prefill_sheet(work: Workspace, sheet_id: int) -> SheetOut:
    """Fill in what the latest audit and figures know, where nobody has looked yet: what a person found stays."""
    with work.reading() as session:
        sheet = fetch(session, Sheet, sheet_id, "sheet")
        items, site_id, day = items_of(read_sections(sheet.sections)), sheet.site_id, sheet.day
    # Outside of the transaction: run files and figures are read.
    known = _known(work, site_id, items, day)
    with work.session() as session:
        sheet = fetch(session, Sheet, sheet_id, "sheet")
        rows = _rows(session, sheet_id)
        for key, answer in known.items():
            row = rows.get(key)
            if row is None:
                row = SheetAnswer(sheet_id=sheet_id, item=key)
                session.add(row)
            elif not row.source and not _answer(row).is_open:
                continue
            row.outcome, row.number, row.note, row.source, row.at = (
                answer.outcome,
                answer.number,
                answer.note,
                answer.source,
                work.now(),
            )
    return get_sheet(work, sheet_id)


def get_sheet(work: Workspace, sheet_id: int) -> SheetOut:
    """A sheet with its items, against the last filling of the same template."""
    with work.reading() as session:
        sheet = fetch(session, Sheet, sheet_id, "sheet")
        before = session.scalar(
            select(Sheet)
            .where(Sheet.site_id == sheet.site_id, Sheet.template == sheet.template, Sheet.day < sheet.day)
            .order_by(Sheet.day.desc())
            .limit(1)
        )
        earlier = _answers(session, [before.id]).get(before.id, {}) if before is not None else {}
        rows = _rows(session, sheet_id)
        files: dict[str, list[SheetFileOut]] = {}
        for file in session.scalars(select(SheetFile).where(SheetFile.sheet_id == sheet_id).order_by(SheetFile.id)):
            files.setdefault(file.item, []).append(_file_out(file))
        sections = read_sections(sheet.sections)
        return SheetOut(
            **_brief(sheet, {key: _answer(row) for key, row in rows.items()}),
            site_host=sheet.site.host,
            before_id=before.id if before is not None else None,
            before_day=before.day if before is not None else None,
            parts=[
                SheetPart(
                    title=section.title,
                    lines=[
                        _line(item, rows.get(item.key), earlier.get(item.key), files.get(item.key, [])) for item in section.items
                    ],
                )
                for section in sections
            ],
        )


def answer_sheet(work: Workspace, sheet_id: int, body: SheetAnswers, member: Member) -> SheetOut:
    """Write down what came of items, all or none. Raises :class:`InvalidInput` for an item that there is not, and for an answer of the wrong kind."""
    with work.session() as session:
        sheet = fetch(session, Sheet, sheet_id, "sheet")
        sections = read_sections(sheet.sections)
        items = {item.key: item for item in items_of(sections)}
        rows = _rows(session, sheet_id)
        given = {each.item: each.model_dump(exclude_unset=True, exclude={"item"}) for each in body.answers}
        for key, answer in read_answers(body.table, sections).items() if body.table else ():
            given[key] = {"outcome": answer.outcome, "number": answer.number, "note": answer.note}
        for key, values in given.items():
            _check(items, key, values)
            row = rows.get(key)
            if row is None:
                row = SheetAnswer(sheet_id=sheet_id, item=key)
                session.add(row)
            for name, value in values.items():
                if value is not None or name == "number":
                    setattr(row, name, value)
            row.source, row.author_id, row.at = "", member.id, work.now()
    return get_sheet(work, sheet_id)


def remove_sheet(work: Workspace, sheet_id: int, member: Member) -> None:
    """Remove a sheet with what was written on it; to-dos that were made of it stay."""
    with work.session() as session:
        sheet = fetch(session, Sheet, sheet_id, "sheet")
        log(session, work.now(), member.id, "sheet removed", f"{sheet.name}, {sheet.site.host}, {sheet.day}")
        session.delete(sheet)


def add_sheet_todos(work: Workspace, sheet_id: int, body: SheetTodos, member: Member) -> list[TodoOut]:
    """Make a to-do of each item, with how to judge it and what was noted. Raises :class:`InvalidInput` for an item that there is not, and :class:`Conflict` for one that is in
    a live to-do already."""
    with work.reading() as session:
        sheet = fetch(session, Sheet, sheet_id, "sheet")
        items = {item.key: item for item in items_of(read_sections(sheet.sections))}
        rows = _rows(session, sheet_id)
        name, site_id = sheet.name, sheet.site_id
        wanted = list(dict.fromkeys(body.items))
        for key in wanted:
            _check(items, key, {})
            row = rows.get(key)
            if row is not None and row.todo is not None and row.todo.state in LIVE_TODO:
                raise Conflict(f"“{items[key].text}” is in to-do {row.todo.id} already.", "Change that one instead.")
        notes = {key: _note(items[key], rows.get(key), name) for key in wanted}
    made = []
    for key in wanted:
        title = items[key].text
        fields = TodoBody(
            site_id=site_id,
            title=title,
            note=notes[key],
            assignee=body.assignee,
            due=body.due,
            priority=body.priority,
            labels=["review"],
        )
        todo = todos.add_todo(work, fields, member)
        with work.session() as session:
            row = session.get(SheetAnswer, (sheet_id, key))
            if row is None:
                row = SheetAnswer(sheet_id=sheet_id, item=key, author_id=member.id, at=work.now())
                session.add(row)
            row.todo_id = todo.id
        made.append(todo)
    return made


def add_sheet_file(work: Workspace, sheet_id: int, body: SheetFileBody, member: Member) -> SheetFileOut:
    """Keep a file that shows what was found. Raises :class:`InvalidInput` for what is no base64 or too large, and :class:`Conflict` for too many."""
    content = bytes_of(body.content)
    if not content or len(content) > FILE_BYTES_MAX:
        raise InvalidInput("The file is empty, or larger than 5 MiB.", "Choose another one.", "content")
    with work.session() as session:
        sheet = fetch(session, Sheet, sheet_id, "sheet")
        _check({item.key: item for item in items_of(read_sections(sheet.sections))}, body.item, {})
        if (session.scalar(select(func.count()).where(SheetFile.sheet_id == sheet_id)) or 0) >= FILES_MAX:
            raise Conflict(f"The sheet has {FILES_MAX} files already.", "Remove one first.")
        row = SheetFile(
            sheet_id=sheet_id,
            item=body.item,
            name=clean_name(body.name),
            media=media_of(content),
            size=len(content),
            content=content,
            author_id=member.id,
            created_at=work.now(),
        )
        session.add(row)
        session.flush()
        return _file_out(row)


def read_sheet_file(work: Workspace, sheet_id: int, file_id: int) -> tuple[SheetFileOut, bytes]:
    """A file and its bytes. Raises :class:`NotFound`."""
    with work.reading() as session:
        row = _fetch_file(session, sheet_id, file_id)
        return _file_out(row), row.content


def remove_sheet_file(work: Workspace, sheet_id: int, file_id: int) -> None:
    """Take a file away."""
    with work.session() as session:
        session.delete(_fetch_file(session, sheet_id, file_id))


def sheet_table(work: Workspace, sheet_id: int) -> list[dict[str, Any]]:
    """A row for each item of a sheet with what came of it."""
    with work.reading() as session:
        sheet = fetch(session, Sheet, sheet_id, "sheet")
        answers = {key: _answer(row) for key, row in _rows(session, sheet_id).items()}
        return list(sheet_rows(read_sections(sheet.sections), answers))


def _known(work: Workspace, site_id: int, items: Sequence[Item], day: date) -> dict[str, Answer]:
    """What the latest audit and figures up to a day know of items, by key."""
    names = {
        kind: {item.known_by.partition(".")[2] for item in items if item.known_by.startswith(f"{kind}.")}
        for kind in (CHECK, FIGURE)
    }
    checks, figures = _checked(work, site_id, names[CHECK], day), _figured(work, site_id, names[FIGURE], day)
    found = {item.key: known_answer(item, checks, figures) for item in items}
    return {key: answer for key, answer in found.items() if answer is not None}


def _checked(work: Workspace, site_id: int, names: Iterable[str], day: date) -> dict[str, Checked]:
    current = catalogue.load().current
    try:
        with work.reading() as session:
            run = fetch(session, Run, run_id_on(session, site_id, day.isoformat()), "run")
            on = run.requested_at.date()
        with work.open_run(run.id) as opened:
            rows = {current(row["id"]): row for row in results.checks(opened, tuple(CheckOutcome))}
    except (DamagedRun, NotFound):
        return {}  # nothing was audited by then, or its file is gone: people look
    return {
        name: Checked(CheckOutcome(row["outcome"]), row["failing"] or 0, row["examined"] or 0, on)
        for name in names
        if (row := rows.get(current(name))) is not None
    }


def _figured(work: Workspace, site_id: int, names: Iterable[str], day: date) -> dict[str, Figured]:
    """The last value of each figure that the site has, up to a day."""
    found = {}
    for name in names:
        try:
            points = get_trend(work, site_id, name, end=day).points
        except InvalidInput:
            continue  # a figure of the site as a whole that it does not have
        known = [(point.last or point.at.date(), point.value) for point in points if point.value is not None]
        ended = [(last, value) for last, value in known if last <= day]  # a week that goes on is not known yet
        if ended:
            found[name] = Figured(round(ended[-1][1], 2), ended[-1][0])
    return found


def _check(items: Mapping[str, Item], key: str, values: Mapping[str, object]) -> None:
    item = items.get(key)
    if item is None:
        raise InvalidInput(f"The sheet has no item “{key[:80]}”.", "Give the key of one that it has.", "item")
    if values.get("number") is not None and item.asks != SheetAsks.NUMBER:
        raise InvalidInput(f"“{item.text}” asks for no number.", "Give an outcome.", "number")


def _rows(session: Session, sheet_id: int) -> dict[str, SheetAnswer]:
    chosen = select(SheetAnswer).where(SheetAnswer.sheet_id == sheet_id)
    return {
        row.item: row for row in session.scalars(chosen.options(joinedload(SheetAnswer.author), joinedload(SheetAnswer.todo)))
    }


def _answers(session: Session, sheet_ids: Sequence[int]) -> dict[int, dict[str, Answer]]:
    found: dict[int, dict[str, Answer]] = {}
    for row in session.scalars(select(SheetAnswer).where(SheetAnswer.sheet_id.in_(sheet_ids))):
        found.setdefault(row.sheet_id, {})[row.item] = _answer(row)
    return found


def _answer(row: SheetAnswer) -> Answer:
    return Answer(row.outcome, row.number, row.note, row.source)


def _brief(sheet: Sheet, answers: Mapping[str, Answer]) -> dict[str, Any]:
    sections: list[Section] = read_sections(sheet.sections)
    counts = counted(sections, answers)
    return {
        "id": sheet.id,
        "site_id": sheet.site_id,
        "template": sheet.template,
        "name": sheet.name,
        "day": sheet.day,
        "author": sheet.author.name if sheet.author is not None else "",
        "sentence": sheet_sentence(counts),
        "counts": {outcome.value: number for outcome, number in counts.items()},
    }


def _line(item: Item, row: SheetAnswer | None, before: Answer | None, files: list[SheetFileOut]) -> SheetLine:
    answer = _answer(row) if row is not None else Answer()
    todo = row.todo if row is not None else None
    return SheetLine(
        key=item.key,
        text=item.text,
        how=item.how,
        asks=item.asks,
        unit=item.unit,
        outcome=answer.outcome,
        number=answer.number,
        note=answer.note,
        source=answer.source,
        author=row.author.name if row is not None and row.author is not None and not answer.source else "",
        at=row.at if row is not None else None,
        before_outcome=before.outcome if before is not None and not before.is_open else None,
        before_number=before.number if before is not None else None,
        difference=difference(before, answer),
        todo=TodoRef(id=todo.id, title=todo.title, state=todo.state) if todo is not None else None,
        files=files,
    )


def _note(item: Item, row: SheetAnswer | None, name: str) -> str:
    """What a to-do says of its item."""
    parts = [row.note if row is not None else "", item.how, f"From the review sheet “{name}”."]
    return "\n\n".join(part for part in parts if part)


def _fetch_file(session: Session, sheet_id: int, file_id: int) -> SheetFile:
    fetch(session, Sheet, sheet_id, "sheet")
    chosen = select(SheetFile).where(SheetFile.id == file_id, SheetFile.sheet_id == sheet_id).options(undefer(SheetFile.content))
    row = session.scalar(chosen)
    if row is None:
        raise NotFound(f"There is no file {file_id} of sheet {sheet_id}.", "Load the sheet again.")
    return row


def _file_out(row: SheetFile) -> SheetFileOut:
    return SheetFileOut(id=row.id, name=row.name, media=row.media, size=row.size)
