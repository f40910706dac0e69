"""The summary of a run: the small results that go into the register."""

from __future__ import annotations

import sqlite3
from collections import Counter
from collections.abc import Mapping, Sequence

from hodcarrier.core.catalogue import Area, SiteView, Subject
from hodcarrier.core.facts.indexable import REASONS
from hodcarrier.core.inventory.views import DROPPED
from hodcarrier.core.states import Severity
from hodcarrier.core.summary import END_WORDS, CheckFigures, Crash, FunnelStep, RunEnd, RunSummary, SeverityFigures
from hodcarrier.core.web.parameters import SessionParameter, session_parameters
from hodcarrier.core.words import as_shown
from hodcarrier.examine.checking import Checking
from hodcarrier.examine.scoring import Scores
from hodcarrier.examine.views import RunViews
from hodcarrier.runfile import schema
from hodcarrier.runfile.losses import losses
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.scores import ScoredRun

CRASHES_SHOWN = 50
# Why an indexable page drops out of the last step of the funnel.
SEVERE = "has severe findings"


def make_summary(
    db: sqlite3.Connection,
    views: RunViews,
    scores: Scores,
    rows: Mapping[int, int],
    site: SiteView,
    checking: Checking,
    end: RunEnd,
    notices: Sequence[str],
    catalogue: str,
) -> RunSummary:
    """All figures of a run that lists, trends, benchmarks and the console's summary need."""
    checks = figures_of_checks(db)
    funnel, dropouts = _funnel(views, {i for i, row in rows.items() if scores.is_severe(row)})
    sessions = session_parameters(
        (url, text or "")
        for url, text in db.execute(
            "SELECT url, text_hash FROM address LEFT JOIN page ON address_id = id WHERE role = 0 AND (url LIKE '%?%' OR url LIKE '%;%')"
        )
    )
    cut = db.execute("SELECT 1 FROM meta WHERE key = 'sitemaps_cut'").fetchone() is not None
    free = 100.0 * scores.free_of_severe() / len(rows) if rows else None
    said = [*notices, *_notices(views, site, end, checking.crashes, cut), *(_session_words(p) for p in sessions)]
    health = points(scores.health)
    return RunSummary(
        health=health,
        site_factor=scores.site_factor,
        areas={area: points(score) for area, score in scores.areas.items()},
        area_pages=scores.area_pages,
        pages_scored=len(rows),
        findings=sum(c.findings for c in checks.values()),
        waived=sum(c.waived for c in checks.values()),
        unverified=sum(c.unverified for c in checks.values()),
        severities=by_severity(checks),
        checks=checks,
        funnel=funnel,
        dropouts=dropouts,
        measures=checking.gathered.figures(health, free),
        end=end,
        end_words="blocked by robots.txt at the start URL" if _is_blocked(views, site) else END_WORDS[end],
        notices=said,
        session_parameters=sessions,
        crashes=checking.crashes[:CRASHES_SHOWN],
        catalogue=catalogue,
        probes=site.probes,
        lost=losses(ScoredRun.read(RunFile(db)), health),
    )


def figures_of_checks(db: sqlite3.Connection) -> dict[str, CheckFigures]:
    """What every check found, by its id."""
    columns = "id, area, severity, subject, findings, waived, pages, fixes, gain, unverified, crashed, summary"
    return {
        check: CheckFigures(Area(area), Severity(severity), Subject(subject), *figures)
        for check, area, severity, subject, *figures in db.execute(f"SELECT {columns} FROM check_state WHERE state = 'on'")
    }


def by_severity(checks: Mapping[str, CheckFigures]) -> dict[Severity, SeverityFigures]:
    """How many checks of each severity fail, and their findings."""
    return {
        severity: SeverityFigures(
            checks=sum(1 for c in checks.values() if c.severity == severity and c.findings),
            findings=sum(c.findings for c in checks.values() if c.severity == severity),
        )
        for severity in Severity
    }


def points(score: float | None) -> float | None:
    """A score as it is shown, so that every surface rounds it alike."""
    return None if score is None else as_shown(score, "points")


def _is_blocked(views: RunViews, site: SiteView) -> bool:
    """Whether robots.txt blocks the start URL, so that nothing could be crawled."""
    return site.url in views.ids and views.known[views.ids[site.url]].state == schema.DISALLOWED


def _funnel(views: RunViews, severe: set[int]) -> tuple[list[FunnelStep], dict[str, int]]:
    pages = [(i, item) for i, item in enumerate(views.known) if i and item.role == 0]
    allowed = [(i, item) for i, item in pages if item.state != schema.DISALLOWED]
    answered = [(i, item) for i, item in allowed if item.html and item.status == 200]
    indexable = [(i, item) for i, item in answered if not item.why_not]
    free = [i for i, _ in indexable if i not in severe]
    steps = (
        ("known", "known", len(pages)),
        ("allowed", "allowed by robots.txt", len(allowed)),
        ("answered", "answered with a page", len(answered)),
        ("indexable", "indexable", len(indexable)),
        ("free", "free of severe findings", len(free)),
    )
    reasons = Counter(item.why_not for _, item in pages if item.why_not)
    dropouts = {REASONS[reason]: count for reason, count in reasons.most_common()}
    if len(indexable) > len(free):
        dropouts[SEVERE] = len(indexable) - len(free)
    return [FunnelStep(name, label, count, DROPPED.get(name, "")) for name, label, count in steps], dropouts


def _notices(views: RunViews, site: SiteView, end: RunEnd, crashes: Sequence[Crash], cut: bool) -> list[str]:
    """Sentences a reader must not miss about what this run could not do."""
    said = []
    start = views.known[views.ids[site.url]] if site.url in views.ids else None
    robots = site.robots
    if start is not None and start.state == schema.DISALLOWED:
        if robots.status is None or robots.status >= 500:
            answer = f"answers {robots.status}" if robots.status else "gives no answer"
            said.append(f"robots.txt {answer}, so by RFC 9309 nothing may be fetched: no page was audited.")
        else:
            said.append(
                f"robots.txt blocks our user agent “{views.plan.robots_token}” at the start URL ({start.rule}): no page was audited."
            )
    elif start is not None and start.status is None and start.state == schema.DONE:
        said.append("The start URL did not respond.")
    elif (
        start is not None
        and start.state == schema.DONE
        and not start.html
        and start.redirect_id is None
        and (start.status or 0) < 400
    ):
        said.append("The start URL is not an HTML page, so no links could be followed.")
    if cut:
        said.append("The sitemaps list more than was read: what only the rest of them lists is unverified.")
    if end == RunEnd.PAGES and (not cut or any(item.state == schema.QUEUED for item in views.known)):
        said.append(f"The page limit of {views.plan.pages_max:,} was reached; pages beyond it are unverified.")
    elif end == RunEnd.TIME:
        said.append("The time limit was reached; pages beyond it are unverified.")
    elif end == RunEnd.STOPPED:
        said.append("The run was stopped by a person; pages not reached are unverified.")
    if crashes:
        said.append(f"{len({c.check for c in crashes})} checks crashed on {len(crashes)} subjects; those are unverified.")
    return said


def _session_words(parameter: SessionParameter) -> str:
    addresses = f"{parameter.addresses:,} address{'es carry' if parameter.addresses != 1 else ' carries'}"
    return f"{addresses} “{parameter.name}”, which looks like a session id, such as {parameter.example}; the plan can drop it."
