"""Classes of a comparison, one for every fingerprint, and their balance."""

from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.judge.compare import CLASSES, Balance, Sight, classify, history_state
from hodcarrier.core.states import Change

HERE = Sight(True)
PASSED = Sight(False)
UNKNOWN = Sight(False, known=False, examined=False)
ABSENT = Sight(False, known=False, examined=False, gone=True)
UNSEEN = Sight(False, known=True, examined=False)
GONE = Sight(False, known=True, examined=False, gone=True)
WAIVED = Sight(True, waived=True)


@pytest.mark.parametrize(
    ("base", "head", "passed_before", "expected"),
    [
        (HERE, HERE, False, "still-there"),
        (HERE, HERE, True, "still-there"),
        (PASSED, HERE, False, "new"),
        (ABSENT, HERE, False, "new-with-page"),
        (UNKNOWN, HERE, False, "new-to-view"),
        (UNSEEN, HERE, False, "new-to-view"),
        (PASSED, HERE, True, "returned"),
        (UNSEEN, HERE, True, "returned"),
        (HERE, PASSED, False, "fixed"),
        (HERE, GONE, False, "gone-with-page"),
        (HERE, UNSEEN, False, "unverified"),
        (HERE, UNKNOWN, False, "unverified"),
        (HERE, Sight(False, known=False, examined=False, gone=True), False, "gone-with-page"),
        (HERE, WAIVED, False, "waived"),
        (PASSED, WAIVED, False, "waived"),
        (WAIVED, HERE, False, "waiver-ended"),
        (WAIVED, PASSED, False, "waived"),
        (WAIVED, WAIVED, False, "waived"),
    ],
)
def test_classes(base: Sight, head: Sight, passed_before: bool, expected: str) -> None:
    assert classify(base, head, passed_before) == expected


def test_neither_run_has_it() -> None:
    with pytest.raises(ValueError, match="neither"):
        classify(PASSED, PASSED, False)


@pytest.mark.parametrize(
    ("base", "head", "passed_before", "expected"),
    [
        (HERE, HERE, False, "still-there"),
        (HERE, PASSED, False, "check-changed"),
        (PASSED, HERE, False, "check-changed"),
        (PASSED, HERE, True, "check-changed"),
        (UNSEEN, HERE, False, "check-changed"),
        (ABSENT, HERE, False, "new-with-page"),
        (UNKNOWN, HERE, False, "new-to-view"),
        (HERE, GONE, False, "gone-with-page"),
        (HERE, UNSEEN, False, "check-changed"),
        (HERE, WAIVED, False, "waived"),
        (WAIVED, HERE, False, "waiver-ended"),
    ],
)
def test_what_a_changed_check_found_in_one_run_only_is_neither_new_nor_fixed(
    base: Sight, head: Sight, passed_before: bool, expected: str
) -> None:
    assert classify(base, head, passed_before, check_changed=True) == expected


SIGHTS = st.builds(Sight, st.booleans(), st.booleans(), st.booleans(), st.booleans(), st.booleans())


@given(st.lists(st.tuples(SIGHTS, SIGHTS, st.booleans(), st.booleans()), max_size=60))
def test_classes_reconcile(pairs: list[tuple[Sight, Sight, bool, bool]]) -> None:
    pairs = [pair for pair in pairs if pair[0].found or pair[1].found]
    classes = [classify(*pair) for pair in pairs]
    assert set(classes) <= set(CLASSES)
    base = sum(1 for b, *_ in pairs if b.found and not b.waived)
    head = sum(1 for _, h, *_ in pairs if h.found and not h.waived)
    classed = list(zip(pairs, classes, strict=True))
    waived_now = sum(1 for (b, *_), name in classed if name == "waived" and b.found and not b.waived)
    changed_in_head = sum(1 for (_, h, *_), name in classed if name == "check-changed" and h.found)
    assert Balance(base, head, waived_now, changed_in_head, Counter(classes)).reconciles


def test_a_wrong_balance_is_noticed() -> None:
    assert not Balance(3, 2, 0, 0, {Change.FIXED: 2}).reconciles
    assert not Balance(3, 3, 0, 1, {Change.CHECK_CHANGED: 1}).reconciles


@pytest.mark.parametrize(
    ("found", "gone", "examined", "before", "after"),
    [
        (True, False, True, "passed", "open"),
        (False, False, True, "open", "passed"),
        (False, True, False, "open", "gone"),
        (False, False, False, "open", "unverified"),
        (False, False, False, "passed", "passed"),
        (False, True, False, "passed", "passed"),
    ],
)
def test_history(found: bool, gone: bool, examined: bool, before: str, after: str) -> None:
    assert history_state(found, gone, examined, before) == after
