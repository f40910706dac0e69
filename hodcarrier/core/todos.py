"""What a run says of a to-do, and when it is due by default."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

LIVE = ("open", "doing", "done")
TARGET_DAYS = {"critical": 3, "high": 10, "medium": 30, "low": 90}
NEXT_STATES = {
    "open": ("doing", "done", "dropped"),
    "doing": ("open", "done", "dropped"),
    "done": ("open", "doing", "dropped"),
    "confirmed": ("open",),
    "dropped": ("open",),
}


@dataclass(frozen=True, slots=True)
class Judgement:
    """The state a to-do has after a run, its flag, how many places are cleared, and a sentence (empty: nothing to say)."""

    state: str
    flag: str
    cleared: int
    sentence: str


def judge(state: str, outcomes: Sequence[str]) -> Judgement:
    """Judge a live to-do by what the run saw at its places: ``cleared``, ``still`` or ``unverified`` each.

    All cleared: confirmed, whoever did the work. Some still failing: a *done* one is opened again. Anything unverified and
    nothing failing: it stays as it is.
    """
    total = len(outcomes)
    cleared, still = outcomes.count("cleared"), outcomes.count("still")
    if total == 0:
        return Judgement(state, "", 0, "")
    if cleared == total:
        places = f"all {total} places" if total > 1 else "its one place"
        before = "" if state == "done" else " It had not been marked done; the audit did that."
        return Judgement("confirmed", "", cleared, f"Confirmed: {places} passed.{before}")
    if still:
        flag = f"still there on {still} of {total}"
        if state == "done":
            return Judgement("open", flag, cleared, f"Opened again: {flag}.")
        return Judgement(state, flag if cleared else "", cleared, f"{cleared} of {total} places cleared." if cleared else "")
    unverified = total - cleared
    return Judgement(
        state, f"{unverified} of {total} places unverified", cleared, f"{unverified} of {total} places could not be examined."
    )


def default_due(severity: str, today: date) -> date:
    """The due date for a severity: 3, 10, 30 or 90 working days (Monday to Friday) after ``today``."""
    return add_working_days(today, TARGET_DAYS[severity])


def add_working_days(day: date, days: int) -> date:
    """The day that lies so many working days after ``day``."""
    weeks, rest = divmod(days, 5)
    day += timedelta(weeks=weeks)
    while rest:
        day += timedelta(days=1)
        rest -= day.weekday() < 5
    while day.weekday() >= 5:
        day += timedelta(days=1)
    return day
