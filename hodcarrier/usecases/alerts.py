"""Alerts: what the runs of a site changed for the worse stays on the desk until it is fixed or acknowledged."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from hodcarrier.core.states import Change, Severity, Topic
from hodcarrier.register.models import Alert, Member, Run
from hodcarrier.runfile.causes import top_cause
from hodcarrier.runfile.comparison import Classed
from hodcarrier.runfile.reader import RunFile
from hodcarrier.usecases.announcements import announce_alert
from hodcarrier.usecases.workspace import Workspace, fetch, log

SEVERE = (Severity.CRITICAL, Severity.HIGH)
# What only came into view may have been there all along.
WORSE = (Change.NEW, Change.NEW_WITH_PAGE, Change.RETURNED)
PRINT_BYTES = 16


def update_alerts(session: Session, now: datetime, run: Run, head: RunFile, worse: Mapping[str, Sequence[Classed]]) -> None:
    """Bring the alerts of a site up to date with a run: ``worse`` are the new findings of severe checks, by check."""
    alerts = {a.check_id: a for a in session.scalars(select(Alert).where(Alert.site_id == run.site_id))}
    for check in {*alerts, *worse}:
        alert, fresh = alerts.get(check), worse.get(check, ())
        kept = _prints(alert.fingerprints) if alert else []
        left = [fp for fp in dict.fromkeys([*kept, *(item.fingerprint for item in fresh)]) if _is_left(head, fp)]
        if not left:
            if alert is not None:
                announce_alert(session, now, Topic.ALERT_CLEARED, alert, run.site)
                session.delete(alert)
            continue
        if alert is None:
            first = fresh[0]
            alert = Alert(
                site_id=run.site_id, check_id=check, severity=first.severity, summary=first.summary, raised_at=run.requested_at
            )
            session.add(alert)
        if fresh:
            alert.acknowledged_at = alert.acknowledged_by = None
            alert.detail = _cause_line(head, check, fresh)
        alert.findings, alert.fingerprints = len(left), b"".join(left)
        if fresh:
            announce_alert(session, now, Topic.ALERT_RAISED, alert, run.site)
    session.flush()


def _prints(kept: bytes) -> list[bytes]:
    return [kept[at : at + PRINT_BYTES] for at in range(0, len(kept), PRINT_BYTES)]


def _is_left(head: RunFile, fingerprint: bytes) -> bool:
    """Whether a finding is open, or could not be examined: then nobody knows that it is fixed."""
    found = head.rows("SELECT waived FROM finding WHERE fingerprint = ?", fingerprint)
    if found:
        return not found[0][0]
    return bool(head.rows("SELECT 1 FROM earlier WHERE fingerprint = ? AND state = 'unverified'", fingerprint))


def _cause_line(head: RunFile, check: str, fresh: Sequence[Classed]) -> str:
    """The cause that most of the new findings share."""
    places = [item.fingerprint for item in fresh[:1_000]]
    marks = ",".join("?" * len(places))
    found = head.rows(
        f"SELECT c.line FROM finding f JOIN cause c ON c.id = f.cause_id WHERE f.fingerprint IN ({marks})"
        " GROUP BY c.id ORDER BY count(*) DESC, c.id LIMIT 1",
        *places,
    )
    if found:
        return str(found[0][0])
    return top_cause(head, check)


def acknowledge_alert(work: Workspace, alert_id: int, member: Member) -> None:
    """Take an alert off the desk: somebody knows. It comes back when further findings do."""
    with work.session() as session:
        alert = fetch(session, Alert, alert_id, "alert")
        alert.acknowledged_at, alert.acknowledged_by = work.now(), member.id
        log(session, work.now(), member.id, "alert acknowledged", f"{alert.site.host}: {alert.summary}")
