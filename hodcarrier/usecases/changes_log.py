"""The log of who did what, searched."""

from __future__ import annotations

from datetime import UTC, date, datetime, time, timedelta

from sqlalchemy import func, select

from hodcarrier.register.models import LogEntry, Member
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.base import Listed
from hodcarrier.wire.members import LogEntryOut


def list_log(
    work: Workspace,
    *,
    who: int | None = None,
    text: str = "",
    from_day: date | None = None,
    to_day: date | None = None,
    limit: int = 200,
    after: int = 0,
) -> Listed[LogEntryOut]:
    """What was done, the latest first, a part at a time: by one member, with words in it, between two days (UTC, both included). ``after`` is the id of the last
    entry of the part before."""
    with work.reading() as session:
        chosen = select(LogEntry.id, LogEntry.at, LogEntry.action, LogEntry.subject, Member.name).outerjoin(
            Member, Member.id == LogEntry.member_id
        )
        if who is not None:
            chosen = chosen.where(LogEntry.member_id == who)
        for word in text.split():
            chosen = chosen.where(
                LogEntry.action.icontains(word, autoescape=True) | LogEntry.subject.icontains(word, autoescape=True)
            )
        if from_day is not None:
            chosen = chosen.where(LogEntry.at >= datetime.combine(from_day, time(), UTC))
        if to_day is not None:
            chosen = chosen.where(LogEntry.at < datetime.combine(to_day, time(), UTC) + timedelta(days=1))
        total = session.scalar(select(func.count()).select_from(chosen.subquery())) or 0
        if after:
            chosen = chosen.where(LogEntry.id < after)
        rows = session.execute(chosen.order_by(LogEntry.id.desc()).limit(limit + 1)).all()
    items = [LogEntryOut(id=r.id, at=r.at, who=r.name or "the service", action=r.action, subject=r.subject) for r in rows[:limit]]
    return Listed(items=items, total=total, after=str(items[-1].id) if len(rows) > limit else None)
