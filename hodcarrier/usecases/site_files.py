"""The files that speak for a whole site, with since when they are as they are."""

from __future__ import annotations

from datetime import datetime

from hodcarrier.runfile.site_files import digests, site_files
from hodcarrier.usecases.earlier_runs import each_earlier, requested_at
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.site_files import SiteFileOut

RUNS_BACK = 30


def list_site_files(work: Workspace, run_id: str) -> list[SiteFileOut]:
    """robots.txt, sitemaps and certificates of a run. Earlier runs of the site are asked until one met each otherwise; those without a file are left out."""
    with work.open_run(run_id) as opened:
        found = site_files(opened)
    now = {(each.kind, each.url): each.digest for each in found}
    as_it_is = dict.fromkeys(now, requested_at(work, run_id))
    since: dict[tuple[object, str], datetime] = {}
    for at, then in each_earlier(work, run_id, RUNS_BACK, digests):
        if not as_it_is.keys() - since.keys():
            break
        for key in as_it_is.keys() - since.keys():
            if then.get(key) == now[key]:
                as_it_is[key] = at
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
            tls_versions=each.tls_versions,
        )
        for each in found
    ]
