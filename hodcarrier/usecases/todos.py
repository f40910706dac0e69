"""To-dos are made: from findings, one or several at once, or by hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict, InvalidInput
from hodcarrier.core.judge.todos import default_due, spread
from hodcarrier.core.states import LIVE_TODO, Severity, TodoEventKind, TodoPer, TodoState, Topic
from hodcarrier.core.words import fill
from hodcarrier.register.models import Member, Site, Todo, TodoFinding
from hodcarrier.runfile import results
from hodcarrier.runfile.what_if import WhatIfRun
from hodcarrier.usecases.announcements import announce_todo
from hodcarrier.usecases.clients import targets_of
from hodcarrier.usecases.todo_lists import todo_out
from hodcarrier.usecases.todo_mails import tell_assigned
from hodcarrier.usecases.todo_making import first_approval
from hodcarrier.usecases.todo_picks import Group, Picked, pick
from hodcarrier.usecases.todo_story import fingerprints_in_todos, note, set_labels, set_watchers, worker_for
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run_id, log, unless_taken
from hodcarrier.wire.results import TodoRef
from hodcarrier.wire.todos import TodoBody, TodoDraft, TodoFields, TodoOut, TodosBody

AT_ONCE_MAX = 500


@dataclass(frozen=True)
class _Draft:
    """A to-do that is not made yet. ``elsewhere`` are those that hold some of its findings already, which are ``left`` out."""

    title: str
    severity: Severity
    rows: Sequence[results.Row]
    elsewhere: Sequence[Todo]
    left: int
    assignee: int | None
    due: date
    gain: float | None


def add_todo(work: Workspace, body: TodoBody, member: Member | None) -> TodoOut:
    """Make a to-do. A finding sits in one live to-do at most; those that do already are left out, and it is said where they are.

    Raises :class:`InvalidInput` for a due date in the past, :class:`NotFound` for unknown members, checks, causes or
    findings, :class:`Conflict` when every finding is in another to-do already.
    """
    picked = pick(work, body, TodoPer.ALL)
    title = body.title.strip() or (picked.groups[0].title if picked.groups else "")
    if not title:
        raise InvalidInput("The to-do has no title.", "Give one, or name a check, a cause or findings.", "title")
    groups = [Group(title, picked.groups[0].rows if picked.groups else [])]
    drafts = _drafts(work, body, groups, [body.assignee] if body.assignee is not None else [])
    return _make(work, body, drafts, picked, member)[0]


def add_todos(work: Workspace, body: TodosBody, member: Member | None) -> list[TodoOut]:
    """Make several to-dos, one for each cause, page, template or check, all of them or none. Findings that are in a live to-do already are left out.

    Raises what :func:`add_todo` raises, and :class:`InvalidInput` for more than :data:`AT_ONCE_MAX`.
    """
    drafts, picked = _planned(work, body)
    return _make(work, body, drafts, picked, member)


def plan_todos(work: Workspace, body: TodosBody) -> list[TodoDraft]:
    """The to-dos that :func:`add_todos` would make of the same; nothing is changed."""
    drafts, _ = _planned(work, body)
    with work.reading() as session:
        names = dict(session.execute(select(Member.id, Member.name)).all())
    return [
        TodoDraft(
            title=draft.title,
            severity=draft.severity,
            places=len(draft.rows),
            assignee_id=draft.assignee,
            assignee=names.get(draft.assignee, "") if draft.assignee is not None else "",
            due=draft.due,
            gain=draft.gain,
            left_out=draft.left,
            elsewhere=[TodoRef(id=todo.id, title=todo.title, state=todo.state) for todo in draft.elsewhere],
        )
        for draft in drafts
    ]


def _planned(work: Workspace, body: TodosBody) -> tuple[list[_Draft], Picked]:
    picked = pick(work, body, body.per)
    if not picked.groups:
        raise InvalidInput("Nothing is chosen to make to-dos of.", "Name a check, a cause, findings or an event.", "check")
    if len(picked.groups) > AT_ONCE_MAX:
        raise InvalidInput(
            f"That would be {len(picked.groups):,} to-dos.",
            f"Choose fewer findings: {AT_ONCE_MAX} are made at once at most.",
            "per",
        )
    return _drafts(work, body, picked.groups, body.assignees), picked


def _drafts(work: Workspace, body: TodoFields, groups: Sequence[Group], people: Sequence[int]) -> list[_Draft]:
    """What to-dos there would be. Groups of which every finding is in a to-do already are left out; raises :class:`Conflict` when that is so of all."""
    today = work.now().date()
    if body.due is not None and body.due < today:
        raise InvalidInput(f"The due date {body.due:%a %d %b %Y} is in the past.", "Give today or a later day.", "due")
    with work.reading() as session:
        site = fetch(session, Site, body.site_id, "site")
        for person in people:
            worker_for(session, site, person)
        taken = fingerprints_in_todos(session, site.id) if any(group.rows for group in groups) else {}
        holidays = site.client.holiday_dates
        targets = targets_of(site.client)
        left = [(group, *_leave_out(group.rows, taken)) for group in groups]
        chosen = [(group, fresh, others) for group, fresh, others in left if fresh or not group.rows]
        if not chosen:
            first = next(todo for _, _, others in left for todo in others)
            raise Conflict(f"These findings are in to-do {first.id} already: “{first.title}”.", "Change that one instead.")
        weights = [body.estimate_hours if body.estimate_hours is not None else float(len(fresh)) for _, fresh, _ in chosen]
        given = (
            spread(weights, people, _busy(session, people, body.estimate_hours is not None)) if people else [None] * len(chosen)
        )
    gains = _gains(work, body.site_id, [fresh for _, fresh, _ in chosen])
    return [
        _Draft(
            group.title[:300],
            group.severity,
            fresh,
            others,
            len(group.rows) - len(fresh),
            person,
            body.due or default_due(group.severity, today, holidays, targets),
            gain,
        )
        for (group, fresh, others), person, gain in zip(chosen, given, gains, strict=True)
    ]


def _leave_out(rows: Sequence[results.Row], taken: dict[bytes, Todo]) -> tuple[list[results.Row], list[Todo]]:
    """The findings that no live to-do has, and the to-dos that have the others."""
    holder = {row["fingerprint"]: taken.get(bytes.fromhex(row["fingerprint"])) for row in rows}
    others = {todo.id: todo for todo in holder.values() if todo is not None}
    return [row for row in rows if holder[row["fingerprint"]] is None], list(others.values())


def _busy(session: Session, people: Sequence[int], in_hours: bool) -> dict[int, float]:
    """What people have to do already: in hours of estimates, or in places."""
    measure = func.sum(Todo.estimate_hours) if in_hours else func.sum(Todo.places - Todo.cleared)
    rows = session.execute(
        select(Todo.assignee_id, measure)
        .where(Todo.assignee_id.in_(people), Todo.state.in_(LIVE_TODO))
        .group_by(Todo.assignee_id)
    )
    return {person: float(load or 0) for person, load in rows if person is not None}


def _gains(work: Workspace, site_id: int, groups: Sequence[Sequence[results.Row]]) -> list[float | None]:
    if not any(groups):
        return [None] * len(groups)
    with work.reading() as session:
        latest = latest_run_id(session, site_id)
    with work.open_run(latest) as run:
        what_if = WhatIfRun(run)
        return [what_if.gain([bytes.fromhex(row["fingerprint"]) for row in rows]) for rows in groups]


def _make(work: Workspace, body: TodoFields, drafts: Sequence[_Draft], picked: Picked, member: Member | None) -> list[TodoOut]:
    now = work.now()
    with work.session() as session:
        made = []
        site = fetch(session, Site, body.site_id, "site")
        approval = first_approval(site)
        for draft in drafts:
            todo = Todo(
                site_id=body.site_id,
                title=draft.title,
                note=body.note,
                check_id=draft.rows[0]["check"] if draft.rows else "",
                severity=draft.severity,
                state=TodoState.OPEN,
                approval=approval,
                assignee_id=draft.assignee,
                author_id=member.id if member else None,
                due=draft.due,
                priority=body.priority,
                estimate_hours=body.estimate_hours,
                gain=draft.gain,
                places=len(draft.rows),
                created_at=now,
            )
            todo.linked = [
                TodoFinding(
                    fingerprint=bytes.fromhex(row["fingerprint"]),
                    site_id=body.site_id,
                    check_id=row["check"],
                    rule=picked.rules.get(row["check"], ""),
                    subject=row["subject"],
                    place=row["place"],
                )
                for row in draft.rows
            ]
            set_labels(todo, body.labels)
            set_watchers(session, todo, site, body.watchers)
            with unless_taken(
                session, "Somebody put these findings into another to-do in this moment.", "Load the to-dos again."
            ):
                session.add(todo)
            event = note(session, todo, now, member, TodoEventKind.MADE, _made_words(draft))
            tell_assigned(session, todo, event, member)
            announce_todo(session, now, Topic.TODO_ADDED, todo, event.text, member.name if member else "")
            log(session, now, member.id if member else None, "to-do added", draft.title)
            made.append(todo)
        return [todo_out(todo, now.date(), full=len(made) == 1) for todo in made]


def _made_words(draft: _Draft) -> str:
    if not draft.rows:
        return "Made by hand."
    said = fill("Made with {n:place}.", {"n": len(draft.rows)})
    if draft.left:
        said += f" {draft.left} more are in to-do {', '.join(str(todo.id) for todo in draft.elsewhere)} already."
    return said
