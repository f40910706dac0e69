"""All that is kept for one client, on one page."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from datetime import date

from sqlalchemy import func, select
from sqlalchemy.orm import Session, joinedload

from hodcarrier.core.states import UNFINISHED_TODO, RunPurpose, SiteKind
from hodcarrier.register.models import EXAMINED_OR_FAILED, Benchmark, Client, Member, Remark, Report, Run, Site, Todo
from hodcarrier.usecases.benchmarks import benchmark_brief
from hodcarrier.usecases.clients import client_out, latest_health
from hodcarrier.usecases.remarks import remark_out
from hodcarrier.usecases.reports import report_out
from hodcarrier.usecases.sites import read_sites, sites_out
from hodcarrier.usecases.workspace import AnyRow, Workspace, fetch
from hodcarrier.wire.client_pages import ClientGuest, ClientPage, HealthLine, HealthPoint, SiteRemark

LINE_RUNS = 26
REPORTS_SHOWN = 12
REMARKS_SHOWN = 30


def get_client(work: Workspace, client_id: int) -> ClientPage:
    """A client's page."""
    today = work.now().date()
    with work.reading() as session:
        client = fetch(session, Client, client_id, "client")
        sites = read_sites(session, Site.client_id == client_id)
        of_client = select(Site.id).where(Site.client_id == client_id)
        guests = session.scalars(select(Member).where(Member.client_id == client_id).order_by(Member.name)).all()
        benchmarks = session.scalars(select(Benchmark).where(Benchmark.site_id.in_(of_client)).order_by(Benchmark.name)).all()
        reports = session.scalars(
            select(Report).where(Report.site_id.in_(of_client)).order_by(Report.id.desc()).limit(REPORTS_SHOWN)
        ).all()
        remarks = session.scalars(
            select(Remark)
            .where(Remark.site_id.in_(of_client))
            .order_by(Remark.day.desc(), Remark.id.desc())
            .limit(REMARKS_SHOWN)
            .options(joinedload(Remark.author))
        ).all()
        hosts = {site.id: site.host for site in sites}
        unfinished = select(func.count(), func.count().filter(Todo.due < today)).where(
            Todo.site_id.in_(of_client), Todo.state.in_(UNFINISHED_TODO)
        )
        open_todos, overdue = session.execute(unfinished).one()
        return ClientPage(
            client=client_out(client, latest_health(session)),
            sites=sites_out(session, sites),
            guests=[ClientGuest(id=m.id, name=m.name, email=m.email, active=m.active) for m in guests],
            benchmarks=[benchmark_brief(session, row) for row in benchmarks],
            reports=[report_out(row) for row in reports],
            lines=_lines(session, sites),
            remarks=[SiteRemark(**remark_out(row).model_dump(), site_id=row.site_id, host=hosts[row.site_id]) for row in remarks],
            open_todos=open_todos,
            overdue_todos=overdue,
            next_holiday=_next(client.holidays, today),
        )


def _lines(session: Session, sites: Sequence[AnyRow]) -> list[HealthLine]:
    """The health of the client's own sites over their latest audits, read at once."""
    own = [site for site in sites if site.kind == SiteKind.OWN]
    place = func.row_number().over(partition_by=Run.site_id, order_by=Run.sequence.desc()).label("place")
    chosen = (
        select(Run.site_id, Run.requested_at, Run.health, Run.sequence, place)
        .where(Run.site_id.in_([site.id for site in own]), Run.purpose == RunPurpose.AUDIT, EXAMINED_OR_FAILED)
        .subquery()
    )
    points: dict[int, list[HealthPoint]] = defaultdict(list)
    for row in session.execute(select(chosen).where(chosen.c.place <= LINE_RUNS).order_by(chosen.c.sequence)):
        points[row.site_id].append(HealthPoint(at=row.requested_at, health=row.health))
    return [HealthLine(site_id=site.id, host=site.host, points=points[site.id]) for site in own]


def _next(days: Sequence[str], today: date) -> date | None:
    return min((day for each in days if (day := date.fromisoformat(each)) >= today), default=None)
