"""What became of pages between two runs."""

import pytest

from hodcarrier.core.judge.events import KIND_OF_CHANGE, Fate, Outcome, fate
from hodcarrier.core.states import Change, EventKind

FINE = Outcome("", 200)
LOST = Outcome("error", 404)
LATE = Outcome("error", 503)
SILENT = Outcome("no-answer")
BLOCKED = Outcome("disallowed")
QUEUED = Outcome("not-reached")
LEFT = Outcome("left-out")
NOINDEX = Outcome("noindex", 200)
ELSEWHERE = Outcome("canonical-elsewhere", 200)
REDIRECT = Outcome("redirect", 301)


@pytest.mark.parametrize(
    ("before", "after", "expected"),
    [
        (FINE, FINE, None),
        (FINE, BLOCKED, Fate(EventKind.BLOCKED)),
        (LOST, BLOCKED, Fate(EventKind.BLOCKED)),
        (BLOCKED, FINE, Fate(EventKind.FREED)),
        (BLOCKED, LOST, Fate(EventKind.FREED)),
        (BLOCKED, BLOCKED, None),
        (FINE, LOST, Fate(EventKind.BROKEN, "404")),
        (FINE, Outcome("error", 410), Fate(EventKind.BROKEN, "410")),
        (LOST, Outcome("error", 410), None),
        (FINE, LATE, Fate(EventKind.FAILING, "5xx")),
        (FINE, Outcome("error", 403), Fate(EventKind.FAILING, "4xx")),
        (LATE, LOST, Fate(EventKind.BROKEN, "404")),
        (FINE, SILENT, Fate(EventKind.FAILING)),
        (LOST, FINE, Fate(EventKind.RECOVERED, "error")),
        (SILENT, NOINDEX, Fate(EventKind.RECOVERED, "error")),
        (REDIRECT, FINE, Fate(EventKind.RECOVERED, "redirect")),
        (FINE, REDIRECT, Fate(EventKind.MOVED)),
        (LOST, REDIRECT, Fate(EventKind.RECOVERED, "error")),
        (FINE, NOINDEX, Fate(EventKind.DEINDEXED, "noindex")),
        (NOINDEX, ELSEWHERE, Fate(EventKind.DEINDEXED, "canonical-elsewhere")),
        (ELSEWHERE, FINE, Fate(EventKind.REINDEXED, "canonical-elsewhere")),
        (None, FINE, Fate(EventKind.APPEARED)),
        (None, LOST, Fate(EventKind.BROKEN, "404")),
        (QUEUED, FINE, Fate(EventKind.REACHED)),
        (FINE, None, Fate(EventKind.GONE)),
        (LOST, None, Fate(EventKind.GONE, "404")),
        (FINE, QUEUED, Fate(EventKind.UNREACHED, "not-reached")),
        (FINE, LEFT, Fate(EventKind.UNREACHED, "left-out")),
        (QUEUED, LEFT, None),
        (None, QUEUED, None),
    ],
)
def test_fates(before: Outcome | None, after: Outcome | None, expected: Fate | None) -> None:
    assert fate(before, after) == expected


def test_a_run_that_saw_less_does_not_know_whether_a_page_is_new_or_gone() -> None:
    assert fate(None, FINE, base_whole=False) == Fate(EventKind.REACHED)
    assert fate(FINE, None, head_whole=False) == Fate(EventKind.UNREACHED)


def test_every_class_that_differs_has_an_event() -> None:
    assert set(KIND_OF_CHANGE) == set(Change) - {Change.STILL_THERE}
