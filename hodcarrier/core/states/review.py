"""What a person finds when a sheet is filled in."""

from __future__ import annotations

from enum import StrEnum


class SheetOutcome(StrEnum):
    """What came of an item: nobody has looked yet, it is in order, a change is recommended, or it does not apply to this site."""

    OPEN = "open"
    PASSED = "passed"
    RECOMMENDED = "recommended"
    NOT_APPLICABLE = "not-applicable"


class SheetAsks(StrEnum):
    """What an item asks for: an outcome, or a number that is typed in."""

    OUTCOME = "outcome"
    NUMBER = "number"


class SheetDifference(StrEnum):
    """How an answer differs from the one of the last filling: there was none, it is the same, better or worse, or another number."""

    FIRST = "first"
    SAME = "same"
    BETTER = "better"
    WORSE = "worse"
    OTHER = "other"
