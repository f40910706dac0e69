"""What is shown of a site's runs on the desk and in lists, kept in one row for each site and brought up to date when a run ends."""

from __future__ import annotations

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hodcarrier.core.states import Change, Severity
from hodcarrier.core.summary import RunChanges, RunSummary, SharedScore
from hodcarrier.core.words import difference
from hodcarrier.register.models import EXAMINED, EXAMINED_OR_FAILED, Run, Site, SiteState
from hodcarrier.usecases.workspace import fetched_of

LINE_RUNS = 10


def set_headline(run: Run, summary: RunSummary, changes: RunChanges | None) -> None:
    """Put what lists show of a run's results into its own columns."""
    run.summary, run.changes, run.health, run.examined = summary, changes, summary.health, True
    run.pages, run.findings = summary.pages_scored, summary.findings
    run.critical, run.high = (summary.severities[severity].findings for severity in (Severity.CRITICAL, Severity.HIGH))
    run.partial, run.end_words = summary.partial, summary.end_words
    if changes is not None:
        run.new, run.returned, run.fixed = (
            changes.new,
            changes.counts.get(Change.RETURNED, 0),
            changes.counts.get(Change.FIXED, 0),
        )
        run.comparable = None if changes.health is None else changes.health.change is not None


def update_site_state(session: Session, site: Site) -> SiteState:
    """Bring a site's row up to date with its runs, in the transaction that changes one of them.

    The runs of a client's site are its audits, those of a competitor those of benchmarks. Re-examinations stand beside the runs they judge anew.
    """
    session.flush()
    fetched = fetched_of(site)
    shown = select(Run).where(Run.site_id == site.id, fetched).order_by(Run.sequence.desc())
    counted = select(func.count()).select_from(Run).where(Run.site_id == site.id, fetched, EXAMINED)
    ended = session.scalars(shown.where(EXAMINED_OR_FAILED).limit(LINE_RUNS)).all()
    done = session.scalars(shown.where(EXAMINED).limit(2)).all()
    state = session.get(SiteState, site.id)
    if state is None:
        state = SiteState(site_id=site.id)
        session.add(state)
    state.runs = session.scalar(counted) or 0
    state.last_id = ended[0].id if ended else None
    state.done_id = done[0].id if done else None
    state.change = health_change(done[0], done[1]) if len(done) > 1 else None
    state.line = [run.health for run in reversed(ended)]
    state.line_days = [run.requested_at.date().isoformat() for run in reversed(ended)]
    changes = done[0].changes if done else None
    state.events = [{"title": e.title, "detail": e.detail, "shown": e.shown} for e in changes.events] if changes else []
    state.rises = {c.check: c.change for c in changes.by_check if c.change > 0} if changes else {}
    return state


def health_change(run: Run, base: Run | None, shared: SharedScore | None = None) -> float | None:
    """By how much the displayed health differs from that of ``base``; ``None`` when the two examined too few of the same pages.

    ``shared`` says how many those are; without it, what the run noted of the run before counts.
    """
    if base is None or base.health is None or run.health is None:
        return None
    comparable = run.comparable if run.base_id == base.id else None
    if shared is not None:
        comparable = shared.change is not None
    if comparable is False:
        return None
    return difference(base.health, run.health)
