"""Comparing two runs of one site: every fingerprint of either falls into exactly one class.

The classes reconcile: ``findings(base) − fixed − gone − unverified − changed checks(base) − waived_now + new (all kinds) +
returned + changed checks(head) + waiver ended = findings(head)``, where both counts leave waived findings out.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from hodcarrier.core.states import NEW_CHANGES, Change

CLASSES: dict[Change, str] = {
    Change.STILL_THERE: "in both runs",
    Change.NEW: "in the later run only; the earlier one examined the same place and it passed",
    Change.NEW_WITH_PAGE: "in the later run only; the earlier one did not have the page",
    Change.NEW_TO_VIEW: "in the later run only; the earlier one could not examine it",
    Change.RETURNED: "was fixed once and is back",
    Change.FIXED: "the same place was examined again and passed",
    Change.GONE_WITH_PAGE: "the page itself is gone, redirects, or is linked no more",
    Change.UNVERIFIED: "the later run could not examine the place",
    Change.CHECK_CHANGED: "in one run only, and the check's rule or limits differ between the two: neither new nor fixed",
    Change.WAIVED: "covered by a waiver in the later run",
    Change.WAIVER_ENDED: "was covered by a waiver in the earlier run and is not any more",
}


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


def classify(base: Sight, head: Sight, passed_before: bool, check_changed: bool = False) -> Change:
    """The class of a fingerprint.

    ``passed_before``: it was found in a run before the base and passed in a later one. ``check_changed``: the revision or the
    limits of the check differ between the runs, or the head's catalogue has it no more; then nothing found in one run only
    counts as new or fixed, unless the page itself came or went.
    """
    if not base.found and not head.found:
        raise ValueError("the fingerprint is in neither run")
    if head.found and head.waived:
        return Change.WAIVED
    if base.found and head.found:
        return Change.WAIVER_ENDED if base.waived else Change.STILL_THERE
    if head.found:
        return _class_of_new(base, passed_before, check_changed)
    if base.waived:
        return Change.WAIVED
    if head.gone:
        return Change.GONE_WITH_PAGE
    if check_changed:
        return Change.CHECK_CHANGED
    return Change.FIXED if head.known and head.examined else Change.UNVERIFIED


def _class_of_new(base: Sight, passed_before: bool, check_changed: bool) -> Change:
    if not base.known and not passed_before:
        # A run that was cut short, or could not read what leads there, does not know whether the page was there already.
        return Change.NEW_WITH_PAGE if base.gone else Change.NEW_TO_VIEW
    if check_changed:
        return Change.CHECK_CHANGED
    if passed_before:
        return Change.RETURNED
    return Change.NEW if base.examined else Change.NEW_TO_VIEW


@dataclass(frozen=True, slots=True)
class Balance:
    """The counts of a comparison, and whether they reconcile.

    Findings of changed checks are counted in one class; ``changed_in_head`` says how many of them the head has.
    """

    base_findings: int
    head_findings: int
    waived_now: int
    changed_in_head: int
    counts: Mapping[Change, int]

    @property
    def reconciles(self) -> bool:
        """``waived_now`` counts findings open in the base that a waiver covers in the head."""

        def count(*changes: Change) -> int:
            return sum(self.counts.get(change, 0) for change in changes)

        changed_in_base = count(Change.CHECK_CHANGED) - self.changed_in_head
        lost = count(Change.FIXED, Change.GONE_WITH_PAGE, Change.UNVERIFIED) + changed_in_base + self.waived_now
        gained = count(*NEW_CHANGES, Change.RETURNED, Change.WAIVER_ENDED) + self.changed_in_head
        return self.base_findings - lost + gained == self.head_findings


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
