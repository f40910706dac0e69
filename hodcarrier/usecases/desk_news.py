"""What happened since the last working day, as the desk tells it: events by weight, to-dos that runs judged, what rose across clients."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from hodcarrier.core import catalogue
from hodcarrier.core.judge.todos import CONFIRMED, REOPENED
from hodcarrier.core.states import TodoEventKind
from hodcarrier.register.models import Client, Site, Todo, TodoEvent
from hodcarrier.usecases.workspace import AnyRow
from hodcarrier.wire.desk import DeskEvent, DeskTodo, Pattern, PatternSite

EVENTS_SHOWN = 12
JUDGED_SHOWN = 50
PATTERNS_SHOWN = 5
# What rose on so many sites of more than one client within so many days is no chance.
PATTERN_SITES = 3
PATTERN_SPAN = timedelta(days=7)


def events(sites: Sequence[AnyRow], runs: Mapping[str, AnyRow], since: datetime) -> list[DeskEvent]:
    """What happened to the sites whose latest run ended since then, what did most to health first; what did nothing to it is left out."""
    found = []
    for site in sites:
        run = runs.get(site.done_id)
        if run is None or run.finished_at is None or run.finished_at <= since:
            continue
        for event in site.events or ():
            if event["shown"]:
                found.append(
                    DeskEvent(
                        site_id=site.id,
                        host=site.host,
                        client_name=site.client_name,
                        title=event["title"],
                        detail=event["detail"],
                        shown=event["shown"],
                        link=f"/sites/{site.id}/changes",
                    )
                )
    return sorted(found, key=lambda event: (-abs(event.shown or 0.0), event.host))


def judged(session: Session, since: datetime) -> list[DeskTodo]:
    """To-dos that were confirmed or opened again since then, the latest first, each once."""
    rows = session.execute(
        select(TodoEvent.at, TodoEvent.text, Todo.id, Todo.title, Client.name)
        .join(Todo, Todo.id == TodoEvent.todo_id)
        .join(Site, Site.id == Todo.site_id)
        .join(Client, Client.id == Site.client_id)
        .where(
            TodoEvent.kind.in_((TodoEventKind.RUN, TodoEventKind.CHECKED)),
            TodoEvent.at > since,
            ~Site.archived,
            or_(TodoEvent.text.contains(f"{CONFIRMED}:"), TodoEvent.text.contains(f"{REOPENED}:")),
        )
        .order_by(TodoEvent.at.desc(), TodoEvent.id.desc())
        .limit(JUDGED_SHOWN)
    )
    found: dict[int, DeskTodo] = {}
    for at, text, todo, title, client in rows:
        reopened = f"{REOPENED}:" in text
        found.setdefault(todo, DeskTodo(todo_id=todo, title=title, client_name=client, reopened=reopened, text=text, at=at))
    return list(found.values())


def patterns(sites: Sequence[AnyRow], runs: Mapping[str, AnyRow], now: datetime) -> list[Pattern]:
    """Checks that have more findings, by the latest runs of the last week, on several sites of more than one client; most sites first."""
    rose: dict[str, list[tuple[AnyRow, int]]] = defaultdict(list)
    for site in sites:
        run = runs.get(site.done_id)
        if run is not None and run.finished_at is not None and run.finished_at > now - PATTERN_SPAN:
            for check, findings in (site.rises or {}).items():
                rose[check].append((site, findings))
    found = []
    known = catalogue.load()
    for check, rising in rose.items():
        if check in known and len(rising) >= PATTERN_SITES and len({site.client_id for site, _ in rising}) > 1:
            found.append(
                Pattern(
                    check=check,
                    summary=known[check].check.summary,
                    severity=known[check].check.severity,
                    since=min(runs[site.done_id].finished_at for site, _ in rising),
                    sites=[
                        PatternSite(site_id=site.id, host=site.host, client_name=site.client_name, findings=findings)
                        for site, findings in sorted(rising, key=lambda each: -each[1])
                    ],
                )
            )
    return sorted(found, key=lambda pattern: (-len(pattern.sites), pattern.check))[:PATTERNS_SHOWN]
