"""The portal: all that somebody of a client sees who signs in, and nothing else."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from hodcarrier.core.states import LIVE_TODO, RemarkOrigin, SiteKind, TodoState
from hodcarrier.core.words import difference
from hodcarrier.register.models import Client, Site, Todo
from hodcarrier.usecases.approvals import list_approvals
from hodcarrier.usecases.reports import list_reports
from hodcarrier.usecases.trends import get_trend
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.portals import PortalOut, PortalSite, PortalWork

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
    trend = trend.model_copy(update={"remarks": [each for each in trend.remarks if each.origin != RemarkOrigin.FAILED]})
    known = [(each.at.date(), each.value) for each in trend.points if each.value is not None]
    change = difference(known[0][1], known[-1][1]) if len(known) > 1 else None
    health = known[-1][1] if known else None
    return PortalSite(id=site_id, host=host, health=health, change=change, words=_words(health, change, known), trend=trend)


def _words(health: float | None, change: float | None, known: Sequence[tuple[date, float]]) -> str:
    """How health stands, for somebody who does not know the trade."""
    if health is None:
        return "No audit has ended yet."
    said = f"Health is {health:.1f} of 100, where 100 means that we find nothing to fix"
    if change is None:
        return f"{said}."
    since = f"{known[0][0].day} {known[0][0]:%B %Y}"
    return (
        f"{said}, {abs(change):.1f} points {'up' if change > 0 else 'down'} since {since}."
        if change
        else f"{said}, as it was on {since}."
    )
