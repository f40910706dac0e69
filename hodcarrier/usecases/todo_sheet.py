"""The sheet of a to-do: on one page everything that somebody needs who fixes it."""

from __future__ import annotations

from dataclasses import dataclass

from hodcarrier.core.errors import DamagedRun, NotFound
from hodcarrier.register.models import Run
from hodcarrier.report.sheet import SheetCheck, SheetPlace, SheetStep, TodoSheet
from hodcarrier.runfile import results
from hodcarrier.runfile.evidence import located
from hodcarrier.runfile.reader import RunFile
from hodcarrier.usecases.todo_lists import get_todo
from hodcarrier.usecases.workspace import Workspace, latest_run_id
from hodcarrier.wire.todos import TodoOut

PLACES_SHOWN = 200

__all__ = ["TodoSheet", "todo_sheet"]


def todo_sheet(work: Workspace, todo_id: int) -> TodoSheet:
    """The sheet of a to-do, with what the latest run says of its places. Without that run's file it goes without sources and reasons."""
    todo = get_todo(work, todo_id)
    found = _in_run(work, todo)
    return TodoSheet(
        todo=todo,
        checks=found.checks,
        places=found.places or [SheetPlace(k.subject, k.place, k.outcome, "", None) for k in todo.linked[:PLACES_SHOWN]],
        more=max(0, len(todo.linked) - PLACES_SHOWN),
        steps=[SheetStep(event.at, event.who, event.text) for event in todo.events],
        run_at=found.run_at,
    )


@dataclass(frozen=True)
class _Found:
    """What a run says of the places of a to-do, with the reasons and the remedy of each of its checks."""

    places: list[SheetPlace]
    checks: list[SheetCheck]
    run_at: str = ""


def _in_run(work: Workspace, todo: TodoOut) -> _Found:
    if not todo.linked:
        return _Found([], [])
    try:
        with work.reading() as session:
            run_id = latest_run_id(session, todo.site_id)
            at = session.get_one(Run, run_id).requested_at
        with work.open_run(run_id) as run:
            return _Found(_places(run, todo), _checks(run, todo), f"{at:%a} {at.day} {at:%b %Y}")
    except (NotFound, DamagedRun):
        return _Found([], [])


def _places(run: RunFile, todo: TodoOut) -> list[SheetPlace]:
    """Those that are not cleared first."""
    linked = sorted(todo.linked, key=lambda place: place.outcome == "cleared")[:PLACES_SHOWN]
    prints = [bytes.fromhex(place.fingerprint) for place in linked]
    rows = {row["fingerprint"]: row for row in located(run, results.findings_by_print(run, prints))}
    return [
        SheetPlace(
            k.subject,
            k.place,
            k.outcome,
            rows[k.fingerprint]["message"] if k.fingerprint in rows else "",
            rows[k.fingerprint].get("source") if k.fingerprint in rows else None,
        )
        for k in linked
    ]


def _checks(run: RunFile, todo: TodoOut) -> list[SheetCheck]:
    texts = results.texts(run)
    ids = dict.fromkeys(place.check for place in todo.linked)
    return [
        SheetCheck(texts[each].summary, texts[each].why, texts[each].fix, texts[each].standard) for each in ids if each in texts
    ]
