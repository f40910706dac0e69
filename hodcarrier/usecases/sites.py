"""Sites of clients, and those they compete with."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hodcarrier.core.plan import read_plan
from hodcarrier.core.states import ACTIVE_RUN, UNFINISHED_TODO, RunPurpose, RunState, SiteKind
from hodcarrier.core.web.urls import read_address
from hodcarrier.register.models import EXAMINED, EXAMINED_OR_FAILED, Client, Member, Run, Site, Todo
from hodcarrier.usecases.runs import run_brief
from hodcarrier.usecases.schedules import schedule_out
from hodcarrier.usecases.workspace import Workspace, fetch, log, unless_taken
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
        return site_out(session, site)


def list_sites(work: Workspace, kind: SiteKind | None = None, client_id: int | None = None) -> list[SiteOut]:
    """Sites by client and host."""
    with work.reading() as session:
        chosen = select(Site).join(Client).order_by(Client.name, Site.kind.desc(), Site.host)
        if kind:
            chosen = chosen.where(Site.kind == kind)
        if client_id is not None:
            chosen = chosen.where(Site.client_id == client_id)
        return [site_out(session, site) for site in session.scalars(chosen)]


def get_site(work: Workspace, site_id: int) -> SiteOut:
    """One site."""
    with work.reading() as session:
        found = site_out(session, fetch(session, Site, site_id, "site"))
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


def site_out(session: Session, site: Site) -> SiteOut:
    """A site as the surfaces show it. The runs of a competitor are those of its benchmarks."""
    runs = select(Run).where(Run.site_id == site.id)
    if site.kind == SiteKind.OWN:
        runs = runs.where(Run.purpose == RunPurpose.AUDIT)
    last = session.scalar(runs.where(EXAMINED_OR_FAILED).order_by(Run.sequence.desc()).limit(1))
    done = session.scalar(runs.where(EXAMINED).order_by(Run.sequence.desc()).limit(1))
    running = session.scalar(runs.where(Run.state.in_(ACTIVE_RUN)).order_by(Run.sequence).limit(1))
    return SiteOut(
        id=site.id,
        host=site.host,
        kind=site.kind,
        health=done.health if done else None,
        client_id=site.client_id,
        client_name=site.client.name,
        created_at=site.created_at,
        schedule=schedule_out(site.schedule) if site.schedule else None,
        last_run=run_brief(last) if last else None,
        running=run_brief(running) if running else None,
        runs=session.scalar(select(func.count()).select_from(runs.where(EXAMINED).subquery())) or 0,
        open_todos=session.scalar(select(func.count()).where(Todo.site_id == site.id, Todo.state.in_(UNFINISHED_TODO))) or 0,
    )
