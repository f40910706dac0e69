"""The portal: all that somebody of a client sees who signs in, and nothing else."""

from __future__ import annotations

from datetime import timedelta

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from hodcarrier.core.states import LIVE_TODO, RemarkOrigin, SiteKind, TodoState
from hodcarrier.core.words import difference
from hodcarrier.register.models import Client, Site, Todo
from hodcarrier.usecases.approvals import list_approvals
from hodcarrier.usecases.reports import list_reports
from hodcarrier.usecases.trends import get_trend
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.portals import PortalOut, PortalPoint, PortalRemark, PortalSite, PortalWork

SHOWN = timedelta(days=183)
DONE_MAX, HAND_MAX = 50, 50


def get_portal(work: Workspace, client_id: int, agency: str) -> PortalOut:
    """The place of a client: reports that were approved, the health of its sites, to-dos that wait for its answer, what was done and what is in hand."""
    with work.reading() as session:
        client = fetch(session, Client, client_id, "client")
        name = client.name
        sites = [(site.id, site.host) for site in client.sites if site.kind == SiteKind.OWN and not site.archived]
        todos = session.scalars(
            select(Todo)
            .join(Site)
            .where(Site.client_id == client_id)
            .order_by(Todo.due.nulls_last(), Todo.id)
            .options(joinedload(Todo.site))
        ).all()
        done = [
            PortalWork(title=t.title, site_host=t.site.host, day=t.closed_at.date(), cleared=t.cleared, places=t.places)
            for t in todos
            if t.state == TodoState.CONFIRMED and t.closed_at
        ]
        hand = [
            PortalWork(title=t.title, site_host=t.site.host, day=t.due, cleared=t.cleared, places=t.places)
            for t in todos
            if t.state in LIVE_TODO
        ]
    done.sort(key=lambda each: str(each.day), reverse=True)
    return PortalOut(
        client_id=client_id,
        client_name=name,
        agency=agency,
        sites=[_site(work, number, host) for number, host in sites],
        reports=list_reports(work, client_id, for_client=True),
        approvals=list_approvals(work, client_id),
        done=done[:DONE_MAX],
        hand=hand[:HAND_MAX],
    )


def _site(work: Workspace, site_id: int, host: str) -> PortalSite:
    start = (work.now() - SHOWN).date()
    trend = get_trend(work, site_id, "health", start)
    known = [each.value for each in trend.points if each.value is not None]
    return PortalSite(
        id=site_id,
        host=host,
        health=known[-1] if known else None,
        change=difference(known[0], known[-1]) if len(known) > 1 else None,
        words=trend.words,
        points=[PortalPoint(at=each.at, health=each.value) for each in trend.points],
        remarks=[PortalRemark(day=each.day, text=each.text) for each in trend.remarks if each.origin != RemarkOrigin.FAILED],
    )
