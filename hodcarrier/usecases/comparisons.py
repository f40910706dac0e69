"""Comparing two runs of a site."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import asdict
from threading import Lock
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from hodcarrier.core.errors import NotFound, RunMismatch, Unavailable
from hodcarrier.core.states import AddressRole, ComparedList, PartKind, TodoState
from hodcarrier.register.models import Run, Todo, TodoFinding
from hodcarrier.runfile.compared import ALL, Chosen, ComparedRuns
from hodcarrier.runfile.parts import Part
from hodcarrier.usecases.site_states import health_change
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.base import Listed
from hodcarrier.wire.comparisons import ChangedFinding, ChangeGroup, ComparedPart, ComparisonOut, EventTodo, PageChange

ROWS_MAX = 2000
# Of the changes that pages have in common those on most pages are given with the comparison.
GROUPS_MAX = 200
ROLES = tuple(AddressRole)
COMPARED_HEADS = {
    "change": "Class",
    "severity": "Severity",
    "check": "Check",
    "summary": "What",
    "subject": "URL",
    "place": "Place",
    "fingerprint": "Fingerprint",
}
COMPARED_FIELDS = tuple(COMPARED_HEADS)
# Of so many places in to-dos it is told which event they are in.
LINKED_MAX = 20_000
# Who asks for two runs that are being compared just now waits for that instead of doing it again.
_comparing: defaultdict[tuple[str, str], Lock] = defaultdict(Lock)
_choosing = Lock()


@contextmanager
def compared(work: Workspace, base_id: str, head_id: str) -> Iterator[ComparedRuns]:
    """The comparison of two finished runs of one site: usually the worker of the later one has made it, else it is made now and kept.

    Raises what :meth:`Workspace.open_run` raises, and :class:`~hodcarrier.core.errors.Unavailable` when it cannot be made.
    """
    with work.open_run(base_id) as base, work.open_run(head_id) as head:
        found = work.store.open_comparison(base_id, head_id, base, head)
        if found is None:
            with _choosing:
                lock = _comparing[base_id, head_id]
            with lock:
                found = work.store.open_comparison(base_id, head_id, base, head)
                if found is None:
                    work.compare(base_id, head_id)
                    found = work.store.open_comparison(base_id, head_id, base, head)
        if found is None:
            raise Unavailable("The comparison was removed while it was read.", "Ask for it again.")
        with found:
            yield found


def _todos_of(work: Workspace, site_id: int, found: ComparedRuns) -> list[EventTodo]:
    """The to-dos of a site that hold findings of an event, with how many; by event, those with most first."""
    with work.reading() as session:
        linked = session.execute(
            select(TodoFinding.todo_id, TodoFinding.fingerprint)
            .join(Todo, Todo.id == TodoFinding.todo_id)
            .where(TodoFinding.site_id == site_id, Todo.state != TodoState.DROPPED)
            .limit(LINKED_MAX)
        ).all()
        event_of = found.events_of([fingerprint for _, fingerprint in linked])
        places = Counter((event_of[fingerprint], todo) for todo, fingerprint in linked if fingerprint in event_of)
        known = {
            todo.id: todo
            for todo in session.scalars(
                select(Todo).where(Todo.id.in_({todo for _, todo in places})).options(joinedload(Todo.assignee))
            )
        }
        return [
            EventTodo(
                event=event,
                todo_id=todo,
                title=known[todo].title,
                state=known[todo].state,
                assignee=assignee.name if (assignee := known[todo].assignee) else "",
                places=count,
            )
            for (event, todo), count in sorted(places.items(), key=lambda item: (item[0][0], -item[1], item[0][1]))
        ]


@contextmanager
def _pair(work: Workspace, base_id: str, head_id: str) -> Iterator[tuple[Run, Run, ComparedRuns]]:
    """Two runs and their comparison: of one site, or of two sites of one client, such as a staging host and the live one, which are compared by path.
    Raises :class:`RunMismatch` when they are of different clients."""
    with work.reading() as session:
        base, head = fetch(session, Run, base_id, "run"), fetch(session, Run, head_id, "run")
        if base.site.client_id != head.site.client_id:
            raise RunMismatch(
                f"Run {base_id} is of {base.site.host} and run {head_id} of {head.site.host}, a site of another client.",
                "Choose two runs of one site, or of two sites of one client.",
            )
    with compared(work, base_id, head_id) as found:
        yield base, head, found


def compare_runs(
    work: Workspace, base_id: str, head_id: str, chosen: Chosen = ALL, limit: int = 200, after: int = 0
) -> ComparisonOut:
    """Compare two finished runs. Raises :class:`RunMismatch` when they are of different clients, :class:`NotFound` for a part that there is not."""
    with _pair(work, base_id, head_id) as (base, head, found):
        figures = found.figures
        part = _part(found, chosen.part) if chosen.part is not None else None
        rows, total, after_next = found.findings(chosen, limit=min(limit, ROWS_MAX), after=after)
        todos = _todos_of(work, head.site_id, found)
        items = [
            ChangedFinding(
                change=item.change,
                fingerprint=item.fingerprint.hex(),
                check=item.check,
                severity=item.severity,
                summary=item.summary,
                subject=item.subject,
                place=item.place,
            )
            for item in rows
        ]
        groups = [ChangeGroup(**asdict(group) | {"role": ROLES[group.role]}) for group in found.alike(limit=GROUPS_MAX)]
    return ComparisonOut(
        base=base_id,
        head=head_id,
        base_host=base.site.host,
        head_host=head.site.host,
        base_at=base.requested_at,
        head_at=head.requested_at,
        base_health=base.health,
        head_health=head.health,
        health_change=health_change(head, base, figures.health),
        health=figures.health,
        areas=figures.areas,
        counts=figures.counts,
        base_findings=figures.base_findings,
        head_findings=figures.head_findings,
        waived_now=figures.waived_now,
        reconciles=figures.balance.reconciles,
        sentence=figures.sentence,
        events=figures.events,
        event_todos=todos,
        settings=figures.settings,
        by_check=figures.by_check,
        findings=items,
        findings_total=total,
        after=after_next,
        part=part,
        page_changes=groups,
        page_changes_total=figures.alike,
        facts_changed=figures.page_changes,
        lists=figures.listed,
        parts=figures.parts,
        robots_lines=figures.robots_lines,
    )


def each_compared(work: Workspace, base_id: str, head_id: str, chosen: Chosen = ALL) -> Iterator[dict[str, Any]]:
    """The findings of a comparison with their classes, one by one. What is wrong with the runs is said before the first one; raises what :func:`compare_runs`
    raises."""
    with _pair(work, base_id, head_id) as (_, _, found):
        if chosen.part is not None:
            _part(found, chosen.part)

    def rows() -> Iterator[dict[str, Any]]:
        after: int | None = 0
        with _pair(work, base_id, head_id) as (_, _, found):
            while after is not None:
                items, _, after = found.findings(chosen, limit=ROWS_MAX, after=after)
                for item in items:
                    yield {**asdict(item), "fingerprint": item.fingerprint.hex()}

    return rows()


def _part(found: ComparedRuns, number: int) -> ComparedPart:
    part = found.part(number)
    if part is None:
        raise NotFound("The comparison has no such part.", "Load the list of causes, pages, folders or templates again.")
    return _part_out(found, number, part)


def _part_out(found: ComparedRuns, number: int, part: Part) -> ComparedPart:
    severity = next((told.severity for told in found.figures.checks if told.check == part.check), None)
    return ComparedPart(id=number, severity=severity, **asdict(part))


def list_compared_parts(
    work: Workspace, base_id: str, head_id: str, by: PartKind, limit: int = 200, after: int = 0
) -> Listed[ComparedPart]:
    """Causes, pages, folders or templates of which findings differ, those with most to tell first."""
    with _pair(work, base_id, head_id) as (_, _, found):
        rows = found.parts(by, limit=limit + 1, after=after)
        items = [_part_out(found, *row) for row in rows[:limit]]
        return Listed(items=items, total=found.figures.parts.get(by, 0), after=_following(rows, limit))


def list_page_changes(
    work: Workspace, base_id: str, head_id: str, group: int, limit: int = 200, after: int = 0
) -> Listed[PageChange]:
    """The pages or files that one edit changed, by URL. Raises :class:`NotFound` when there is no such change."""
    with _pair(work, base_id, head_id) as (_, _, found):
        told = found.change_group(group)
        if told is None:
            raise NotFound("The comparison has no such change.", "Load the page changes again.")
        rows = found.page_changes(group, limit=limit + 1, after=after)
        items = [PageChange(url=url, field=told.field, base=was, head=now) for _, url, was, now in rows[:limit]]
        return Listed(items=items, total=told.pages, after=_following(rows, limit))


def list_compared_urls(
    work: Workspace, base_id: str, head_id: str, kind: ComparedList, limit: int = 200, after: int = 0
) -> Listed[str]:
    """The URLs of one of the lists of a comparison, in their order."""
    with _pair(work, base_id, head_id) as (_, _, found):
        rows = found.urls(kind, limit=limit + 1, after=after)
        items = [url for _, url in rows[:limit]]
        return Listed(items=items, total=found.figures.listed.get(kind, 0), after=_following(rows, limit))


def _following(rows: Sequence[tuple[Any, ...]], limit: int) -> str | None:
    """The id behind which the next part begins; of one row more than asked for, to tell whether there is one."""
    return str(rows[limit - 1][0]) if len(rows) > limit else None
