"""When the next run is due: recurrence rules (RFC 5545) in a site's time zone.

``now`` is always an argument. A wall time that the clocks skip is taken an hour later (as RFC 5545, 3.3.5 reads it); one
that happens twice means the first.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from dateutil.rrule import rrulestr

from hodcarrier.core.errors import InvalidSchedule

DAYS = ("MO", "TU", "WE", "TH", "FR", "SA", "SU")
DAY_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


@dataclass(frozen=True, slots=True)
class Recurrence:
    """An RRULE text, the wall time of day, and the zone both are meant in. ``anchor`` (UTC) is where counting starts."""

    rule: str
    at: time
    zone: str
    anchor: datetime

    def next_due(self, now: datetime, blackout: Collection[date] = ()) -> datetime | None:
        """The first due moment after ``now`` (aware), in UTC, that is on none of the days of ``blackout`` in the recurrence's zone; ``None`` when it
        has come to its end."""
        after: datetime | None = now
        for _ in range(len(blackout) + 1):
            after = self._after(after) if after is not None else None
            if after is None or after.astimezone(ZoneInfo(self.zone)).date() not in blackout:
                return after
        return after

    def _after(self, now: datetime) -> datetime | None:
        zone = ZoneInfo(self.zone)
        start = datetime.combine(self.anchor.astimezone(zone).date(), self.at)
        rule = rrulestr(self.rule, dtstart=start)
        wall = now.astimezone(zone).replace(tzinfo=None) - timedelta(days=1)
        for _ in range(64):
            wall_next = rule.after(wall)
            if wall_next is None:
                return None
            due = _to_utc(wall_next, zone)
            if due > now:
                return due
            wall = wall_next
        return None

    @property
    def words(self) -> str:
        """The recurrence for a reader: "every Tuesday at 02:00 (Europe/London)"."""
        parts = dict(item.split("=", 1) for item in self.rule.split(";") if "=" in item)
        every = int(parts.get("INTERVAL", "1"))
        unit = {"DAILY": "day", "WEEKLY": "week", "MONTHLY": "month", "YEARLY": "year"}.get(parts.get("FREQ", ""), "time")
        days = [_day_words(d) for d in parts["BYDAY"].split(",")] if parts.get("BYDAY") else []
        what = f"every {unit}" if every == 1 else f"every {every} {unit}s"
        if parts.get("FREQ") == "WEEKLY" and days and every == 1:
            what = "every " + _listed(days)
        elif days:
            what += " on " + _listed([d if " " not in d else f"the {d}" for d in days])
        elif "BYMONTHDAY" in parts:
            numbers = [int(d) for d in parts["BYMONTHDAY"].split(",")]
            what += " on " + _listed(["the last day" if n == -1 else f"day {n}" for n in numbers])
        told = {"FREQ", "INTERVAL", "BYDAY", "BYMONTHDAY"}
        rest = ";".join(f"{name}={value}" for name, value in parts.items() if name not in told)
        return f"{what} at {self.at:%H:%M} ({self.zone})" + (f", {rest}" if rest else "")


_ORDINALS = {1: "first", 2: "second", 3: "third", 4: "fourth", 5: "fifth", -1: "last", -2: "second last"}


def _day_words(text: str) -> str:
    """A BYDAY value (RFC 5545, 3.3.10) in words: ``TU`` is Tuesday, ``1MO`` the first Monday."""
    name = DAY_NAMES[DAYS.index(text[-2:])]
    return f"{_ORDINALS.get(int(text[:-2]), text[:-2])} {name}" if text[:-2] else name


def _listed(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"


def _to_utc(wall: datetime, zone: ZoneInfo) -> datetime:
    first = wall.replace(tzinfo=zone, fold=0)
    return first.astimezone(UTC)


def spread_starts(first: time, last: time, count: int) -> list[time]:
    """So many times of day at even distances, the first and the last among them, to whole minutes. Raises :class:`InvalidSchedule` when the last
    comes before the first."""
    begins, ends = (each.hour * 60 + each.minute for each in (first, last))
    if ends < begins:
        raise InvalidSchedule(
            f"{last:%H:%M} comes before {first:%H:%M}.", "Let the starts be spread between two times of one day.", "until"
        )
    steps = [begins + (ends - begins) * number // max(1, count - 1) for number in range(count)]
    return [time(minute // 60, minute % 60) for minute in steps]


def read_time(text: str, field: str) -> time:
    """A time of day from ``HH:MM``. Raises :class:`InvalidSchedule` naming the field."""
    try:
        return time.fromisoformat(text).replace(second=0, microsecond=0, tzinfo=None)
    except ValueError:
        raise InvalidSchedule(f"“{text}” is not a time of day.", "Give it as HH:MM, such as 02:00.", field) from None


def read_recurrence(rule: str, at: str, zone: str, anchor: datetime) -> Recurrence:
    """A recurrence from texts. ``rule`` is an RRULE, or ``daily``, ``weekly:TU`` (or ``weekly:tuesday``) and ``monthly:1`` for short.

    Raises :class:`InvalidSchedule` naming the part that cannot be read.
    """
    text = _expand(rule.strip())
    moment = read_time(at, "at")
    try:
        ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise InvalidSchedule(f"“{zone}” is no time zone.", "Give one such as Europe/London.", "zone") from None
    parts = dict(item.split("=", 1) for item in text.split(";") if "=" in item)
    if not _can_be_kept(parts):
        raise InvalidSchedule(
            f"“{rule}” is not a recurrence we can keep.",
            "Give daily, weekly:tuesday, monthly:1 or an RRULE (RFC 5545) of a day or longer.",
            "rule",
        )
    try:
        rrulestr(text, dtstart=datetime.combine(anchor.date(), moment))
    except (ValueError, TypeError, AttributeError, KeyError, IndexError):
        raise InvalidSchedule(f"“{rule}” is not a recurrence rule.", "Give one such as weekly:tuesday.", "rule") from None
    return Recurrence(text, moment, zone, anchor)


# The parts of a rule that each frequency takes (RFC 5545, 3.3.10), so that a rule which names no day at all is found out at once: the search for
# the next day of a daily "31 April" would go on for eight thousand years.
_ALWAYS = frozenset({"FREQ", "INTERVAL", "COUNT", "UNTIL", "WKST", "BYDAY"})
_PARTS = {
    "DAILY": _ALWAYS,
    "WEEKLY": _ALWAYS,
    "MONTHLY": _ALWAYS | {"BYMONTHDAY", "BYSETPOS"},
    "YEARLY": _ALWAYS | {"BYMONTHDAY", "BYMONTH"},
}
_NUMBER = re.compile(r"[+-]?[0-9]{1,4}")
_DAY = re.compile(r"([+-]?[1-5])?(MO|TU|WE|TH|FR|SA|SU)")


def _can_be_kept(parts: Mapping[str, str]) -> bool:
    frequency = parts.get("FREQ", "")
    if not set(parts) <= _PARTS.get(frequency, frozenset()):
        return False
    days = [_DAY.fullmatch(day) for day in parts["BYDAY"].split(",")] if "BYDAY" in parts else []
    ordinals = [day for day in days if day is not None and day.group(1)]
    if None in days or (ordinals and (frequency in ("DAILY", "WEEKLY") or "BYMONTHDAY" in parts or "BYSETPOS" in parts)):
        return False
    # Every weekday comes four times in a month, so there are always so many to choose from.
    most = {"INTERVAL": (1, 1000), "BYMONTH": (1, 12), "BYMONTHDAY": (-31, 31), "BYSETPOS": (-4 * len(days), 4 * len(days))}
    for name, (low, high) in most.items():
        if name in parts and not all(
            _NUMBER.fullmatch(each) and low <= int(each) <= high and int(each) != 0 for each in parts[name].split(",")
        ):
            return False
    return True


def short_rule(rule: str) -> str:
    """The shorthand of a rule where it has one (``weekly:TU``), else the rule."""
    for short in (_shorthand(rule), rule):
        if short and _expand(short) == rule:
            return short
    return rule


def _shorthand(rule: str) -> str:
    parts = dict(item.split("=", 1) for item in rule.split(";") if "=" in item)
    word = parts.get("FREQ", "").lower()
    rest = parts.get("BYDAY") or parts.get("BYMONTHDAY") or ""
    return f"{word}:{rest}" if rest else word


def _day_code(text: str) -> str:
    """``Tuesday`` and ``tue`` are ``TU``; what is no day stays for the reader of rules to refuse."""
    word = text.strip().lower()
    return next((c for c, name in zip(DAYS, DAY_NAMES, strict=True) if word in (name.lower(), name[:3].lower())), word.upper())


def _expand(rule: str) -> str:
    word, _, rest = rule.partition(":")
    kind = word.lower()
    if kind == "daily" and not rest:
        return "FREQ=DAILY"
    if kind == "weekly":
        return "FREQ=WEEKLY" + (f";BYDAY={','.join(map(_day_code, rest.split(',')))}" if rest else "")
    if kind == "monthly":
        return "FREQ=MONTHLY" + (f";BYMONTHDAY={rest}" if rest else "")
    return rule.upper().removeprefix("RRULE:")
