"""Which pages an area of checks can speak of, and whether two runs examined enough of the same pages to be compared.

What was not examined never counts as good: an area's score is over the pages on which at least one of its checks was examined.
"""

from __future__ import annotations

from collections.abc import Iterable
from enum import IntEnum

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.states import Area

Levels = NDArray[np.int8]
Flags = NDArray[np.bool_]
# Two runs are compared when they share at least this part of the pages of the larger one.
SHARED_MIN = 0.5


class Seen(IntEnum):
    """How much of a page a run has seen, the least first."""

    BLOCKED = 0
    NO_ANSWER = 1
    ANSWER = 2
    DOCUMENT = 3
    INDEXABLE = 4


_OF_REACH = {"address": Seen.NO_ANSWER, "answer": Seen.ANSWER, "document": Seen.DOCUMENT, "indexable": Seen.INDEXABLE}


def seen_of(blocked: bool, status: int | None, document: bool, indexable: bool) -> Seen:
    """How much was seen of a scored page; ``document``: it answered 200 with HTML that was read whole, ``indexable``: and may be indexed."""
    if blocked:
        return Seen.BLOCKED
    if status is None:
        return Seen.NO_ANSWER
    if not document:
        return Seen.ANSWER
    return Seen.INDEXABLE if indexable else Seen.DOCUMENT


def least_seen(checks: Iterable[tuple[Area, str, str]]) -> dict[Area, Seen]:
    """For every area, what must be seen of a page for one of its checks to be examined.

    ``checks`` are the area, subject and reach of those that are on. A page that robots.txt blocks since it was scored is lost
    in indexing, once, and no other area speaks of it.
    """
    found: dict[Area, Seen] = {}
    for area, subject, reach in checks:
        level = _OF_REACH[reach] if subject in ("page", "group") else Seen.DOCUMENT
        found[area] = min(level, found.get(area, level))
    return {area: Seen.BLOCKED if area == Area.INDEX else level for area, level in found.items()}


def examined_by(area: Area, least: Seen, seen: Levels, secure: Flags) -> Flags:
    """Of pages of which so much was ``seen`` (:class:`Seen`), which an area speaks of. Of a page over http the checks of HTTPS have
    nothing to examine (``secure``: over https)."""
    enough: Flags = seen >= int(least)
    return enough & secure if area == Area.SECURE else enough


def comparable(pages_base: int, pages_head: int, pages: int) -> bool:
    """Whether two runs of so many pages that share ``pages`` of them can be compared by a score."""
    return pages > 0 and pages >= SHARED_MIN * max(pages_base, pages_head)
