"""What a run says of a to-do, and when it is due by default."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np

from hodcarrier.core.states import PlaceOutcome, Severity, TodoState

TARGET_DAYS = {Severity.CRITICAL: 3, Severity.HIGH: 10, Severity.MEDIUM: 30, Severity.LOW: 90}
# How the sentence begins that tells of a to-do that a run has opened again, or confirmed.
REOPENED = "Opened again"
CONFIRMED = "Confirmed"
NEXT_STATES = {
    TodoState.OPEN: (TodoState.DOING, TodoState.DONE, TodoState.DROPPED),
    TodoState.DOING: (TodoState.OPEN, TodoState.DONE, TodoState.DROPPED),
    TodoState.DONE: (TodoState.OPEN, TodoState.DOING, TodoState.DROPPED),
    TodoState.CONFIRMED: (TodoState.OPEN,),
    TodoState.DROPPED: (TodoState.OPEN,),
}


@dataclass(frozen=True, slots=True)
class Judgement:
    """The state a to-do has after a run, its flag, how many places are cleared, and a sentence (empty: nothing to say)."""

    state: TodoState
    flag: str
    cleared: int
    sentence: str


def judge(state: TodoState, outcomes: Sequence[PlaceOutcome], changed: int = 0) -> Judgement:
    """Judge a to-do by what the run saw at its places. ``changed`` of the unverified ones are so because their check changed.

    All cleared: confirmed, whoever did the work. Some still failing: a *done* or *confirmed* one is opened again. Anything
    unverified and nothing failing: it stays as it is.
    """
    total = len(outcomes)
    cleared, still = outcomes.count(PlaceOutcome.CLEARED), outcomes.count(PlaceOutcome.STILL)
    if state == TodoState.CONFIRMED:
        if not still:
            return Judgement(state, "", cleared, "")
        places = f"on {still} of {total} places" if total > 1 else "in its one place"
        return Judgement(TodoState.OPEN, f"back {places}", cleared, f"{REOPENED}: the findings are back {places}.")
    if total == 0:
        return Judgement(state, "", 0, "")
    if cleared == total:
        places = f"all {total} places" if total > 1 else "its one place"
        before = "" if state == TodoState.DONE else " It had not been marked done; the audit did that."
        return Judgement(TodoState.CONFIRMED, "", cleared, f"{CONFIRMED}: {places} passed.{before}")
    if still:
        flag = f"still there on {still} of {total}"
        if state == TodoState.DONE:
            return Judgement(TodoState.OPEN, flag, cleared, f"{REOPENED}: {flag}.")
        return Judgement(state, flag if cleared else "", cleared, f"{cleared} of {total} places cleared." if cleared else "")
    unverified = total - cleared
    flag, sentence = f"{unverified} of {total} places unverified", f"{unverified} of {total} places could not be examined."
    if changed:
        flag += ", the check changed"
        sentence = (
            f"{changed} of {total} places cannot be confirmed: the check has changed since they were found."
            " Check them, and drop the to-do with that reason if nothing is wrong."
        )
    return Judgement(state, flag, cleared, sentence)


def turn_of(before: TodoState, after: TodoState) -> TodoState | None:
    """What a judgement has made of a to-do that people are told of: *confirmed*, or *open* again; ``None`` when neither."""
    if after == TodoState.CONFIRMED != before:
        return TodoState.CONFIRMED
    return TodoState.OPEN if after == TodoState.OPEN and before in (TodoState.DONE, TodoState.CONFIRMED) else None


def default_due(
    severity: Severity, today: date, holidays: Sequence[date] = (), targets: Mapping[Severity, int] = TARGET_DAYS
) -> date:
    """The due date for a severity: as many working days after ``today`` as the target says; 3, 10, 30 or 90 where there is none."""
    return add_working_days(today, targets.get(severity, TARGET_DAYS[severity]), holidays)


def is_due_soon(due: date, today: date, holidays: Sequence[date] = ()) -> bool:
    """Whether a due date is not past and one working day away at most."""
    return today <= due <= add_working_days(today, 1, holidays)


def spread(weights: Sequence[float], people: Sequence[int], busy: Mapping[int, float]) -> list[int]:
    """Who of ``people`` does which piece of work: the heaviest first, each to whoever has least by then; ``busy`` is what everyone has already.

    This is the rule of longest processing time first (R. L. Graham, 1969). Of equals the one named first is taken. Raises ``ValueError``
    without people.
    """
    if not people:
        raise ValueError("nobody to do it")
    load = {person: busy.get(person, 0.0) for person in people}
    given = [0] * len(weights)
    for place in sorted(range(len(weights)), key=lambda at: (-weights[at], at)):
        person = min(people, key=lambda each: load[each])
        given[place] = person
        load[person] += weights[place]
    return given


def last_working_day(day: date) -> date:
    """The working day (Monday to Friday) before a day."""
    found: date = np.busday_offset(np.datetime64(day - timedelta(days=1)), 0, roll="backward").astype(object)
    return found


def add_working_days(day: date, days: int, holidays: Sequence[date] = ()) -> date:
    """The day that lies so many working days (Monday to Friday, ``holidays`` left out) after ``day``.

    A day that is none itself, such as a Saturday, counts like the last working day before it: one working day after it is Monday.
    """
    found = np.busday_offset(np.datetime64(day), days, roll="backward", holidays=np.array(holidays, dtype="datetime64[D]"))
    result: date = found.astype(object)
    return result
