"""Events: what happened between two runs of a site. Findings and page changes with one cause are one event.

What became of a page explains everything that is found on it or on links to it; what is left is told by template or by check.
"""

from __future__ import annotations

from dataclasses import dataclass

from hodcarrier.core.states import Change, EventKind, WhyNot

MISSING = (404, 410)
_UNREACHED = (WhyNot.NOT_REACHED, WhyNot.LEFT_OUT)
_REDIRECTS = (WhyNot.REDIRECT, WhyNot.REFRESH)
_FAULTY = (WhyNot.ERROR, WhyNot.NO_ANSWER)

# The event of a finding that no page's fate explains, by its class.
KIND_OF_CHANGE: dict[Change, EventKind] = {
    Change.NEW: EventKind.WORSE,
    Change.NEW_WITH_PAGE: EventKind.WORSE,
    Change.NEW_TO_VIEW: EventKind.WORSE,
    Change.RETURNED: EventKind.RETURNED,
    Change.FIXED: EventKind.FIXED,
    Change.GONE_WITH_PAGE: EventKind.ENDED,
    Change.UNVERIFIED: EventKind.UNVERIFIED,
    Change.CHECK_CHANGED: EventKind.JUDGING,
    Change.WAIVER_ENDED: EventKind.WAIVER_ENDED,
    Change.WAIVED: EventKind.WAIVED,
}
# These are told as they are, whatever became of the page.
ON_PURPOSE = (EventKind.JUDGING, EventKind.WAIVER_ENDED, EventKind.WAIVED)


@dataclass(frozen=True, slots=True)
class Outcome:
    """What a run says of a page: why it cannot be indexed (a :class:`~hodcarrier.core.facts.indexable.WhyNot`), and its status."""

    why_not: str
    status: int | None = None


@dataclass(frozen=True, slots=True)
class Fate:
    """What became of a page: the kind of event, and in which way (a reason, or a status; empty when there is but one)."""

    kind: EventKind
    way: str = ""


def fate(before: Outcome | None, after: Outcome | None, base_whole: bool = True, head_whole: bool = True) -> Fate | None:
    """What became of a page; ``None`` when it is as it was.

    ``None`` for an outcome: the run does not know the page. ``base_whole`` and ``head_whole`` say whether a page that the run does not know
    was certainly not there.
    """
    if after is None or after.why_not in _UNREACHED:
        if before is None or before.why_not in _UNREACHED:
            return None
        if after is None and head_whole:
            return Fate(EventKind.GONE, _faulty(before).way if before.why_not in _FAULTY else "")
        return Fate(EventKind.UNREACHED, after.why_not if after else "")
    if before is None or before.why_not in _UNREACHED:
        return _first_seen(after, before is None and base_whole)
    old, new = before.why_not, after.why_not
    if old == new and (new != WhyNot.ERROR or _class(before.status) == _class(after.status)):
        return None
    if new == WhyNot.DISALLOWED:
        return Fate(EventKind.BLOCKED)
    if old == WhyNot.DISALLOWED:
        return Fate(EventKind.FREED)
    if new in _FAULTY:
        return _faulty(after)
    if old in _FAULTY or old in _REDIRECTS:
        return Fate(EventKind.RECOVERED, WhyNot.REDIRECT if old in _REDIRECTS else WhyNot.ERROR)
    if new in _REDIRECTS:
        return Fate(EventKind.MOVED)
    return Fate(EventKind.REINDEXED, old) if new == WhyNot.INDEXABLE else Fate(EventKind.DEINDEXED, new)


def _first_seen(after: Outcome, appeared: bool) -> Fate:
    if not appeared:
        return Fate(EventKind.REACHED)
    return _faulty(after) if after.why_not in _FAULTY else Fate(EventKind.APPEARED)


def _faulty(after: Outcome) -> Fate:
    if after.status in MISSING:
        return Fate(EventKind.BROKEN, str(after.status))
    return Fate(EventKind.FAILING, f"{_class(after.status)}xx" if after.status else "")


def _class(status: int | None) -> str:
    return "missing" if status in MISSING else str(status)[:1]
