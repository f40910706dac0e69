"""Comparing two runs of a site."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

from sqlalchemy import select
from sqlalchemy.orm import joinedload

from hodcarrier.core.errors import RunMismatch, Unavailable
from hodcarrier.core.states import Change, TodoState
from hodcarrier.register.models import Run, Todo, TodoFinding
from hodcarrier.runfile.compared import APPEARED, BLOCKED, GONE, ComparedRuns
from hodcarrier.usecases.site_states import health_change
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.comparisons import ChangedFinding, ComparisonOut, EventTodo, PageChange

ROWS_MAX = 2000
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


def compare_runs(
    work: Workspace,
    base_id: str,
    head_id: str,
    change: Change | None = None,
    check: str = "",
    event: int | None = None,
    limit: int = 200,
    after: int = 0,
) -> ComparisonOut:
    """Compare two finished runs. Raises :class:`RunMismatch` when they are of different sites."""
    with work.reading() as session:
        base, head = fetch(session, Run, base_id, "run"), fetch(session, Run, head_id, "run")
        if base.site_id != head.site_id:
            raise RunMismatch(
                f"Run {base_id} is of {base.site.host} and run {head_id} of {head.site.host}.", "Choose two runs of one site."
            )
    with compared(work, base_id, head_id) as found:
        figures = found.figures
        chosen, total, after_next = found.findings(change, check, event, limit=min(limit, ROWS_MAX), after=after)
        todos = _todos_of(work, base.site_id, found)
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
            for item in chosen
        ]
        page_changes = [PageChange(url=u, field=f, base=b, head=h) for u, f, b, h in found.page_changes(ROWS_MAX)]
        appeared, gone, blocked = (found.pages(kind, ROWS_MAX) for kind in (APPEARED, GONE, BLOCKED))
    return ComparisonOut(
        base=base_id,
        head=head_id,
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
        page_changes=page_changes,
        page_changes_total=figures.page_changes,
        pages_appeared=appeared,
        pages_gone=gone,
        robots_diff=figures.robots_diff,
        newly_blocked=blocked,
    )
