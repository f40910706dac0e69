"""When a member is told of something by mail: as it happens, or in one mail a day at an hour of the member's own."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from hodcarrier.core.schedule import read_recurrence
from hodcarrier.core.states import MailKind, MailTime

HOUR = 7
ZONE = "UTC"
# What somebody waits for comes at once; what can wait comes once a day.
DEFAULT_TIMES = {
    MailKind.MENTIONED: MailTime.AT_ONCE,
    MailKind.ASSIGNED: MailTime.AT_ONCE,
    MailKind.REOPENED: MailTime.AT_ONCE,
    MailKind.COMMENTED: MailTime.AT_ONCE,
    MailKind.OVERDUE: MailTime.DAILY,
    MailKind.DUE_SOON: MailTime.DAILY,
    MailKind.CONFIRMED: MailTime.DAILY,
}


def mail_times(chosen: Mapping[str, str]) -> dict[MailKind, MailTime]:
    """When a member is told of each kind of thing, from what the member has chosen otherwise than by default."""
    return {kind: MailTime(chosen.get(kind, default)) for kind, default in DEFAULT_TIMES.items()}


def next_morning(now: datetime, zone: str, hour: int) -> datetime | None:
    """The next working day (Monday to Friday) at ``hour`` o'clock in ``zone`` (IANA), in UTC."""
    return read_recurrence("FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR", f"{hour:02}:00", zone, now).next_due(now)


def mail_due(when: MailTime, now: datetime, zone: str, hour: int) -> datetime | None:
    """When a mail about something that happens ``now`` (aware) is due, in UTC; ``None`` for never.

    The daily mail goes out at the next ``hour`` o'clock in ``zone`` (IANA). Raises
    :class:`~hodcarrier.core.errors.InvalidSchedule` for a zone that there is not.
    """
    if when == MailTime.NEVER:
        return None
    if when == MailTime.AT_ONCE:
        return now
    return read_recurrence("daily", f"{hour:02}:00", zone, now).next_due(now)
