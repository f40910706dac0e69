"""The closed sets of values that records carry: severities, areas, states, purposes. Each is spelled out here and nowhere else."""

from __future__ import annotations

from enum import StrEnum


class Severity(StrEnum):
    """How much a failing check costs, the worst first."""

    CRITICAL = "critical"
    HIGH = "high"
    MEDIUM = "medium"
    LOW = "low"


class Effort(StrEnum):
    """How much work one fix takes, the least first."""

    SMALL = "small"
    MEDIUM = "medium"
    LARGE = "large"


class CheckOutcome(StrEnum):
    """What became of a check in a run. ``not-applicable``: it had nothing to look at, so it has not passed."""

    FAILING = "failing"
    WAIVED = "waived"
    UNVERIFIED = "unverified"
    PASSED = "passed"
    NOT_APPLICABLE = "not-applicable"
    OFF = "off"


class Area(StrEnum):
    """A group of checks; the folder that they lie in."""

    REACH = "reach"
    INDEX = "index"
    FILES = "files"
    TITLES = "titles"
    COPIES = "copies"
    TEXT = "text"
    LINKS = "links"
    MEDIA = "media"
    SPEED = "speed"
    SECURE = "secure"
    LANG = "lang"
    DATA = "data"
    SHARE = "share"
    MOBILE = "mobile"
    MARKUP = "markup"
    TRUST = "trust"


class Subject(StrEnum):
    """What a check looks at."""

    PAGE = "page"
    FILE = "file"
    SITE = "site"
    GROUP = "group"


class RunState(StrEnum):
    """The state of a run, in the order it goes through them."""

    QUEUED = "queued"
    CRAWLING = "crawling"
    EXAMINING = "examining"
    DONE = "done"
    STOPPED = "stopped"
    FAILED = "failed"


ACTIVE_RUN = (RunState.QUEUED, RunState.CRAWLING, RunState.EXAMINING)
CLAIMED_RUN = (RunState.CRAWLING, RunState.EXAMINING)


class RunPurpose(StrEnum):
    """What a run is for: an audit of a client's site, one site's part of a benchmark round, or to judge anew what another run has fetched."""

    AUDIT = "audit"
    BENCHMARK = "benchmark"
    RE_EXAMINATION = "re-examination"


class SourceDocument(StrEnum):
    """In what a finding stands: the source of its page, the headers of the answer, or robots.txt."""

    PAGE = "page"
    HEADERS = "headers"
    ROBOTS = "robots.txt"


class FileState(StrEnum):
    """What became of a run's file: kept, removed by the rule of retention, or found to be damaged and set aside."""

    KEPT = "kept"
    REMOVED = "removed"
    DAMAGED = "damaged"


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


class Seen(StrEnum):
    """What one run saw of a place: a finding, one under a waiver, that it passes, that its page is not there, or nothing it can speak of."""

    OPEN = "open"
    WAIVED = "waived"
    PASSED = "passed"
    GONE = "gone"
    UNVERIFIED = "unverified"


class Change(StrEnum):
    """The class of a finding in a comparison, in the order they are shown."""

    NEW = "new"
    NEW_WITH_PAGE = "new-with-page"
    NEW_TO_VIEW = "new-to-view"
    RETURNED = "returned"
    FIXED = "fixed"
    GONE_WITH_PAGE = "gone-with-page"
    UNVERIFIED = "unverified"
    CHECK_CHANGED = "check-changed"
    WAIVER_ENDED = "waiver-ended"
    WAIVED = "waived"
    STILL_THERE = "still-there"


NEW_CHANGES = (Change.NEW, Change.NEW_WITH_PAGE, Change.NEW_TO_VIEW)


class LineChange(StrEnum):
    """What became of a line between two versions of a file."""

    SAME = "same"
    ADDED = "added"
    REMOVED = "removed"


class PartKind(StrEnum):
    """By what the findings of a comparison are taken together, checks apart."""

    CAUSE = "cause"
    PAGE = "page"
    FOLDER = "folder"
    TEMPLATE = "template"


class ComparedList(StrEnum):
    """Lists of URLs that a comparison gives: pages and files that are new or gone, pages newly blocked, sitemap entries that came or went."""

    APPEARED = "appeared"
    GONE = "gone"
    BLOCKED = "blocked"
    LISTED = "listed"
    UNLISTED = "unlisted"
    FILES_APPEARED = "files-appeared"
    FILES_GONE = "files-gone"


class EventKind(StrEnum):
    """What kind of thing happened between two runs of a site."""

    BLOCKED = "blocked"
    FREED = "freed"
    BROKEN = "broken"
    FAILING = "failing"
    RECOVERED = "recovered"
    MOVED = "moved"
    DEINDEXED = "deindexed"
    REINDEXED = "reindexed"
    APPEARED = "appeared"
    GONE = "gone"
    UNREACHED = "unreached"
    REACHED = "reached"
    TEMPLATE = "template"
    WORSE = "worse"
    RETURNED = "returned"
    FIXED = "fixed"
    ENDED = "ended"
    UNVERIFIED = "unverified"
    JUDGING = "judging"
    WAIVED = "waived"
    WAIVER_ENDED = "waiver-ended"
    EDITED = "edited"
    OTHER = "other"


class RemarkOrigin(StrEnum):
    """Who a remark is from: a member, or the service, of what it noticed at a run."""

    MEMBER = "member"
    PLAN = "plan"
    ROBOTS = "robots.txt"
    CATALOGUE = "catalogue"
    FAILED = "failed"


class DateOrder(StrEnum):
    """How a member reads dates: 26 Nov 2026, Nov 26, 2026 or 2026-11-26."""

    DAY_FIRST = "day-first"
    MONTH_FIRST = "month-first"
    YEAR_FIRST = "year-first"


class AddressRole(StrEnum):
    """What a URL is to a site: a page of it, a file that its pages need, or something of another site."""

    PAGE = "page"
    FILE = "file"
    EXTERNAL = "external"


class AddressState(StrEnum):
    """What a run did with a URL."""

    QUEUED = "queued"
    DONE = "done"
    DISALLOWED = "disallowed"
    SKIPPED = "skipped"


class WhyNot(StrEnum):
    """Why a page cannot be indexed; empty when it can."""

    INDEXABLE = ""
    DISALLOWED = "disallowed"
    LEFT_OUT = "left-out"
    NOT_REACHED = "not-reached"
    NO_ANSWER = "no-answer"
    REDIRECT = "redirect"
    REFRESH = "refresh"
    ERROR = "error"
    NOT_HTML = "not-html"
    NOINDEX = "noindex"
    CANONICAL_ELSEWHERE = "canonical-elsewhere"


class ExportForm(StrEnum):
    """What a run is exported as: its findings in one of three forms, or its whole file."""

    CSV = "csv"
    JSON = "json"
    SARIF = "sarif"
    FILE = "file"


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
