"""Clients of the agency."""

from __future__ import annotations

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session, joinedload, selectinload

from hodcarrier.core.errors import Conflict, NotAllowed
from hodcarrier.core.judge.todos import TARGET_DAYS
from hodcarrier.core.states import UNFINISHED_TODO, Severity
from hodcarrier.core.words import distinct, fill
from hodcarrier.register.models import Client, Member, Run, Site, SiteState, Todo
from hodcarrier.report.language import known_language
from hodcarrier.usecases import schedules
from hodcarrier.usecases.limits import SEE_ALL, sees
from hodcarrier.usecases.todo_story import member_for
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.clients import ClientBody, ClientChange, ClientOut, SiteBrief


def add_client(work: Workspace, body: ClientBody, member: Member | None) -> ClientOut:
    """Add a client. Raises :class:`Conflict` when the name is taken."""
    name = body.name.strip()
    with work.session() as session:
        client = Client(name=name, created_at=work.now(), holidays=[])
        with unless_taken(session, f"There is already a client called {name}.", "Give another name."):
            session.add(client)
        log(session, work.now(), member.id if member else None, "client added", name)
        return ClientOut(id=client.id, name=name, created_at=client.created_at, targets=dict(TARGET_DAYS))


def change_client(work: Workspace, client_id: int, change: ClientChange, member: Member) -> ClientOut:
    """Change a client. Raises :class:`Conflict` when the name is taken."""
    with work.session() as session:
        client = fetch(session, Client, client_id, "client")
        if change.member_ids is not None and member.role not in SEE_ALL:
            raise NotAllowed("Who may see a client is for owners and leads to say.", "Ask a lead.")
        with unless_taken(session, f"There is already a client called {change.name}.", "Give another name."):
            _change(session, client, change)
        if change.blackout_days is not None:
            schedules.plan_again(session, work.now(), [site.id for site in client.sites])
        if change.archived is not None and change.archived != (client.archived_at is not None):
            _archive(work, session, client, member, archived=change.archived)
        else:
            log(session, work.now(), member.id, "client changed", client.name)
        return client_out(client, latest_health(session))


def _change(session: Session, client: Client, change: ClientChange) -> None:
    if change.name is not None:
        client.name = change.name.strip()
    if change.holidays is not None:
        client.holidays = sorted({day.isoformat() for day in change.holidays})
    if change.blackout_days is not None:
        client.blackout_days = sorted({day.isoformat() for day in change.blackout_days})
    if change.brand_names is not None:
        client.brand_names = distinct(change.brand_names)
    if change.targets is not None:
        client.targets = {str(severity): days for severity, days in change.targets.items()}
    if change.tags is not None:
        client.tags = distinct(change.tags)
    if change.note is not None:
        client.note = change.note
    if change.colour is not None:
        client.colour = change.colour.lower()
    if change.language is not None:
        client.language = known_language(change.language)
    if change.approves is not None:
        client.approves = change.approves
    if change.member_ids is not None:
        found = [member_for(session, number, "member_ids") for number in dict.fromkeys(change.member_ids)]
        client.members = [each for each in found if each is not None]
        _check_work_is_seen(session, client)
    if "owner_id" in change.model_fields_set:
        owner = member_for(session, change.owner_id, "owner_id")
        client.owner_id = owner.id if owner is not None else None


def _check_work_is_seen(session: Session, client: Client) -> None:
    """Raises :class:`Conflict` when somebody who would no longer see the client has unfinished to-dos there, naming who and how many."""
    unfinished = func.count(Todo.id).label("number")
    theirs = select(Member, unfinished).join(Todo, Todo.assignee_id == Member.id).join(Site)
    theirs = theirs.where(Site.client_id == client.id, Todo.state.in_(UNFINISHED_TODO)).group_by(Member.id)
    shut_out = [(member.name, number) for member, number in session.execute(theirs) if not sees(member, client)]
    if shut_out:
        named = ", ".join(fill("{who} has {n:unfinished to-do}", {"who": name, "n": number}) for name, number in sorted(shut_out))
        raise Conflict(f"{named} of {client.name}.", "Give them to somebody who stays with the client first.")


def _archive(work: Workspace, session: Session, client: Client, member: Member, *, archived: bool) -> None:
    """Let a client rest, or bring it back: then its schedules go on from now, and what they missed is not caught up with."""
    now = work.now()
    client.archived_at = now if archived else None
    for site in client.sites:
        site.archived = archived
    if not archived:
        session.flush()
        schedules.plan_again(session, now, [site.id for site in client.sites])
    log(session, now, member.id, "client archived" if archived else "client restored", client.name)


def list_clients(work: Workspace, only: int | None = None, *, archived: bool = False, tag: str = "") -> list[ClientOut]:
    """Clients with their sites: those in use, or those that are archived; ``tag``: that have it, themselves or on a site. ``only`` is the one a
    guest belongs to, who is shown nothing that the agency notes about it."""
    with work.reading() as session:
        chosen = (
            select(Client)
            .order_by(Client.name)
            .options(selectinload(Client.sites), joinedload(Client.owner), selectinload(Client.members))
        )
        if only is not None:
            chosen = chosen.where(Client.id == only)
        else:
            chosen = chosen.where(Client.archived_at.is_not(None) if archived else Client.archived_at.is_(None))
        health = latest_health(session)
        found = [client_out(client, health) for client in session.scalars(chosen)]
    if only is not None:
        return [client.model_copy(update={"note": "", "tags": [], "owner_id": None, "member_ids": []}) for client in found]
    return [client for client in found if not tag or _has_tag(client, tag)]


def _has_tag(client: ClientOut, tag: str) -> bool:
    return tag.lower() in {each.lower() for each in (*client.tags, *(t for site in client.sites for t in site.tags))}


def client_out(client: Client, health: dict[int, float | None]) -> ClientOut:
    """A client as the surfaces show it."""
    return ClientOut(
        id=client.id,
        name=client.name,
        created_at=client.created_at,
        archived_at=client.archived_at,
        owner_id=client.owner_id,
        owner=client.owner.name if client.owner is not None else "",
        tags=client.tags,
        note=client.note,
        colour=client.colour,
        language=client.language,
        holidays=client.holiday_dates,
        blackout_days=client.blackout_dates,
        brand_names=client.brand_names,
        targets=targets_of(client),
        member_ids=[each.id for each in client.members],
        approves=client.approves,
        sites=[SiteBrief(id=s.id, host=s.host, kind=s.kind, health=health.get(s.id), tags=s.tags) for s in client.sites],
    )


def targets_of(client: Client) -> dict[Severity, int]:
    """Working days until to-dos of a client are due, by severity."""
    return {**TARGET_DAYS, **{Severity(name): days for name, days in client.targets.items()}}


def latest_health(session: Session) -> dict[int, float | None]:
    """Health by site: of the latest audit, for a competitor of its latest benchmark run."""
    return dict(session.execute(select(SiteState.site_id, Run.health).join(Run, Run.id == SiteState.done_id)).all())


def remove_client(work: Workspace, client_id: int, member: Member) -> None:
    """Remove a client with its sites, their records and their run files. A run that is under way is ended by its supervisor.

    Its guests are switched off; what they did stays theirs in the log.
    """
    with work.session() as session:
        client = fetch(session, Client, client_id, "client")
        session.execute(update(Member).where(Member.client_id == client_id).values(active=False, client_id=None))
        files = session.scalars(select(Run.id).join(Site).where(Site.client_id == client_id)).all()
        log(session, work.now(), member.id, "client removed", f"{client.name}, {len(client.sites):,} sites, {len(files):,} runs")
        session.delete(client)
    for run_id in files:
        work.store.remove(run_id)
