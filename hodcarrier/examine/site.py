"""The view of the whole site that site checks look at."""

from __future__ import annotations

from collections import Counter
from datetime import datetime, timedelta

from hodcarrier.core.catalogue.views import SiteView
from hodcarrier.core.facts.site_files import Listed, Trap
from hodcarrier.core.web.sitemaps import is_w3c_datetime
from hodcarrier.examine.views import RunViews
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile

REFUSALS = frozenset({403, 429, 503})
# So many entries with one and the same instant were not changed at it: it is when the file was made.
DATES_ALIKE_MIN = 10


def make_site_view(views: RunViews, run: RunFile, now: datetime, postal: bool = False) -> SiteView:
    """Gather what concerns the site as a whole. ``postal``: a page says where to find the company, or under what number it is registered."""
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
        listed=_listed(run, now),
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
        postal=postal,
        traps=tuple(Trap(t["pattern"], t["limit"], tuple(t["examples"])) for t in run.meta("traps") or ()),
        probes=run.probes(),
        examined_at=now,
        plan=views.plan,
    )


def _listed(run: RunFile, now: datetime) -> Listed:
    twice = run.rows(
        "SELECT url FROM listed JOIN address ON address.id = address_id GROUP BY address_id, sitemap_id HAVING count(*) > 1 ORDER BY url"
    )
    foreign = run.rows(
        "SELECT DISTINCT url FROM listed JOIN address ON address.id = address_id WHERE role = ? ORDER BY url", schema.EXTERNAL
    )
    counted = run.rows("SELECT lastmod, count(*) FROM listed WHERE lastmod != '' GROUP BY lastmod ORDER BY lastmod")
    wrong = [(text, count) for text, count in counted if not is_w3c_datetime(text)]
    # A day's grace: the clock of the site may be in another zone.
    tomorrow = (now + timedelta(days=1)).date().isoformat()
    future = [(text, count) for text, count in counted if is_w3c_datetime(text) and text[:10] > tomorrow[: len(text[:10])]]
    alike = counted if len(counted) == 1 and "T" in counted[0][0] and counted[0][1] >= DATES_ALIKE_MIN else []

    def told(found: list[tuple[str, int]]) -> tuple[int, str]:
        return sum(count for _, count in found), found[0][0] if found else ""

    return Listed(tuple(u for (u,) in twice), tuple(u for (u,) in foreign), told(wrong), told(future), told(alike))


def _certificate(run: RunFile, start_url: str, now: datetime) -> tuple[float | None, str]:
    moment = run.certificate_ends(start_url)
    if moment is None:
        return None, ""
    return (moment - now).total_seconds() / 86400, moment.date().isoformat()
