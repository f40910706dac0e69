"""What a comparison says: classes, parts, lists and events."""

from __future__ import annotations

from enum import StrEnum


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
