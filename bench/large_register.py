"""A register of any size, filled without auditing anything: what the desk and lists are measured on, and what the test of statements is run on.

Each site has an audit a week, of which one in fifteen failed; figures move a little from run to run.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime, timedelta
from itertools import islice
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from sqlalchemy import insert, select
from sqlalchemy.orm import Session

from bench.large_run import make_run, plan_of
from hodcarrier.core.plan import Plan
from hodcarrier.core.schedule import read_recurrence
from hodcarrier.core.states import (
    Change,
    ComparedList,
    FileState,
    PlaceOutcome,
    RunPurpose,
    RunState,
    Severity,
    SiteKind,
    TodoEventKind,
    TodoState,
)
from hodcarrier.core.summary import SUMMARY, RunChanges, RunSummary
from hodcarrier.register.models import Alert, Client, Member, Run, Schedule, Site, Todo, TodoEvent, TodoFinding
from hodcarrier.runfile.store import LocalRunStore
from hodcarrier.usecases.site_states import update_site_state
from hodcarrier.usecases.workspace import Workspace

SITES_OF_CLIENT = 4
RUN_PAGES = 60
FAILED_EVERY = 15
PLACES = 6
BATCH = 500
WEEK = timedelta(weeks=1)


def fill(work: Workspace, sites: int, runs: int, todos: int, seed: int = 1) -> None:
    """Add clients with so many own sites, each with so many runs, and to-dos of the whole."""
    draw = random.Random(seed)
    summary, changes = _samples()
    now = work.now()
    with work.session() as session:
        first = session.scalar(select(Site.id).order_by(Site.id.desc()).limit(1)) or 0
        clients = -(-sites // SITES_OF_CLIENT)
        session.execute(
            insert(Client), [{"id": first + n, "name": f"Client {first + n}", "created_at": now} for n in range(1, clients + 1)]
        )
        ids = range(first + 1, first + sites + 1)
        session.execute(insert(Site), [_site(i, first + 1 + (i - first - 1) // SITES_OF_CLIENT, now) for i in ids])
        session.execute(insert(Schedule), [_schedule(i, now) for i in ids])
        _add(session, Run, _runs(draw, ids, runs, now, summary, changes))
        for site in session.scalars(select(Site).where(Site.id.in_(ids))):
            update_site_state(session, site)
        people = session.scalars(select(Member.id)).all()
        numbers = range(1, todos + 1)
        _add(session, Todo, (_todo(draw, n, draw.choice(ids), people, now) for n in numbers))
        rows = session.execute(select(Todo.id, Todo.site_id, Todo.state)).all()
        _add(session, TodoEvent, ({"todo_id": t, "at": now, "kind": TodoEventKind.MADE, "text": "made"} for t, _, _ in rows))
        _add(
            session,
            TodoFinding,
            (place for t, site, state in rows for place in _places(t, site, live=state != TodoState.CONFIRMED)),
        )
        _add(session, Alert, (_alert(i, now) for i in ids if i % 10 == 0))


def _samples() -> tuple[RunSummary, RunChanges]:
    """What a run and its changes come to, of a small site."""
    with TemporaryDirectory() as folder:
        store = LocalRunStore(Path(folder))
        make_run(store, "base", RUN_PAGES)
        make_run(store, "head", RUN_PAGES, 1, "base")
        store.compare("base", "head")
        with store.open("base") as base, store.open("head") as head:
            found = store.open_comparison("base", "head", base, head)
            assert found is not None
            with found:
                figures = found.figures
            changes = RunChanges(
                figures.counts,
                figures.by_check,
                figures.settings,
                False,
                figures.listed.get(ComparedList.BLOCKED, 0),
                0,
                figures.health,
                figures.areas,
            )
            return SUMMARY.load(head.meta("summary")), changes


def _add(session: Session, model: Any, rows: Iterator[dict[str, Any]]) -> None:
    while batch := list(islice(rows, BATCH)):
        session.execute(insert(model), batch)


def _site(number: int, client: int, now: datetime) -> dict[str, Any]:
    plan = replace(plan_of(RUN_PAGES), start=(f"https://site-{number}.example/",))
    return {
        "id": number,
        "client_id": client,
        "host": f"site-{number}.example",
        "kind": SiteKind.OWN,
        "plan": plan,
        "plan_version": 1,
        "created_at": now,
    }


def _schedule(site: int, now: datetime) -> dict[str, Any]:
    rule, at, zone = "FREQ=WEEKLY;BYDAY=TU", f"{site % 24:02}:00", "Europe/Berlin"
    return {
        "site_id": site,
        "rule": rule,
        "at": at,
        "zone": zone,
        "anchor": now,
        "next_due_at": read_recurrence(rule, at, zone, now).next_due(now),
        "mail_to": ["imke@agency.example"],
    }


def _runs(
    draw: random.Random, sites: range, count: int, now: datetime, summary: RunSummary, changes: RunChanges
) -> Iterator[dict[str, Any]]:
    sequence = 0
    plans: dict[int, Plan] = {site: replace(plan_of(RUN_PAGES), start=(f"https://site-{site}.example/",)) for site in sites}
    for week in range(count):
        for site in sites:
            sequence += 1
            failed = (week + site) % FAILED_EVERY == 0
            health = round(60 + 30 * draw.random(), 1)
            # Numbers that differ keep what was read of one run from standing for another.
            own = replace(summary, health=health, findings=summary.findings + draw.randrange(50))
            at = now - (count - week) * WEEK + timedelta(minutes=site)
            yield {
                "id": f"{sequence:010x}",
                "site_id": site,
                "sequence": sequence,
                "state": RunState.FAILED if failed else RunState.DONE,
                "purpose": RunPurpose.AUDIT,
                "plan": plans[site],
                "reason": "The host did not answer." if failed else "",
                "requested_at": at,
                "started_at": at,
                "finished_at": at + timedelta(minutes=10),
                "base_id": None,
                "health": None if failed else health,
                "summary": None if failed else own,
                "changes": None if failed else replace(changes, todos_confirmed=sequence),
                "examined": not failed,
                "pages": None if failed else own.pages_scored,
                "findings": None if failed else own.findings,
                "critical": None if failed else own.severities[Severity.CRITICAL].findings,
                "high": None if failed else own.severities[Severity.HIGH].findings,
                "end_words": "" if failed else own.end_words,
                "new": None if failed else changes.new,
                "returned": None if failed else changes.counts.get(Change.RETURNED, 0),
                "fixed": None if failed else changes.counts.get(Change.FIXED, 0),
                "comparable": None if failed else True,
                "file": FileState.REMOVED,
            }


def _todo(draw: random.Random, number: int, site: int, people: Any, now: datetime) -> dict[str, Any]:
    state = draw.choice([TodoState.OPEN, TodoState.OPEN, TodoState.DOING, TodoState.DONE, TodoState.CONFIRMED])
    return {
        "site_id": site,
        "title": f"Broken internal links, part {number}",
        "note": "As the report of last month says." * (number % 3),
        "check_id": "link-broken",
        "severity": draw.choice(list(Severity)),
        "state": state,
        "assignee_id": draw.choice([*people, None]),
        "due": (now + timedelta(days=draw.randrange(-30, 60))).date(),
        "places": PLACES,
        "cleared": draw.randrange(PLACES),
        "created_at": now - timedelta(days=number % 200),
        "closed_at": now if state == TodoState.CONFIRMED else None,
    }


def _places(todo: int, site: int, *, live: bool) -> Iterator[dict[str, Any]]:
    for n in range(PLACES):
        subject = f"https://site-{site}.example/page-{todo}-{n}"
        yield {
            "todo_id": todo,
            "fingerprint": f"{todo:08}{n:08}".encode(),
            "site_id": site,
            "live": live,
            "check_id": "link-broken",
            "subject": subject,
            "place": subject,
            "outcome": PlaceOutcome.STILL,
        }


def _alert(site: int, now: datetime) -> dict[str, Any]:
    return {
        "site_id": site,
        "check_id": "link-broken",
        "severity": Severity.HIGH,
        "summary": "Broken internal links",
        "detail": "/gone: 404; linked from 12 pages",
        "findings": 12,
        "fingerprints": b"",
        "raised_at": now,
    }
