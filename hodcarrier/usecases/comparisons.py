"""Comparing two runs of a site."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

from hodcarrier.core.errors import RunMismatch, Unavailable
from hodcarrier.core.states import Change
from hodcarrier.register.models import Run
from hodcarrier.runfile.compared import APPEARED, BLOCKED, GONE, ComparedRuns
from hodcarrier.usecases.site_states import health_change
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.comparisons import ChangedFinding, ComparisonOut, PageChange

ROWS_MAX = 2000
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


def compare_runs(
    work: Workspace,
    base_id: str,
    head_id: str,
    change: Change | None = None,
    check: str = "",
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
        chosen, total, after_next = found.findings(change, check, min(limit, ROWS_MAX), after)
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
