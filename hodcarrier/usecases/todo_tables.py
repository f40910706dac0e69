"""To-dos as tables: taken in from CSV, all rows or none, and given out as CSV."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import Priority, Severity, SiteKind
from hodcarrier.register.models import Member, Site
from hodcarrier.report.tables import to_csv
from hodcarrier.usecases.todo_lists import todo_out
from hodcarrier.usecases.todo_making import PlainTodo, make_plain
from hodcarrier.usecases.todo_story import worker_for
from hodcarrier.usecases.workspace import Workspace, log
from hodcarrier.wire.todo_things import TodosImported, TodoTable
from hodcarrier.wire.todos import TodoOut

ROWS_MAX = 2_000
HOURS_MAX = 1_000
NEEDED = ("site", "title")
COLUMNS = (*NEEDED, "note", "assignee", "due", "priority", "severity", "hours", "labels")
OUT = (
    "id",
    "client",
    "site",
    "title",
    "state",
    "severity",
    "priority",
    "assignee",
    "due",
    "hours",
    "labels",
    "places",
    "cleared",
    "gain",
    "check",
    "note",
)


def import_todos(work: Workspace, body: TodoTable, member: Member) -> TodosImported:
    """Make a to-do of each row. Nothing is made unless every row can be read. Raises :class:`InvalidInput` naming the row and what is wrong with it."""
    rows = list(_table(body.csv))
    today = work.now().date()
    with work.session() as session:
        sites, people = _sites(session), _people(session)
        wanted = [_read(number, row, sites, people, today) for number, row in rows]
        for site, person in {(site, todo.assignee_id) for site, todo in wanted}:
            worker_for(session, site, person, "csv")
        if body.check_only:
            return TodosImported(rows=len(wanted), todos=[])
        made = [make_plain(session, work, site, todo, member, "Made from a table.") for site, todo in wanted]
        log(session, work.now(), member.id, "to-dos imported", f"{len(made)} rows")
        session.flush()
        return TodosImported(rows=len(made), todos=[todo_out(todo, today) for todo in made])


def export_todos(todos: Iterable[TodoOut]) -> str:
    """To-dos as CSV that no spreadsheet takes for formulas; the columns that can be taken in again have the same names."""
    return to_csv([_row(todo) for todo in todos], OUT)


def _row(todo: TodoOut) -> dict[str, Any]:
    return {
        "id": todo.id,
        "client": todo.client_name,
        "site": todo.site_host,
        "title": todo.title,
        "state": todo.state.value,
        "severity": todo.severity.value,
        "priority": todo.priority.value,
        "assignee": todo.assignee,
        "due": todo.due.isoformat() if todo.due is not None else "",
        "hours": todo.estimate_hours if todo.estimate_hours is not None else "",
        "labels": "; ".join(todo.labels),
        "places": todo.places,
        "cleared": todo.cleared,
        "gain": round(todo.gain, 3) if todo.gain is not None else "",
        "check": todo.check,
        "note": todo.note,
    }


def _table(text: str) -> Iterator[tuple[int, dict[str, str]]]:
    """The rows of a CSV with the numbers of their lines, whatever ends these. Empty rows are left out."""
    reader = csv.DictReader(io.StringIO(text.removeprefix("\ufeff"), newline=None))
    try:
        names = [(name or "").strip().lower() for name in reader.fieldnames or ()]
        if missing := [name for name in NEEDED if name not in names]:
            raise InvalidInput(
                f"The table lacks the column {' and '.join(missing)}.",
                f"Columns are {', '.join(COLUMNS)}; others are left out.",
                "csv",
            )
        reader.fieldnames = names
        found = 0
        for row in reader:
            values = {name: (row.get(name) or "").strip() for name in COLUMNS}
            if not any(values.values()):
                continue
            found += 1
            if found > ROWS_MAX:
                raise InvalidInput(f"The table has more than {ROWS_MAX:,} rows.", "Import it in parts.", "csv")
            yield reader.line_num, values
        if not found:
            raise InvalidInput("The table has no rows.", "Give one for each to-do.", "csv")
    except csv.Error as error:
        raise InvalidInput(f"The table cannot be read: {error}.", "Write it as CSV with commas.", "csv") from None


def _sites(session: Session) -> dict[str, list[Site]]:
    found: dict[str, list[Site]] = {}
    for site in session.scalars(select(Site).where(Site.kind == SiteKind.OWN, ~Site.archived)):
        found.setdefault(site.host, []).append(site)
        found[str(site.id)] = [site]
    return found


def _people(session: Session) -> dict[str, int]:
    members = session.scalars(select(Member).where(Member.active, Member.role != Role.GUEST)).all()
    return {key: member.id for member in members for key in (member.email.casefold(), member.name.casefold())}


def _read(
    line: int, row: Mapping[str, str], sites: Mapping[str, list[Site]], people: Mapping[str, int], today: date
) -> tuple[Site, PlainTodo]:
    def wrong(what: str, hint: str) -> InvalidInput:
        return InvalidInput(f"Line {line}: {what}", hint, "csv")

    named = sites.get(row["site"].lower().removeprefix("https://").removeprefix("http://").rstrip("/"), [])
    if len(named) != 1:
        many = f"{len(named)} clients have the site “{row['site']}”." if named else f"there is no own site “{row['site']}”."
        raise wrong(many, "Give the number of the site." if named else "Give its host, such as shop.example, or its number.")
    if not row["title"]:
        raise wrong("the to-do has no title.", "Give one.")
    if len(row["title"]) > 300:
        raise wrong("the title has more than 300 characters.", "Put the rest into the note.")
    assignee = _person(people, row["assignee"].casefold()) if row["assignee"] else None
    if row["assignee"] and assignee is None:
        raise wrong(f"nobody called “{row['assignee']}” is a member.", "Give the name or e-mail address of one.")
    return named[0], PlainTodo(
        title=row["title"],
        note=row["note"],
        due=_day(row["due"], today, wrong),
        assignee_id=assignee,
        severity=_word(Severity, row["severity"], Severity.MEDIUM, "severity", wrong),
        priority=_word(Priority, row["priority"], Priority.NORMAL, "priority", wrong),
        estimate_hours=_hours(row["hours"], wrong),
        labels=_labels(row["labels"], wrong),
    )


def _person(people: Mapping[str, int], text: str) -> int | None:
    """Somebody by name or address, or by the beginning of a name that only one has."""
    if text in people:
        return people[text]
    near = {number for name, number in people.items() if name.startswith(text)}
    return near.pop() if len(near) == 1 else None


def _day(text: str, today: date, wrong: Any) -> date | None:
    if not text:
        return None
    try:
        day = date.fromisoformat(text)
    except ValueError:
        raise wrong(f"“{text}” is not a day.", "Write it as YYYY-MM-DD.") from None
    if day < today:
        raise wrong(f"the due date {text} is in the past.", "Give today or a later day, or leave it empty.")
    return day


def _word(kind: Any, text: str, default: Any, name: str, wrong: Any) -> Any:
    if not text:
        return default
    try:
        return kind(text.lower())
    except ValueError:
        raise wrong(f"“{text}” is no {name}.", f"It is one of {', '.join(kind)}.") from None


def _hours(text: str, wrong: Any) -> float | None:
    if not text:
        return None
    try:
        hours = float(text.replace(",", "."))
    except ValueError:
        hours = math.nan
    if not 0 < hours <= HOURS_MAX:
        raise wrong(f"“{text}” is no number of hours.", f"Give one above 0, up to {HOURS_MAX:,}, such as 1.5.")
    return hours


def _labels(text: str, wrong: Any) -> tuple[str, ...]:
    labels = tuple(label for each in text.split(";") if (label := each.strip()))
    if len(labels) > 20 or any(len(label) > 40 for label in labels):
        raise wrong("there are too many labels, or one is too long.", "Give up to 20 of up to 40 characters.")
    return labels
