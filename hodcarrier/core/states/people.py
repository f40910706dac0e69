"""Members, sites and what is sent to people and programs."""

from __future__ import annotations

from enum import StrEnum


class TokenScope(StrEnum):
    """What a token is good for: reading alone, or all that its member may do."""

    READ = "read"
    ALL = "all"


class DeliveryState(StrEnum):
    """The state of a mail."""

    WAITING = "waiting"
    SENT = "sent"
    GIVEN_UP = "given up"


class MailKind(StrEnum):
    """What members are told by mail of a to-do, in the order a mail tells it."""

    MENTIONED = "mentioned"
    ASSIGNED = "assigned"
    REOPENED = "reopened"
    OVERDUE = "overdue"
    DUE_SOON = "due-soon"
    COMMENTED = "commented"
    CONFIRMED = "confirmed"


class MailTime(StrEnum):
    """When a member is told by mail: as it happens, in one mail a day, or not at all."""

    AT_ONCE = "at-once"
    DAILY = "daily"
    NEVER = "never"


class Topic(StrEnum):
    """What a webhook can be told of."""

    TODO_ADDED = "todo.added"
    TODO_CHANGED = "todo.changed"
    TODO_COMMENTED = "todo.commented"
    TODO_CONFIRMED = "todo.confirmed"
    TODO_REOPENED = "todo.reopened"
    RUN_STARTED = "run.started"
    RUN_DONE = "run.done"
    RUN_STOPPED = "run.stopped"
    RUN_FAILED = "run.failed"
    COMPARISON_READY = "comparison.ready"
    ALERT_RAISED = "alert.raised"
    ALERT_CLEARED = "alert.cleared"
    WEBHOOK_TEST = "webhook.test"


class SiteKind(StrEnum):
    """Whether a site is the client's own or one it competes with."""

    OWN = "own"
    COMPETITOR = "competitor"


class RemarkOrigin(StrEnum):
    """Who a remark is from: a member, or the service, of what it noticed at a run."""

    MEMBER = "member"
    PLAN = "plan"
    ROBOTS = "robots.txt"
    CATALOGUE = "catalogue"
    FAILED = "failed"


class Noun(StrEnum):
    """What lists are of, for those who want to know when one has changed."""

    CLIENTS = "clients"
    SITES = "sites"
    RUNS = "runs"
    TODOS = "todos"
    ALERTS = "alerts"
    WAIVERS = "waivers"
    REMARKS = "remarks"
    METRICS = "metrics"
    SHEETS = "sheets"
    PROFILES = "profiles"
    PRESETS = "presets"
    BENCHMARKS = "benchmarks"
    REPORTS = "reports"
    MEMBERS = "members"
    MAILS = "mails"
    WEBHOOKS = "webhooks"
    VIEWS = "views"


class ViewPlace(StrEnum):
    """A screen whose filters are kept under a name."""

    DESK = "desk"
    CLIENTS = "clients"
    SITES = "sites"
    TODOS = "todos"
    INVENTORY = "inventory"


class DateOrder(StrEnum):
    """How a member reads dates: 26 Nov 2026, Nov 26, 2026 or 2026-11-26."""

    DAY_FIRST = "day-first"
    MONTH_FIRST = "month-first"
    YEAR_FIRST = "year-first"
