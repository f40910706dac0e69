"""To-dos: made from findings, worked on, confirmed or opened again by runs."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.judge.health import RANK
from hodcarrier.core.judge.todos import NEXT_STATES, default_due, judge
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import (
    LIVE_TODO,
    PlaceOutcome,
    RunPurpose,
    Severity,
    TodoEventKind,
    TodoState,
)
from hodcarrier.core.web.urls import is_web, place_on
from hodcarrier.register.models import Member, Run, Site, Todo, TodoEvent, TodoFinding
from hodcarrier.runfile import results
from hodcarrier.runfile.compared import Chosen
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import CheckUsed, Sights
from hodcarrier.usecases.comparisons import compared
from hodcarrier.usecases.todo_lists import todo_out
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run_id, log, unless_taken
from hodcarrier.wire.todos import ComparedPick, TodoBody, TodoChange, TodoOut


def add_todo(work: Workspace, body: TodoBody, member: Member | None) -> TodoOut:
    """Make a to-do. A finding sits in one live to-do at most; those that do already are left out, and it is said where they are.

    Raises :class:`InvalidInput` for a due date in the past, :class:`NotFound` for unknown members, checks, causes or
    findings, :class:`Conflict` when every finding is in another to-do already.
    """
    today = work.now().date()
    if body.due is not None and body.due < today:
        raise InvalidInput(f"The due date {body.due:%a %d %b %Y} is in the past.", "Give today or a later day.", "due")
    # Runs that nobody has compared may take ten seconds: not while the register is locked.
    picked = _picked(work, body.site_id, body.compared) if body.compared else None
    with work.session() as session:
        site = fetch(session, Site, body.site_id, "site")
        assignee = _assignee(session, body.assignee)
        rows, rules = _chosen_findings(work, session, body, picked)
        if rows and any(row["check"] != rows[0]["check"] for row in rows):
            severity = min((row["severity"] for row in rows), key=RANK.__getitem__)
        else:
            severity = rows[0]["severity"] if rows else Severity.MEDIUM
        fresh, said = _leave_out_taken(session, site, rows)
        title = body.title.strip() or (picked.title if picked else _title(site, body, rows))
        if not title:
            raise InvalidInput("The to-do has no title.", "Give one, or name a check, a cause or findings.", "title")
        todo = Todo(
            site_id=site.id,
            title=title[:300],
            note=body.note,
            check_id=rows[0]["check"] if rows else "",
            severity=severity,
            state=TodoState.OPEN,
            assignee_id=assignee.id if assignee else None,
            author_id=member.id if member else None,
            due=body.due or default_due(severity, today, [date.fromisoformat(day) for day in site.client.holidays]),
            places=len(fresh),
            created_at=work.now(),
        )
        todo.linked = [
            TodoFinding(
                fingerprint=bytes.fromhex(r["fingerprint"]),
                site_id=site.id,
                check_id=r["check"],
                rule=rules.get(r["check"], ""),
                subject=r["subject"],
                place=r["place"],
            )
            for r in fresh
        ]
        with unless_taken(session, "Somebody put these findings into another to-do in this moment.", "Load the to-dos again."):
            session.add(todo)
        _note(
            session,
            todo,
            work.now(),
            member,
            TodoEventKind.MADE,
            f"Made with {len(fresh)} place{'s' if len(fresh) != 1 else ''}." + said if rows else "Made by hand.",
        )
        log(session, work.now(), member.id if member else None, "to-do added", title)
        return todo_out(todo, today, full=True)


def _assignee(session: Session, member_id: int | None) -> Member | None:
    if member_id is None:
        return None
    member = session.get(Member, member_id)
    if member is None or not member.active:
        names = ", ".join(
            f"{m.name} ({m.id})" for m in session.scalars(select(Member).where(Member.active, Member.role != Role.GUEST))
        )
        raise NotFound(f"There is no member {member_id}.", f"Members are {names}.")
    if member.role == Role.GUEST:
        raise InvalidInput(f"{member.name} is a guest and cannot be given work.", "Choose a member of the agency.", "assignee")
    return member


@dataclass(frozen=True)
class _Picked:
    """What was picked from a comparison: a title for it, and the fingerprints of the head's open findings."""

    title: str
    prints: list[bytes]


def _picked(work: Workspace, site_id: int, pick: ComparedPick) -> _Picked:
    with work.reading() as session:
        latest = latest_run_id(session, site_id)
    if pick.head and pick.head != latest:
        raise Conflict(
            f"Run {pick.head} is not the latest run of this site.",
            f"Compare with run {latest}, the latest one, and choose the event there.",
        )
    with compared(work, pick.base, latest) as found:
        events, part = found.figures.events, found.part(pick.part) if pick.part is not None else None
        if pick.event is not None and pick.event < len(events):
            title = events[pick.event].title
        elif pick.event is None and part is not None:
            title = part.name
        else:
            raise NotFound("The comparison has no such event or part.", "Load the comparison and choose from it again.")
        return _Picked(title, found.prints(Chosen(event=pick.event, part=pick.part)))


def _chosen_findings(
    work: Workspace, session: Session, body: TodoBody, picked: _Picked | None
) -> tuple[list[results.Row], dict[str, str]]:
    """The findings a to-do is to be about, and the rules of their checks."""
    if not (body.check or body.cause is not None or body.fingerprints or picked):
        return [], {}
    with work.open_run(latest_run_id(session, body.site_id)) as run:
        if picked:
            rows = [row for row in results.findings_by_print(run, picked.prints) if not row["waived"]]
            if not rows:
                raise NotFound(
                    "Nothing of this is left to work on in the latest run.", "Its findings are fixed, gone, unverified or waived."
                )
            return rows, _rules(run)
        if body.fingerprints:
            try:
                prints = [bytes.fromhex(text) for text in body.fingerprints]
            except ValueError:
                raise InvalidInput("A fingerprint is not hexadecimal.", "Copy it from the finding.", "fingerprints") from None
            rows = results.findings_by_print(run, prints)
            if len(rows) < len(set(prints)):
                raise NotFound("Some of these findings are not in the latest run.", "Load the findings again.")
            return rows, _rules(run)
        if body.check:
            catalogue.get(body.check)
        rows = results.findings(run, check_id=body.check, cause=body.cause)
        if not rows:
            raise NotFound("The latest run has no such findings.", "They may be fixed already, or waived.")
        return rows, _rules(run)


def _rules(run: RunFile) -> dict[str, str]:
    sql = "SELECT id, state, needs, revision, limits FROM check_state"
    return {check: CheckUsed(*used).rule for check, *used in run.rows(sql)}


def _leave_out_taken(session: Session, site: Site, rows: list[results.Row]) -> tuple[list[results.Row], str]:
    taken = fingerprints_in_todos(session, site.id) if rows else {}
    fresh = [row for row in rows if bytes.fromhex(row["fingerprint"]) not in taken]
    others = {taken[bytes.fromhex(r["fingerprint"])].id: taken[bytes.fromhex(r["fingerprint"])] for r in rows if r not in fresh}
    if rows and not fresh:
        first = next(iter(others.values()))
        raise Conflict(f"These findings are in to-do {first.id} already: “{first.title}”.", "Change that one instead.")
    left = len(rows) - len(fresh)
    said = f" {left} more are in to-do {', '.join(str(i) for i in others)} already." if left else ""
    return fresh, said


def _title(site: Site, body: TodoBody, rows: list[results.Row]) -> str:
    if not rows:
        return ""
    summary = str(rows[0]["summary"])
    places = {row["place"] or row["subject"] for row in rows}
    if len(places) == 1 and (body.cause is not None or len(rows) == 1) and is_web(place := places.pop()):
        return f"{summary}: {place_on(site.host, place)}"
    return summary


def change_todo(work: Workspace, todo_id: int, change: TodoChange, version: int | None, member: Member) -> TodoOut:
    """Change a to-do or comment on it. Raises :class:`Conflict` for a step its state does not permit."""
    now = work.now()
    given = change.model_fields_set
    with work.session() as session:
        todo = fetch(session, Todo, todo_id, "todo")
        if version is not None and version != todo.version:
            raise Conflict("Somebody changed this to-do in the meantime.", "Load it again and repeat your change.")
        if "due" in given and change.due is not None and change.due < now.date() and change.due != todo.due:
            raise InvalidInput(f"The due date {change.due:%a %d %b %Y} is in the past.", "Give today or a later day.", "due")
        if change.state is not None and change.state != todo.state:
            _move(session, todo, change, now, member)
        if "assignee" in given and change.assignee != todo.assignee_id:
            todo.assignee = _assignee(session, change.assignee)
            _note(
                session,
                todo,
                now,
                member,
                TodoEventKind.ASSIGNED,
                f"Given to {todo.assignee.name}." if todo.assignee else "Given to nobody.",
            )
        if "due" in given and change.due != todo.due:
            todo.due = change.due
            _note(
                session,
                todo,
                now,
                member,
                TodoEventKind.DUE,
                f"Due {change.due:%a %d %b %Y}." if change.due else "Due date taken away.",
            )
        if change.title is not None:
            todo.title = change.title
        if change.note is not None:
            todo.note = change.note
        if change.comment:
            _note(session, todo, now, member, TodoEventKind.COMMENT, change.comment)
        todo.version += 1
        session.flush()
        return todo_out(todo, now.date(), full=True)


def _move(session: Session, todo: Todo, change: TodoChange, now: datetime, member: Member) -> None:
    state = change.state or todo.state
    if state == TodoState.CONFIRMED:
        raise Conflict("Only a run can confirm a to-do.", "Mark it done; the next run of the site looks at its places.")
    if state not in NEXT_STATES[todo.state]:
        raise Conflict(
            f"A to-do that is {todo.state} cannot become {state}.", f"It can become {' or '.join(NEXT_STATES[todo.state])}."
        )
    if state == TodoState.DROPPED:
        if not (change.drop_reason or "").strip():
            raise InvalidInput("Dropping a to-do needs a reason.", "Say why it will not be done.", "drop_reason")
        todo.drop_reason = change.drop_reason or ""
    _note(
        session,
        todo,
        now,
        member,
        TodoEventKind.STATE,
        f"From {todo.state} to {state}." + (f" Reason: {change.drop_reason}" if state == TodoState.DROPPED else ""),
    )
    with unless_taken(session, "Its findings are in another to-do by now.", "Change that one instead."):
        _set_state(todo, state)
    todo.flag = ""
    todo.closed_at = now if state == TodoState.DROPPED else None


def _set_state(todo: Todo, state: TodoState, but: Collection[bytes] = ()) -> None:
    """A to-do that is closed lets go of its findings, one that is opened again takes them, ``but`` those another has by now."""
    todo.state = state
    for link in todo.linked:
        link.live = state in LIVE_TODO and link.fingerprint not in but


def _note(
    session: Session, todo: Todo, at: datetime, member: Member | None, kind: TodoEventKind, text: str, run: Run | None = None
) -> None:
    session.add(
        TodoEvent(
            todo_id=todo.id, at=at, member_id=member.id if member else None, run_id=run.id if run else None, kind=kind, text=text
        )
    )
    session.flush()
    session.expire(todo, ["events"])


def fingerprints_in_todos(session: Session, site_id: int) -> dict[bytes, Todo]:
    """Fingerprints that sit in a live to-do of a site."""
    rows = session.execute(
        select(TodoFinding.fingerprint, Todo)
        .join(Todo, Todo.id == TodoFinding.todo_id)
        .where(Todo.site_id == site_id, Todo.state.in_(LIVE_TODO))
    )
    return dict(rows.all())


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
        if judgement.sentence and (judgement.state, judgement.flag, judgement.cleared) != (todo.state, todo.flag, todo.cleared):
            _note(session, todo, now, None, TodoEventKind.RUN, judgement.sentence, run)
        if judgement.state == TodoState.CONFIRMED:
            confirmed += 1
            todo.closed_at = now
        if judgement.state != todo.state:
            todo.version += 1
        _set_state(todo, judgement.state)
        todo.flag, todo.cleared = judgement.flag, judgement.cleared
    session.flush()
    _open_again(session, now, run, sights, closed)
    return confirmed


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
        _note(session, todo, now, None, TodoEventKind.RUN, judgement.sentence, run)
        _set_state(todo, judgement.state, taken)
        taken |= {link.fingerprint for link in todo.linked}
        todo.flag, todo.cleared, todo.closed_at = judgement.flag, judgement.cleared, None
        todo.version += 1
        session.flush()


def _judge_place(link: TodoFinding, sights: Sights) -> bool:
    """Note what a run says of one place. Returns whether it cannot tell because the check changed since the place was found.

    A place that passes under another rule than it was found by is not fixed; one that fails under it is still there, and from
    then on that rule counts. What has gone with its page is cleared under any rule.
    """
    sight, rule = sights.of(link.fingerprint, link.check_id, link.subject), sights.rule_of(link.check_id)
    if sight.found:
        link.outcome = PlaceOutcome.CLEARED if sight.waived else PlaceOutcome.STILL
        link.rule = rule
        return False
    if sight.gone:
        link.outcome = PlaceOutcome.CLEARED
        return False
    changed = bool(link.rule) and link.rule != rule
    passed = sight.known and sight.examined and not changed
    link.outcome = PlaceOutcome.CLEARED if passed else PlaceOutcome.UNVERIFIED
    return changed


def get_todo(work: Workspace, todo_id: int) -> TodoOut:
    """One to-do with its places and everything that happened to it."""
    with work.reading() as session:
        return todo_out(fetch(session, Todo, todo_id, "todo"), work.now().date(), full=True)
