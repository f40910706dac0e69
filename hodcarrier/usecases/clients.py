"""Clients of the agency."""

from __future__ import annotations

from datetime import date

from sqlalchemy import select, update
from sqlalchemy.orm import Session, selectinload

from hodcarrier.core.judge.todos import TARGET_DAYS
from hodcarrier.core.states import Severity
from hodcarrier.register.models import Client, Member, Run, Site, SiteState
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
        with unless_taken(session, f"There is already a client called {change.name}.", "Give another name."):
            if change.name is not None:
                client.name = change.name.strip()
            if change.holidays is not None:
                client.holidays = sorted({day.isoformat() for day in change.holidays})
            if change.targets is not None:
                client.targets = {str(severity): days for severity, days in change.targets.items()}
        log(session, work.now(), member.id, "client changed", client.name)
        return client_out(client, _latest_health(session))


def list_clients(work: Workspace, only: int | None = None) -> list[ClientOut]:
    """All clients with their sites (``only``: the one a guest belongs to)."""
    with work.reading() as session:
        chosen = select(Client).order_by(Client.name).options(selectinload(Client.sites))
        if only is not None:
            chosen = chosen.where(Client.id == only)
        health = _latest_health(session)
        return [client_out(client, health) for client in session.scalars(chosen)]


def client_out(client: Client, health: dict[int, float | None]) -> ClientOut:
    """A client as the surfaces show it."""
    sites = [SiteBrief(id=s.id, host=s.host, kind=s.kind, health=health.get(s.id)) for s in client.sites]
    holidays = [date.fromisoformat(day) for day in client.holidays]
    return ClientOut(
        id=client.id, name=client.name, created_at=client.created_at, holidays=holidays, targets=targets_of(client), sites=sites
    )


def targets_of(client: Client) -> dict[Severity, int]:
    """Working days until to-dos of a client are due, by severity."""
    return {**TARGET_DAYS, **{Severity(name): days for name, days in client.targets.items()}}


def _latest_health(session: Session) -> dict[int, float | None]:
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
