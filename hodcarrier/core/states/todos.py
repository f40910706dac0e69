"""To-dos and their places."""

from __future__ import annotations

from enum import StrEnum


class TodoState(StrEnum):
    """The state of a to-do."""

    OPEN = "open"
    DOING = "doing"
    DONE = "done"
    CONFIRMED = "confirmed"
    DROPPED = "dropped"


LIVE_TODO = (TodoState.OPEN, TodoState.DOING, TodoState.DONE)
UNFINISHED_TODO = (TodoState.OPEN, TodoState.DOING)


class Priority(StrEnum):
    """How soon a to-do is wanted, by those who hand it out; its severity says how much it matters to the site."""

    URGENT = "urgent"
    HIGH = "high"
    NORMAL = "normal"
    LOW = "low"


class TodoPer(StrEnum):
    """What one to-do is made for, of several."""

    ALL = "all"
    CHECK = "check"
    CAUSE = "cause"
    PAGE = "page"
    TEMPLATE = "template"


class DueSpan(StrEnum):
    """When a to-do is due, seen from today; weeks begin on Monday."""

    OVERDUE = "overdue"
    THIS_WEEK = "this-week"
    NEXT_WEEK = "next-week"
    LATER = "later"
    UNDATED = "undated"


class TodoOrder(StrEnum):
    """What to-dos are sorted by."""

    DUE = "due"
    SEVERITY = "severity"
    TITLE = "title"
    STATE = "state"
    ASSIGNEE = "assignee"
    CLEARED = "cleared"
    PRIORITY = "priority"
    GAIN = "gain"
    CREATED = "created"


class Approval(StrEnum):
    """Whether a client has agreed to a to-do: nobody asked, asked, or agreed."""

    NONE = ""
    WAITING = "waiting"
    GIVEN = "given"


class PlaceOutcome(StrEnum):
    """What the last run said of one place of a to-do."""

    STILL = "still"
    CLEARED = "cleared"
    UNVERIFIED = "unverified"


class TodoEventKind(StrEnum):
    """What happened to a to-do."""

    MADE = "made"
    STATE = "state"
    ASSIGNED = "assigned"
    DUE = "due"
    COMMENT = "comment"
    RUN = "run"
    CHANGED = "changed"
    CHECKED = "checked"
