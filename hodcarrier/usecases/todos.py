"""To-dos: made from findings, worked on, confirmed or opened again by runs."""

from __future__ import annotations

from datetime import date, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.todos import LIVE, NEXT_STATES, default_due, judge
from hodcarrier.core.urls import is_web, place_on
from hodcarrier.register.models import Member, Run, Site, Todo, TodoEvent, TodoFinding
from hodcarrier.runfile import results
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.sights import Sights
from hodcarrier.usecases.workspace import Workspace, fetch, latest_run_id, log
from hodcarrier.wire.work import TodoBody, TodoChange, TodoEventOut, TodoOut


def add_todo(work: Workspace, body: TodoBody, member: Member | None) -> TodoOut:
    """Make a to-do. A finding sits in one live to-do at most; those that do already are left out, and it is said where they are.

    Raises :class:`InvalidInput` for a due date in the past, :class:`NotFound` for unknown members, checks, causes or
    findings, :class:`Conflict` when every finding is in another to-do already.
    """
    today = work.now().date()
    if body.due is not None and body.due < today:
        raise InvalidInput(f"The due date {body.due:%a %d %b %Y} is in the past.", "Give today or a later day.", "due")
    with work.session() as session:
        site = fetch(session, Site, body.site_id, "site")
        assignee = _assignee(session, body.assignee)
        rows = _chosen_findings(work, session, body)
        if rows and any(row["check"] != rows[0]["check"] for row in rows):
            severity = min((row["severity"] for row in rows), key=("critical", "high", "medium", "low").index)
        else:
            severity = rows[0]["severity"] if rows else "medium"
        fresh, said = _leave_out_taken(session, site, rows)
        title = body.title.strip() or _title(site, body, rows)
        if not title:
            raise InvalidInput("The to-do has no title.", "Give one, or name a check, a cause or findings.", "title")
        todo = Todo(
            site_id=site.id,
            title=title[:300],
            note=body.note,
            check_id=rows[0]["check"] if rows else "",
            severity=severity,
            state="open",
            assignee_id=assignee.id if assignee else None,
            author_id=member.id if member else None,
            due=body.due or default_due(severity, today),
            places=len(fresh),
            created_at=work.now(),
        )
        todo.linked = [
            TodoFinding(fingerprint=bytes.fromhex(r["fingerprint"]), check_id=r["check"], subject=r["subject"], place=r["place"])
            for r in fresh
        ]
        session.add(todo)
        session.flush()
        _note(
            session,
            todo,
            work.now(),
            member,
            "made",
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
            f"{m.name} ({m.id})" for m in session.scalars(select(Member).where(Member.active, Member.role != "guest"))
        )
        raise NotFound(f"There is no member {member_id}.", f"Members are {names}.")
    if member.role == "guest":
        raise InvalidInput(f"{member.name} is a guest and cannot be given work.", "Choose a member of the agency.", "assignee")
    return member


def _chosen_findings(work: Workspace, session: Session, body: TodoBody) -> list[results.Row]:
    if not (body.check or body.cause is not None or body.fingerprints):
        return []
    with work.open_run(latest_run_id(session, body.site_id)) as run:
        if body.fingerprints:
            try:
                prints = [bytes.fromhex(text) for text in body.fingerprints]
            except ValueError:
                raise InvalidInput("A fingerprint is not hexadecimal.", "Copy it from the finding.", "fingerprints") from None
            rows = results.findings(run, fingerprints=prints, limit=None)
            if len(rows) < len(set(prints)):
                raise NotFound("Some of these findings are not in the latest run.", "Load the findings again.")
            return rows
        if body.check:
            catalogue.get(body.check)
        rows = results.findings(run, check_id=body.check, cause=body.cause, limit=None)
        if not rows:
            raise NotFound("The latest run has no such findings.", "They may be fixed already, or waived.")
        return rows


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
                session, todo, now, member, "assigned", f"Given to {todo.assignee.name}." if todo.assignee else "Given to nobody."
            )
        if "due" in given and change.due != todo.due:
            todo.due = change.due
            _note(session, todo, now, member, "due", f"Due {change.due:%a %d %b %Y}." if change.due else "Due date taken away.")
        if change.title is not None:
            todo.title = change.title
        if change.note is not None:
            todo.note = change.note
        if change.comment:
            _note(session, todo, now, member, "comment", change.comment)
        todo.version += 1
        session.flush()
        return todo_out(todo, now.date(), full=True)


def _move(session: Session, todo: Todo, change: TodoChange, now: datetime, member: Member) -> None:
    state = change.state or todo.state
    if state == "confirmed":
        raise Conflict("Only a run can confirm a to-do.", "Mark it done; the next run of the site looks at its places.")
    if state not in NEXT_STATES[todo.state]:
        raise Conflict(
            f"A to-do that is {todo.state} cannot become {state}.", f"It can become {' or '.join(NEXT_STATES[todo.state])}."
        )
    if state == "dropped":
        if not (change.drop_reason or "").strip():
            raise InvalidInput("Dropping a to-do needs a reason.", "Say why it will not be done.", "drop_reason")
        todo.drop_reason = change.drop_reason or ""
    _note(
        session,
        todo,
        now,
        member,
        "state",
        f"From {todo.state} to {state}." + (f" Reason: {change.drop_reason}" if state == "dropped" else ""),
    )
    todo.state = state
    todo.flag = ""
    todo.closed_at = now if state == "dropped" else None


def _note(
    session: Session, todo: Todo, at: datetime, member: Member | None, kind: str, text: str, run: Run | None = None
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
        .where(Todo.site_id == site_id, Todo.state.in_(LIVE))
    )
    return dict(rows.all())


def judge_after_run(session: Session, now: datetime, run: Run, head: RunFile) -> int:
    """Let a finished run judge every live to-do of its site. Returns how many it confirmed."""
    if run.purpose != "audit":
        return 0
    live = session.scalars(select(Todo).where(Todo.site_id == run.site_id, Todo.state.in_(LIVE))).all()
    live = [todo for todo in live if todo.linked and todo.created_at <= now]
    if not live:
        return 0
    sights = Sights(head.db, head.meta("end", "complete") == "complete")
    confirmed = 0
    for todo in live:
        for link in todo.linked:
            sight = sights.of(link.fingerprint, link.check_id, link.subject)
            if sight.found:
                link.outcome = "cleared" if sight.waived else "still"
            else:
                link.outcome = "cleared" if sight.gone or (sight.known and sight.examined) else "unverified"
        judgement = judge(todo.state, [link.outcome for link in todo.linked])
        if judgement.sentence and (judgement.state, judgement.flag, judgement.cleared) != (todo.state, todo.flag, todo.cleared):
            _note(session, todo, now, None, "run", judgement.sentence, run)
        if judgement.state == "confirmed":
            confirmed += 1
            todo.closed_at = now
        if judgement.state != todo.state:
            todo.version += 1
        todo.state, todo.flag, todo.cleared = judgement.state, judgement.flag, judgement.cleared
    return confirmed


def list_todos(
    work: Workspace,
    *,
    site_id: int | None = None,
    client_id: int | None = None,
    assignee: int | None = None,
    state: str = "",
    overdue: bool = False,
) -> list[TodoOut]:
    """To-dos: live ones by due date, then closed ones by when they were closed. ``state`` may be ``live``."""
    today = work.now().date()
    with work.session() as session:
        chosen = select(Todo).join(Site)
        if site_id is not None:
            chosen = chosen.where(Todo.site_id == site_id)
        if client_id is not None:
            chosen = chosen.where(Site.client_id == client_id)
        if assignee is not None:
            chosen = chosen.where(Todo.assignee_id == assignee)
        if state == "live":
            chosen = chosen.where(Todo.state.in_(LIVE))
        elif state:
            chosen = chosen.where(Todo.state == state)
        if overdue:
            chosen = chosen.where(Todo.state.in_(("open", "doing")), Todo.due < today)
        rows = session.scalars(chosen).all()
        out = [todo_out(todo, today) for todo in rows]
    return sorted(out, key=lambda t: (t.state not in LIVE, t.due or date.max, t.id))


def get_todo(work: Workspace, todo_id: int) -> TodoOut:
    """One to-do with its places and everything that happened to it."""
    with work.session() as session:
        return todo_out(fetch(session, Todo, todo_id, "todo"), work.now().date(), full=True)


def todo_out(todo: Todo, today: date, full: bool = False) -> TodoOut:
    """A to-do as the surfaces show it."""
    overdue = todo.state in ("open", "doing") and todo.due is not None and todo.due < today
    return TodoOut(
        id=todo.id,
        site_id=todo.site_id,
        site_host=todo.site.host,
        client_name=todo.site.client.name,
        title=todo.title,
        note=todo.note,
        check=todo.check_id,
        severity=todo.severity,
        state=todo.state,
        flag=todo.flag,
        drop_reason=todo.drop_reason,
        assignee_id=todo.assignee_id,
        assignee=todo.assignee.name if todo.assignee else "",
        due=todo.due,
        overdue=overdue,
        days_late=(today - todo.due).days if overdue and todo.due else 0,
        places=todo.places,
        cleared=todo.cleared,
        created_at=todo.created_at,
        closed_at=todo.closed_at,
        version=todo.version,
        events=[
            TodoEventOut(
                at=e.at, who=e.member.name if e.member else ("the audit" if e.run_id else "the desk"), kind=e.kind, text=e.text
            )
            for e in todo.events
        ]
        if full
        else [],
        linked=[
            {
                "check": k.check_id,
                "subject": k.subject,
                "place": k.place,
                "outcome": k.outcome,
                "fingerprint": k.fingerprint.hex(),
            }
            for k in todo.linked
        ]
        if full
        else [],
    )
