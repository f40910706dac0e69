"""Comparing two runs of a site."""

from __future__ import annotations

from functools import lru_cache

from hodcarrier.core.errors import RunMismatch
from hodcarrier.core.states import Change
from hodcarrier.register.models import Run
from hodcarrier.runfile.comparison import Comparison, compare
from hodcarrier.runfile.store import RunStore
from hodcarrier.usecases.runs import health_change
from hodcarrier.usecases.workspace import Workspace, fetch
from hodcarrier.wire.comparisons import ChangedFinding, ComparisonOut, PageChange

ROWS_MAX = 2000
CHANGE_ORDER = {change: place for place, change in enumerate(Change)}


@lru_cache(maxsize=16)
def _compare_files(store: RunStore, base: str, head: str) -> Comparison:
    """Finished run files never change, so a comparison of two of them can be kept."""
    with store.open(base) as opened_base, store.open(head) as opened_head:
        return compare(opened_base, opened_head)


def compare_runs(
    work: Workspace, base_id: str, head_id: str, change: Change | None = None, check: str = "", limit: int = 200
) -> ComparisonOut:
    """Compare two finished runs. Raises :class:`RunMismatch` when they are of different sites."""
    with work.reading() as session:
        base, head = fetch(session, Run, base_id, "run"), fetch(session, Run, head_id, "run")
        if base.site_id != head.site_id:
            raise RunMismatch(
                f"Run {base_id} is of {base.site.host} and run {head_id} of {head.site.host}.", "Choose two runs of one site."
            )
    for run_id in (base_id, head_id):
        work.check_file(run_id)
    found = _compare_files(work.store, base_id, head_id)
    chosen = [i for i in found.items if (not change or i.change == change) and (not check or i.check == check)]
    chosen.sort(key=lambda i: (CHANGE_ORDER[i.change], i.check, i.subject, i.place))
    items = []
    for item in chosen[: min(limit, ROWS_MAX)]:
        items.append(
            ChangedFinding(
                change=item.change,
                fingerprint=item.fingerprint.hex(),
                check=item.check,
                severity=item.severity,
                summary=item.summary,
                subject=item.subject,
                place=item.place,
            )
        )
    return ComparisonOut(
        base=base_id,
        head=head_id,
        base_at=base.requested_at,
        head_at=head.requested_at,
        base_health=base.health,
        head_health=head.health,
        health_change=health_change(head, base, found.health),
        health=found.health,
        areas=found.areas,
        counts=dict(found.balance.counts),
        base_findings=found.balance.base_findings,
        head_findings=found.balance.head_findings,
        waived_now=found.balance.waived_now,
        reconciles=found.balance.reconciles,
        settings=found.settings,
        by_check=found.by_check(),
        findings=items,
        findings_total=len(chosen),
        page_changes=[PageChange(url=u, field=f, base=b, head=h) for u, f, b, h in found.page_changes[:ROWS_MAX]],
        page_changes_total=len(found.page_changes),
        pages_appeared=found.appeared[:ROWS_MAX],
        pages_gone=found.gone[:ROWS_MAX],
        robots_diff=found.robots_diff,
        newly_blocked=found.newly_blocked[:ROWS_MAX],
    )
