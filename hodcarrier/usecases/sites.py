"""Sites of clients, and those they compete with."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import ColumnElement, func, or_, select
from sqlalchemy.orm import Session

from hodcarrier.core.errors import Conflict
from hodcarrier.core.plan import Plan, read_plan
from hodcarrier.core.states import ACTIVE_RUN, UNFINISHED_TODO, RunPurpose, RunState, SiteKind
from hodcarrier.core.web.urls import read_address
from hodcarrier.register.models import Client, Member, Run, Schedule, Site, SiteState, Todo
from hodcarrier.usecases.plans import set_plan
from hodcarrier.usecases.run_brief import BRIEF, run_brief
from hodcarrier.usecases.schedules import schedule_out
from hodcarrier.usecases.workspace import AnyRow, Workspace, fetch, log, unless_taken
from hodcarrier.wire.sites import SiteBody, SiteOut


def add_site(work: Workspace, body: SiteBody, member: Member | None) -> SiteOut:
    """Add a site to a client; an address is enough. Raises :class:`InvalidUrl`, :class:`InvalidPlan`, :class:`Conflict`."""
    address = read_address(body.address)
    plan = read_plan({**work.surroundings, "start": [address], **body.plan})
    with work.session() as session:
        site = put_site(session, work.now(), fetch(session, Client, body.client_id, "client"), plan, body.kind, member)
        return sites_out(session, read_sites(session, Site.id == site.id))[0]


def put_site(session: Session, now: datetime, client: Client, plan: Plan, kind: SiteKind, member: Member | None) -> Site:
    """Add a site in a transaction of its caller. Raises :class:`InvalidPlan`, and :class:`Conflict` for one that the client has already."""
    if client.archived_at is not None:
        raise Conflict(f"{client.name} is archived.", "Restore the client first.")
    site = Site(client_id=client.id, host=plan.host, kind=kind, created_at=now)
    set_plan(session, site, plan)
    with unless_taken(session, f"{client.name} already has the site {plan.host}.", "Change its plan instead."):
        session.add(site)
    log(session, now, member.id if member else None, "site added", plan.host)
    return site


def list_sites(
    work: Workspace,
    kind: SiteKind | None = None,
    client_id: int | None = None,
    *,
    tag: str = "",
    owner_id: int | None = None,
    text: str = "",
) -> list[SiteOut]:
    """Sites by client and host. Those of archived clients are there when the client is named. ``tag``: that have it, themselves or by their client;
    ``owner_id``: in whose charge the client is; ``text``: words that host or client name hold."""
    with work.reading() as session:
        which: list[Any] = [Site.kind == kind] if kind else []
        which.append(Site.client_id == client_id if client_id is not None else ~Site.archived)
        if owner_id is not None:
            which.append(Client.owner_id == owner_id)
        which += [
            Site.host.icontains(word, autoescape=True) | Client.name.icontains(word, autoescape=True) for word in text.split()
        ]
        if tag:
            which.append(or_(_has(Site.tags, tag), _has(Client.tags, tag)))
        return sites_out(session, read_sites(session, *which))


def _has(tags: Any, tag: str) -> ColumnElement[bool]:
    each = func.json_each(tags).table_valued("value")
    return select(1).select_from(each).where(func.lower(each.c.value) == tag.lower()).exists()


def get_site(work: Workspace, site_id: int) -> SiteOut:
    """One site."""
    with work.reading() as session:
        fetch(session, Site, site_id, "site")
        found = sites_out(session, read_sites(session, Site.id == site_id))[0]
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
    work.figures.remove(site_id)


# What is shown of a site, with its client, its schedule and its state beside it.
SHOWN: tuple[Any, ...] = (
    Site.id,
    Site.host,
    Site.kind,
    Site.client_id,
    Site.created_at,
    Client.name.label("client_name"),
    Client.tags.label("client_tags"),
    Client.owner_id,
    Member.name.label("owner"),
    Schedule.rule,
    Schedule.at,
    Schedule.zone,
    Schedule.anchor,
    Schedule.next_due_at,
    Schedule.mail_to,
    Schedule.paused_at,
    Schedule.retry_at,
    Site.tags,
    Site.archived,
    SiteState.runs,
    SiteState.last_id,
    SiteState.done_id,
    SiteState.change,
    SiteState.line,
    SiteState.line_days,
    SiteState.events,
    SiteState.rises,
    SiteState.certificate_ends,
)


def read_sites(session: Session, *which: Any, also: Sequence[ColumnElement[Any]] = ()) -> Sequence[AnyRow]:
    """Rows of :data:`SHOWN`, and of what is wanted ``also``, by client and host."""
    chosen = (
        select(*SHOWN, *also)
        .select_from(Site)
        .join(Client)
        .outerjoin(Member, Member.id == Client.owner_id)
        .outerjoin(Schedule)
        .outerjoin(SiteState, SiteState.site_id == Site.id)
    )
    return session.execute(chosen.where(*which).order_by(Client.name, Site.kind.desc(), Site.host)).all()


def sites_out(session: Session, sites: Sequence[AnyRow], runs: Sequence[AnyRow] | None = None) -> list[SiteOut]:
    """Sites as the surfaces show them, in few queries however many there are. The runs of a competitor are those of its benchmarks.

    ``runs`` are the active ones and those that the sites name, where they have been read already.
    """
    if runs is None:
        named = [run_id for site in sites for run_id in (site.last_id, site.done_id)]
        wanted = select(*BRIEF).join(Site).where(or_(Run.id.in_(named), Run.state.in_(ACTIVE_RUN)))
        runs = session.execute(wanted).all()
    by_id = {run.id: run for run in runs}
    running: dict[int, AnyRow] = {}
    own = {site.id for site in sites if site.kind == SiteKind.OWN}
    for run in sorted(runs, key=lambda each: each.sequence):
        shown = run.purpose == (RunPurpose.AUDIT if run.site_id in own else RunPurpose.BENCHMARK)
        if run.state in ACTIVE_RUN and shown:
            running.setdefault(run.site_id, run)
    todos = select(Todo.site_id, func.count()).where(Todo.state.in_(UNFINISHED_TODO)).group_by(Todo.site_id)
    open_todos = dict(session.execute(todos.where(Todo.site_id.in_([site.id for site in sites]))).all())

    def out(site: AnyRow) -> SiteOut:
        last, done = by_id.get(site.last_id), by_id.get(site.done_id)
        return SiteOut(
            id=site.id,
            host=site.host,
            kind=site.kind,
            tags=site.tags,
            archived=site.archived,
            health=done.health if done else None,
            client_id=site.client_id,
            client_name=site.client_name,
            client_tags=site.client_tags,
            owner_id=site.owner_id,
            owner=site.owner or "",
            created_at=site.created_at,
            schedule=schedule_out(site) if site.rule else None,
            last_run=run_brief(last) if last else None,
            running=run_brief(running[site.id]) if site.id in running else None,
            runs=site.runs or 0,
            open_todos=open_todos.get(site.id, 0),
        )

    return [out(site) for site in sites]
