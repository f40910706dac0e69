"""The summary of a run: the small results that go into the register."""

from __future__ import annotations

import sqlite3
from collections import Counter
from typing import Any

import msgspec

from hodcarrier.core.indexable import REASONS
from hodcarrier.core.parameters import SessionParameter, session_parameters
from hodcarrier.core.views import SiteView
from hodcarrier.examine.measures import Gathered
from hodcarrier.examine.model import Model
from hodcarrier.runfile import schema

ENDS = {
    "complete": "whole site reached",
    "pages": "stopped at the page limit",
    "time": "stopped at the time limit",
    "stopped": "stopped by a person",
}


def make_summary(
    db: sqlite3.Connection,
    model: Model,
    *,
    health: float | None,
    areas: dict[str, float | None],
    factor: float,
    site: SiteView,
    gathered: Gathered,
    end: str,
    crashes: list[dict[str, str]],
    free_of_severe: int,
    severe_rows: set[int],
) -> dict[str, Any]:
    """All figures of a run that lists, trends, benchmarks and the console's summary need; plain JSON values."""
    checks = {
        row[0]: dict(
            zip(
                ("area", "severity", "findings", "waived", "pages", "fixes", "gain", "unverified", "crashed"),
                row[1:],
                strict=True,
            )
        )
        for row in db.execute(
            "SELECT id, area, severity, findings, waived, pages, fixes, gain, unverified, crashed FROM check_state WHERE state = 'on'"
        )
    }
    severities = {
        name: {
            "checks": sum(1 for c in checks.values() if c["severity"] == name and c["findings"]),
            "findings": sum(c["findings"] for c in checks.values() if c["severity"] == name),
        }
        for name in ("critical", "high", "medium", "low")
    }
    funnel, dropouts = _funnel(model, severe_rows)
    figures = gathered.figures()
    scored = db.execute("SELECT count(*) FROM verdict WHERE scored").fetchone()[0]
    sessions = session_parameters(
        (url, text or "")
        for url, text in db.execute(
            "SELECT url, text_hash FROM address LEFT JOIN page ON address_id = id WHERE role = 0 AND (url LIKE '%?%' OR url LIKE '%;%')"
        )
    )
    return {
        "health": health,
        "site_factor": factor,
        "areas": areas,
        "pages_scored": scored,
        "findings": sum(c["findings"] for c in checks.values()),
        "waived": sum(c["waived"] for c in checks.values()),
        "unverified": sum(c["unverified"] for c in checks.values()),
        "severities": severities,
        "checks": checks,
        "funnel": funnel,
        "dropouts": dropouts,
        "measures": {**figures, "health": health, "severe_free_ratio": 100.0 * free_of_severe / scored if scored else None},
        "end": end,
        "end_words": ENDS.get(end, end),
        "notices": [*_notices(model, site, end, crashes), *(_session_words(p) for p in sessions)],
        "session_parameters": msgspec.to_builtins(sessions),
        "crashes": crashes[:50],
    }


def _funnel(model: Model, severe: set[int]) -> tuple[list[dict[str, Any]], dict[str, int]]:
    pages = [(i, item) for i, item in enumerate(model.known) if i and item.role == 0]
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
        dropouts["has severe findings"] = len(indexable) - len(free)
    return [{"id": name, "label": label, "count": count} for name, label, count in steps], dropouts


def _notices(model: Model, site: SiteView, end: str, crashes: list[dict[str, str]]) -> list[str]:
    """Sentences a reader must not miss about what this run could not do."""
    said = []
    start = model.known[model.ids[site.url]] if site.url in model.ids else None
    robots = site.robots
    if start is not None and start.state == schema.DISALLOWED:
        if robots.status is None or robots.status >= 500:
            answer = f"answers {robots.status}" if robots.status else "gives no answer"
            said.append(f"robots.txt {answer}, so by RFC 9309 nothing may be fetched: no page was audited.")
        else:
            said.append(
                f"robots.txt shuts out our agent “{model.plan.robots_token}” at the start address ({start.rule}): no page was audited."
            )
    elif start is not None and start.status is None and start.state == schema.DONE:
        said.append("The start address gave no answer.")
    elif (
        start is not None
        and start.state == schema.DONE
        and not start.html
        and start.redirect_id is None
        and (start.status or 0) < 400
    ):
        said.append("The start address is not an HTML page, so no links could be followed.")
    if end == "pages":
        said.append(f"The page limit of {model.plan.pages_max:,} was reached; pages beyond it are unverified.")
    elif end == "time":
        said.append("The time limit was reached; pages beyond it are unverified.")
    elif end == "stopped":
        said.append("The run was stopped by a person; pages not reached are unverified.")
    if crashes:
        said.append(f"{len({c['check'] for c in crashes})} checks crashed on {len(crashes)} subjects; those are unverified.")
    return said


def _session_words(parameter: SessionParameter) -> str:
    addresses = f"{parameter.addresses:,} address{'es carry' if parameter.addresses != 1 else ' carries'}"
    return f"{addresses} “{parameter.name}”, which looks like a session id, such as {parameter.example}; the plan can drop it."
