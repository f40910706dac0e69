"""What runs say of to-dos: confirmed, opened again, left as they are, with the reason each time."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.judge.compare import Sight
from hodcarrier.core.judge.todos import Judgement, judge, turn_of
from hodcarrier.core.states import LIVE_TODO, MailKind, PlaceOutcome, RunPurpose, TodoEventKind, TodoState, Topic
from hodcarrier.core.words import fill
from hodcarrier.register.models import Member, Run, Todo, TodoEvent, TodoFinding
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights
from hodcarrier.runfile.what_if import WhatIfRun
from hodcarrier.usecases.announcements import announce_todo
from hodcarrier.usecases.todo_lists import todo_out
from hodcarrier.usecases.todo_mails import tell_judged
from hodcarrier.usecases.todo_story import fingerprints_in_todos, note, set_state
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.todos import TodoOut


def judge_after_run(session: Session, now: datetime, run: Run, head: RunFile) -> int:
    """Let a finished run judge every to-do of its site that is not dropped. Returns how many it confirmed.

    A confirmed one whose findings return is opened again, unless another to-do has taken them in the meantime.
    """
    if run.purpose != RunPurpose.AUDIT:
        return 0
    judged = (*LIVE_TODO, TodoState.CONFIRMED)
    found = session.scalars(
        select(Todo).where(Todo.site_id == run.site_id, Todo.state.in_(judged)).order_by(Todo.id.desc())
    ).all()
    todos = [todo for todo in found if todo.linked and todo.created_at <= now]
    if not todos:
        return 0
    sights = Sights(head.db, head.meta("end", "complete") == "complete")
    closed = [todo for todo in todos if todo.state == TodoState.CONFIRMED]
    confirmed = 0
    for todo in (todo for todo in todos if todo.state in LIVE_TODO):
        changed = sum(_judge_place(link, sights) for link in todo.linked)
        judgement = judge(todo.state, [link.outcome for link in todo.linked], changed)
        before, event = todo.state, None
        if judgement.sentence and (judgement.state, judgement.flag, judgement.cleared) != (todo.state, todo.flag, todo.cleared):
            event = note(session, todo, now, None, TodoEventKind.RUN, judgement.sentence, run)
        _settle(todo, judgement, now)
        if event is not None:
            _tell(session, now, todo, before, event)
        confirmed += todo.state == TodoState.CONFIRMED
    session.flush()
    _open_again(session, now, run, sights, closed)
    _weigh([todo for todo in todos if todo.state in LIVE_TODO], head)
    return confirmed


def judge_look(work: Workspace, todo_id: int, outcomes: Mapping[bytes, PlaceOutcome], member: Member) -> TodoOut:
    """Let what was seen of the places of a to-do just now judge it, as a run would; it is noted who asked."""
    now = work.now()
    with work.session() as session:
        todo = fetch(session, Todo, todo_id, "todo")
        for link in todo.linked:
            link.outcome = outcomes.get(link.fingerprint, PlaceOutcome.UNVERIFIED)
        judgement = judge(todo.state, [link.outcome for link in todo.linked])
        said = judgement.sentence or fill("{n:place} still there.", {"n": len(todo.linked)})
        before = todo.state
        event = note(session, todo, now, member, TodoEventKind.CHECKED, f"Checked now. {said}")
        _settle(todo, judgement, now)
        _tell(session, now, todo, before, event, member)
        return todo_out(todo, now.date(), full=True)


_TOLD_AS = {
    TodoState.CONFIRMED: (MailKind.CONFIRMED, Topic.TODO_CONFIRMED),
    TodoState.OPEN: (MailKind.REOPENED, Topic.TODO_REOPENED),
}


def _tell(session: Session, now: datetime, todo: Todo, before: TodoState, event: TodoEvent, by: Member | None = None) -> None:
    """Tell people, and other programs, that a to-do was confirmed or opened again, when it was."""
    turn = turn_of(before, todo.state)
    if turn is not None:
        kind, topic = _TOLD_AS[turn]
        tell_judged(session, todo, kind, event, by)
        announce_todo(session, now, topic, todo, event.text, by.name if by else "")


def _settle(todo: Todo, judgement: Judgement, now: datetime) -> None:
    """Bring a live to-do to what was judged of it."""
    if judgement.state == TodoState.CONFIRMED:
        todo.closed_at = now
    if judgement.state != todo.state:
        todo.version += 1
    set_state(todo, judgement.state)
    todo.flag, todo.cleared = judgement.flag, judgement.cleared


def _weigh(todos: Sequence[Todo], head: RunFile) -> None:
    """Say of to-dos what health would rise by if all their places passed."""
    if todos:
        what_if = WhatIfRun(head)
        for todo in todos:
            todo.gain = what_if.gain([link.fingerprint for link in todo.linked])


def _open_again(session: Session, now: datetime, run: Run, sights: Sights, confirmed: Sequence[Todo]) -> None:
    """Open the confirmed to-dos again whose findings have returned, the latest first."""
    taken = set(fingerprints_in_todos(session, run.site_id))
    for todo in confirmed:
        back = {link.fingerprint for link in todo.linked if sights.found(link.fingerprint) is False} - taken
        if not back:
            continue
        for link in todo.linked:
            _judge_place(link, sights)
        judgement = judge(todo.state, [link.outcome for link in todo.linked])
        event = note(session, todo, now, None, TodoEventKind.RUN, judgement.sentence, run)
        set_state(todo, judgement.state, taken)
        taken |= {link.fingerprint for link in todo.linked}
        todo.flag, todo.cleared, todo.closed_at = judgement.flag, judgement.cleared, None
        todo.version += 1
        _tell(session, now, todo, TodoState.CONFIRMED, event)


def _judge_place(link: TodoFinding, sights: Sights) -> bool:
    """Note what a run says of one place. Returns whether it cannot tell because the check changed since the place was found.

    One that fails under another rule than it was found by is still there, and from then on that rule counts.
    """
    sight = sights.of(link.fingerprint, link.check_id, link.subject)
    link.outcome, changed = outcome_of(link, sight, sights)
    if sight.found:
        link.rule = sights.rule_of(link.check_id)
    return changed


def outcome_of(link: TodoFinding, sight: Sight, sights: Sights) -> tuple[PlaceOutcome, bool]:
    """What was seen of a place, and whether that cannot be told because the check changed since it was found.

    A place that passes under another rule than it was found by is not fixed. What has gone with its page is cleared under any rule.
    """
    if sight.found:
        return (PlaceOutcome.CLEARED if sight.waived else PlaceOutcome.STILL), False
    if sight.gone:
        return PlaceOutcome.CLEARED, False
    changed = bool(link.rule) and link.rule != sights.rule_of(link.check_id)
    passed = sight.known and sight.examined and not changed
    return (PlaceOutcome.CLEARED if passed else PlaceOutcome.UNVERIFIED), changed
