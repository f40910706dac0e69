"""Sites of clients, and those they compete with."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from sqlalchemy import and_, func, or_, select
from sqlalchemy.orm import Session, defer, joinedload

from hodcarrier.core.plan import read_plan
from hodcarrier.core.states import ACTIVE_RUN, UNFINISHED_TODO, RunPurpose, RunState, SiteKind
from hodcarrier.core.web.urls import read_address
from hodcarrier.register.models import EXAMINED, EXAMINED_OR_FAILED, Client, Member, Run, Site, Todo
from hodcarrier.usecases.runs import run_brief
from hodcarrier.usecases.schedules import schedule_out
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
from hodcarrier.wire.runs import RunBrief
from hodcarrier.wire.sites import SiteBody, SiteOut


def add_site(work: Workspace, body: SiteBody, member: Member | None) -> SiteOut:
    """Add a site to a client; an address is enough. Raises :class:`InvalidUrl`, :class:`InvalidPlan`, :class:`Conflict`."""
    address = read_address(body.address)
    plan = read_plan({"start": [address], **body.plan})
    with work.session() as session:
        client = fetch(session, Client, body.client_id, "client")
        site = Site(client_id=client.id, host=plan.host, kind=body.kind, plan=plan, created_at=work.now())
        with unless_taken(session, f"{client.name} already has the site {plan.host}.", "Change its plan instead."):
            session.add(site)
        log(session, work.now(), member.id if member else None, "site added", plan.host)
        return sites_out(session, [site])[0]


def list_sites(work: Workspace, kind: SiteKind | None = None, client_id: int | None = None) -> list[SiteOut]:
    """Sites by client and host."""
    with work.reading() as session:
        chosen = select(Site).join(Client).order_by(Client.name, Site.kind.desc(), Site.host)
        if kind:
            chosen = chosen.where(Site.kind == kind)
        if client_id is not None:
            chosen = chosen.where(Site.client_id == client_id)
        return sites_out(session, session.scalars(chosen.options(*WITH_SURROUNDINGS)).all())


def get_site(work: Workspace, site_id: int) -> SiteOut:
    """One site."""
    with work.reading() as session:
        found = sites_out(session, [fetch(session, Site, site_id, "site")])[0]
        last = found.last_run
        if last is not None and last.state == RunState.FAILED and found.running is None:
            found.can_go_on = work.store.has_part(last.id)
        return found


def remove_site(work: Workspace, site_id: int, member: Member) -> None:
    """Remove a site with its records and its run files. A run that is under way is ended by its supervisor."""
    with work.session() as session:
        site = fetch(session, Site, site_id, "site")
        files = session.scalars(select(Run.id).where(Run.site_id == site_id)).all()
        log(session, work.now(), member.id, "site removed", f"{site.host}, {len(files):,} runs")
        session.delete(site)
    for run_id in files:
        work.store.remove(run_id)


def sites_out(session: Session, sites: Sequence[Site]) -> list[SiteOut]:
    """Sites as the surfaces show them, in few queries however many there are. The runs of a competitor are those of its benchmarks."""
    ids = [site.id for site in sites]
    shown = and_(Run.site_id.in_(ids), or_(Run.purpose == RunPurpose.AUDIT, Site.kind != SiteKind.OWN))

    def by_site(figure: Any, *which: Any) -> dict[int, int]:
        found = session.execute(select(Run.site_id, figure).join(Site).where(shown, *which).group_by(Run.site_id))
        return dict(found.all())

    last, done = (by_site(func.max(Run.sequence), which) for which in (EXAMINED_OR_FAILED, EXAMINED))
    running = by_site(func.min(Run.sequence), Run.state.in_(ACTIVE_RUN))
    counts = by_site(func.count(), EXAMINED)
    wanted = {*last.values(), *done.values(), *running.values()}
    chosen = select(Run).where(Run.sequence.in_(wanted)).options(defer(Run.plan), defer(Run.changes))
    runs = {run.sequence: run for run in session.scalars(chosen)}
    todos = (
        select(Todo.site_id, func.count()).where(Todo.site_id.in_(ids), Todo.state.in_(UNFINISHED_TODO)).group_by(Todo.site_id)
    )
    open_todos = dict(session.execute(todos).all())

    def brief(found: dict[int, int], site: Site) -> RunBrief | None:
        return run_brief(runs[found[site.id]]) if site.id in found else None

    return [
        SiteOut(
            id=site.id,
            host=site.host,
            kind=site.kind,
            health=runs[done[site.id]].health if site.id in done else None,
            client_id=site.client_id,
            client_name=site.client.name,
            created_at=site.created_at,
            schedule=schedule_out(site.schedule) if site.schedule else None,
            last_run=brief(last, site),
            running=brief(running, site),
            runs=counts.get(site.id, 0),
            open_todos=open_todos.get(site.id, 0),
        )
        for site in sites
    ]


# What is shown of a site beside its own columns, read along with it.
WITH_SURROUNDINGS = (joinedload(Site.client), joinedload(Site.schedule), defer(Site.plan))
