"""The files that speak for a whole site, with since when they are as they are."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import select

from hodcarrier.core.errors import DamagedRun
from hodcarrier.register.models import EXAMINED, Run
from hodcarrier.runfile.site_files import digests, site_files
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.site_files import SiteFileOut

RUNS_BACK = 30


def list_site_files(work: Workspace, run_id: str) -> list[SiteFileOut]:
    """robots.txt, sitemaps and certificates of a run. Earlier runs of the site are asked until one met each otherwise; those without a file are left out."""
    with work.reading() as session:
        run = fetch(session, Run, run_id, "run")
        at = run.requested_at
        earlier = session.execute(
            select(Run.id, Run.requested_at)
            .where(Run.site_id == run.site_id, EXAMINED, Run.purpose == run.purpose, Run.sequence < run.sequence)
            .order_by(Run.sequence.desc())
            .limit(RUNS_BACK)
        ).all()
    with work.open_run(run_id) as opened:
        found = site_files(opened)
    now = {(each.kind, each.url): each.digest for each in found}
    as_it_is = dict.fromkeys(now, at)
    since: dict[tuple[object, str], datetime] = {}
    for number, requested_at in earlier:
        if not as_it_is.keys() - since.keys() or not work.store.has(number):
            continue
        try:
            with work.open_run(number) as opened:
                then = digests(opened)
        except DamagedRun:
            continue
        for key in as_it_is.keys() - since.keys():
            if then.get(key) == now[key]:
                as_it_is[key] = requested_at
            else:
                since[key] = as_it_is[key]
    return [
        SiteFileOut(
            kind=each.kind,
            url=each.url,
            status=each.status,
            failure=each.failure,
            entries=each.entries,
            size_bytes=each.size_bytes,
            problems=each.problems,
            since=since.get((each.kind, each.url)),
            ends=each.ends,
        )
        for each in found
    ]
