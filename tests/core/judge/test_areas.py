"""What must be seen of a page for an area to speak of it, and when two runs can be compared."""

import pytest

from hodcarrier.core.judge.areas import Seen, comparable, least_seen, seen_of
from hodcarrier.core.states import Area
from hodcarrier.core.words import difference


@pytest.mark.parametrize(
    ("blocked", "status", "document", "indexable", "seen"),
    [
        (True, None, False, True, Seen.BLOCKED),
        (False, None, False, True, Seen.NO_ANSWER),
        (False, 404, False, False, Seen.ANSWER),
        (False, 500, True, False, Seen.DOCUMENT),
        (False, 200, True, False, Seen.DOCUMENT),
        (False, 200, True, True, Seen.INDEXABLE),
    ],
)
def test_how_much_was_seen(blocked: bool, status: int | None, document: bool, indexable: bool, seen: Seen) -> None:
    assert seen_of(blocked, status, document, indexable) == seen


def test_the_least_demanding_check_of_an_area_decides() -> None:
    found = least_seen(
        [
            (Area.TITLES, "page", "document"),
            (Area.REACH, "page", "document"),
            (Area.REACH, "page", "answer"),
            (Area.REACH, "site", "address"),
            (Area.SPEED, "file", "address"),
            (Area.COPIES, "group", "document"),
        ]
    )
    assert found == {
        Area.TITLES: Seen.DOCUMENT,
        Area.REACH: Seen.ANSWER,
        Area.SPEED: Seen.DOCUMENT,
        Area.COPIES: Seen.DOCUMENT,
    }


def test_indexing_alone_speaks_of_blocked_pages() -> None:
    found = least_seen([(Area.INDEX, "page", "document"), (Area.REACH, "page", "address")])
    assert found == {Area.INDEX: Seen.BLOCKED, Area.REACH: Seen.NO_ANSWER}


@pytest.mark.parametrize(
    ("base", "head", "both", "expected"),
    [
        (100, 100, 100, True),
        (100, 100, 50, True),
        (100, 100, 49, False),
        (100, 300, 100, False),
        (0, 0, 0, False),
        (10, 0, 0, False),
    ],
)
def test_two_runs_that_share_half_of_the_pages_are_compared(base: int, head: int, both: int, expected: bool) -> None:
    assert comparable(base, head, both) is expected


def test_a_difference_is_that_of_the_figures_shown() -> None:
    assert difference(78.94, 21.66) == -57.2
    assert difference(50.04, 50.06) == 0.1
    assert difference(50.01, 50.04) == 0.0
