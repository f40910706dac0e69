"""The view of the whole site that site checks look at."""

from __future__ import annotations

import ssl
from collections import Counter
from datetime import UTC, datetime

from hodcarrier.core.catalogue.views import SiteView
from hodcarrier.core.facts.site_files import Trap
from hodcarrier.core.web.urls import split
from hodcarrier.examine.views import RunViews
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile

REFUSALS = frozenset({403, 429, 503})


def make_site_view(views: RunViews, run: RunFile, now: datetime) -> SiteView:
    """Gather what concerns the site as a whole."""
    start_url = views.plan.start[0]
    start_id = views.ids.get(start_url)
    end = views.target(start_url)
    start = views.page(views.ids.get(end.final_url, start_id)) if start_id else None
    linked = [
        (i, item)
        for i, item in enumerate(views.known)
        if item.role == 0 and (i in views.inlinks or item.found_by & schema.FOUND_START)
    ]
    rules = Counter(item.rule for _, item in linked if item.state == schema.DISALLOWED and item.rule)
    asked = [item for _, item in linked if item.state == schema.DONE]
    days, ends = _certificate(run, start_url, now)
    return SiteView(
        url=start_url,
        robots=run.robots_file(),
        sitemaps=run.sitemap_files(),
        start=start,
        documents=views.documents,
        canonical_hosts=tuple(views.canonical_hosts.most_common()),
        pages_linked=len(linked),
        pages_disallowed=sum(rules.values()),
        rules_hit=tuple(rules.most_common()),
        refused=sum(1 for item in asked if item.status in REFUSALS),
        answered=len(asked),
        certificate_days=days,
        certificate_ends=ends,
        icon_found=None,
        icon_linked=any("icon" in kinds for kinds in views.file_kinds.values()),
        traps=tuple(Trap(t["pattern"], t["limit"], tuple(t["examples"])) for t in run.meta("traps") or ()),
        probes=run.probes(),
        plan=views.plan,
    )


def _certificate(run: RunFile, start_url: str, now: datetime) -> tuple[float | None, str]:
    ends = (run.meta("certificates") or {}).get(split(start_url).origin)
    if not ends:
        return None, ""
    moment = datetime.fromtimestamp(ssl.cert_time_to_seconds(ends), UTC)
    return (moment - now).total_seconds() / 86400, moment.date().isoformat()
