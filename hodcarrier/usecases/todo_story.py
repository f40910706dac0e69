"""What every change of a to-do has in common: who may be given it, which findings it holds, what is noted of it."""

from __future__ import annotations

from collections.abc import Collection
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import InvalidInput, NotFound
from hodcarrier.core.permissions import Role
from hodcarrier.core.states import LIVE_TODO, TodoEventKind, TodoState
from hodcarrier.core.words import distinct
from hodcarrier.register.models import Member, Run, Site, Todo, TodoEvent, TodoFinding
from hodcarrier.usecases.limits import sees


def member_for(session: Session, member_id: int | None, field: str = "assignee") -> Member | None:
    """Somebody who can be given work, or watch it. Raises :class:`NotFound` for nobody who is there, and :class:`InvalidInput` for a guest."""
    if member_id is None:
        return None
    member = session.get(Member, member_id)
    if member is None or not member.active:
        names = ", ".join(
            f"{m.name} ({m.id})" for m in session.scalars(select(Member).where(Member.active, Member.role != Role.GUEST))
        )
        raise NotFound(f"There is no member {member_id}.", f"Members are {names}.")
    if member.role == Role.GUEST:
        raise InvalidInput(f"{member.name} is a guest and cannot be given work.", "Choose a member of the agency.", field)
    return member


def worker_for(session: Session, site: Site, member_id: int | None, field: str = "assignee") -> Member | None:
    """Somebody who can be given work on a site, or watch it. Raises what :func:`member_for` raises, and :class:`InvalidInput` for somebody to whom
    the client is not open: what they are given they must be able to see."""
    member = member_for(session, member_id, field)
    if member is not None and not sees(member, site.client):
        raise InvalidInput(
            f"{member.name} does not work for {site.client.name}, which is limited to some members.",
            "Choose somebody who does, or let a lead add them to the client.",
            field,
        )
    return member


def set_state(todo: Todo, state: TodoState, but: Collection[bytes] = ()) -> None:
    """A to-do that is closed lets go of its findings, one that is opened again takes them, ``but`` those another has by now. One that stays live keeps
    those it has."""
    was_live, todo.state = todo.state in LIVE_TODO, state
    if was_live and state in LIVE_TODO:
        return
    for link in todo.linked:
        link.live = state in LIVE_TODO and link.fingerprint not in but


def set_labels(todo: Todo, labels: Collection[str]) -> None:
    """Give a to-do these labels and no others; labels that differ by case alone are one."""
    todo.labels = distinct(labels)


def set_watchers(session: Session, todo: Todo, site: Site, members: Collection[int]) -> None:
    """Let these members, and no others, watch a to-do of a site."""
    found = [worker_for(session, site, member, "watchers") for member in dict.fromkeys(members)]
    todo.watchers = [member for member in found if member is not None]


def note(
    session: Session,
    todo: Todo,
    at: datetime,
    member: Member | None,
    kind: TodoEventKind,
    text: str,
    run: Run | None = None,
    by_link: str = "",
) -> TodoEvent:
    """Note something that happened to a to-do; ``by_link`` names who did it with a share link."""
    event = TodoEvent(
        todo_id=todo.id,
        at=at,
        member_id=member.id if member else None,
        run_id=run.id if run else None,
        kind=kind,
        text=text,
        by_link=by_link,
    )
    session.add(event)
    session.flush()
    session.expire(todo, ["events"])
    return event


def fingerprints_in_todos(session: Session, site_id: int) -> dict[bytes, Todo]:
    """Fingerprints that sit in a live to-do of a site."""
    rows = session.execute(
        select(TodoFinding.fingerprint, Todo)
        .join(Todo, Todo.id == TodoFinding.todo_id)
        .where(Todo.site_id == site_id, Todo.state.in_(LIVE_TODO))
    )
    return dict(rows.all())
