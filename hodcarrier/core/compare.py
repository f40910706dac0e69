"""Comparing two runs of one site: every fingerprint of either falls into exactly one class.

The classes reconcile: ``findings(base) − fixed − gone − unverified − waived_now + new (all kinds) + returned +
waived_before = findings(head)``, where both counts leave waived findings out.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

CLASSES = {
    "still-there": "in both runs",
    "new": "in the later run only; the earlier one examined the same place and it passed",
    "new-with-page": "in the later run only; the earlier one did not have the page",
    "new-to-view": "in the later run only; the earlier one could not examine it",
    "returned": "was fixed once and is back",
    "fixed": "the same place was examined again and passed",
    "gone-with-page": "the page itself is gone, redirects, or is linked no more",
    "unverified": "the later run could not examine the place",
    "waived": "covered by a waiver in the later run",
    "waiver-ended": "was covered by a waiver in the earlier run and is not any more",
}
NEW_CLASSES = ("new", "new-with-page", "new-to-view")


@dataclass(frozen=True, slots=True)
class Sight:
    """What one run can say about one (check, subject, place).

    ``found``: a finding is there (``waived``: under a waiver). ``known``: the run has the subject at all. ``examined``:
    the check looked at this place. ``gone``: the subject answers 404/410, redirects, or is linked and listed nowhere.
    """

    found: bool
    waived: bool = False
    known: bool = True
    examined: bool = True
    gone: bool = False


def classify(base: Sight, head: Sight, passed_before: bool) -> str:
    """The class of a fingerprint. ``passed_before``: it was found in a run before the base and passed in a later one."""
    if not base.found and not head.found:
        raise ValueError("the fingerprint is in neither run")
    if head.found and head.waived:
        return "waived"
    if base.found and head.found:
        return "waiver-ended" if base.waived else "still-there"
    if head.found:
        return _class_of_new(base, passed_before)
    if base.waived:
        return "waived"
    if head.gone:
        return "gone-with-page"
    return "fixed" if head.known and head.examined else "unverified"


def _class_of_new(base: Sight, passed_before: bool) -> str:
    if passed_before:
        return "returned"
    if not base.known:
        return "new-with-page"
    return "new" if base.examined else "new-to-view"


@dataclass(frozen=True, slots=True)
class Balance:
    """The counts of a comparison, and whether they reconcile."""

    base_findings: int
    head_findings: int
    waived_now: int
    counts: Mapping[str, int]

    @property
    def reconciles(self) -> bool:
        """``waived_now`` counts findings open in the base that a waiver covers in the head."""
        count = self.counts.get
        left = self.base_findings - count("fixed", 0) - count("gone-with-page", 0) - count("unverified", 0) - self.waived_now
        gained = sum(count(name, 0) for name in NEW_CLASSES) + count("returned", 0) + count("waiver-ended", 0)
        return left + gained == self.head_findings


def history_state(found: bool, gone: bool, examined: bool, before: str) -> str:
    """The state a fingerprint is carried forward with: ``open``, ``passed``, ``gone`` or ``unverified``.

    A finding that could not be examined keeps what was last known of it when that was ``passed``.
    """
    if found:
        return "open"
    if gone:
        return "gone" if before != "passed" else "passed"
    if examined:
        return "passed"
    return "passed" if before == "passed" else "unverified"
