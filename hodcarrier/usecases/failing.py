"""Which checks fail on which sites, by the latest run of each site that is not archived."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterator

from sqlalchemy import Text, func, select, type_coerce

from hodcarrier.core import catalogue
from hodcarrier.core.states import SiteKind
from hodcarrier.register.models import Client, Run, Site, SiteState
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.catalogue import FailingCheck, FailingSite


def list_failing_checks(work: Workspace) -> list[FailingCheck]:
    """The checks that fail on any site, under the names they have today, those that fail on most sites first."""
    sites: Counter[str] = Counter()
    findings: Counter[str] = Counter()
    for _, failing in _latest(work):
        sites.update(failing.keys())
        findings.update(failing)
    return [
        FailingCheck(check=check, sites=count, findings=findings[check])
        for check, count in sorted(sites.items(), key=lambda item: (-item[1], -findings[item[0]], item[0]))
    ]


def list_failing_sites(work: Workspace, check_id: str) -> list[FailingSite]:
    """The sites on which a check fails, those with most places first. Raises :class:`NotFound` for a check that there is not."""
    known = catalogue.load()
    check = known.current(check_id)
    if check not in known.retired:
        known.find(check)
    rows = [
        FailingSite(site_id=site_id, host=host, client_name=client, findings=failing[check], run_id=run_id)
        for (site_id, host, client, run_id), failing in _latest(work)
        if check in failing
    ]
    return sorted(rows, key=lambda row: (-row.findings, row.host))


def _latest(work: Workspace) -> Iterator[tuple[tuple[int, str, str, str], dict[str, int]]]:
    """Every site with the open findings of the checks that fail in its latest run."""
    current = catalogue.load().current
    figures = func.json_extract(type_coerce(Run.summary, Text), "$.checks")
    chosen = (
        select(Site.id, Site.host, Client.name, Run.id, figures)
        .join(Client, Client.id == Site.client_id)
        .join(SiteState, SiteState.site_id == Site.id)
        .join(Run, Run.id == SiteState.done_id)
        .where(Site.kind == SiteKind.OWN, Site.archived.is_(False))
        .order_by(Site.host)
    )
    with work.reading() as session:
        rows = session.execute(chosen).all()
    for *site, checks in rows:
        told = json.loads(checks or "{}")
        yield tuple(site), {current(name): figure["findings"] for name, figure in told.items() if figure["findings"]}
