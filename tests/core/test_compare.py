"""Classes of a comparison, one for every fingerprint, and their balance."""

from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.compare import CLASSES, Balance, Sight, classify, history_state

HERE = Sight(True)
PASSED = Sight(False)
UNKNOWN = Sight(False, known=False, examined=False)
UNSEEN = Sight(False, known=True, examined=False)
GONE = Sight(False, known=True, examined=False, gone=True)
WAIVED = Sight(True, waived=True)


@pytest.mark.parametrize(
    ("base", "head", "passed_before", "expected"),
    [
        (HERE, HERE, False, "still-there"),
        (HERE, HERE, True, "still-there"),
        (PASSED, HERE, False, "new"),
        (UNKNOWN, HERE, False, "new-with-page"),
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


SIGHTS = st.builds(Sight, st.booleans(), st.booleans(), st.booleans(), st.booleans(), st.booleans())


@given(st.lists(st.tuples(SIGHTS, SIGHTS, st.booleans()), max_size=60))
def test_classes_reconcile(pairs: list[tuple[Sight, Sight, bool]]) -> None:
    pairs = [pair for pair in pairs if pair[0].found or pair[1].found]
    classes = [classify(*pair) for pair in pairs]
    assert set(classes) <= set(CLASSES)
    base = sum(1 for b, _, _ in pairs if b.found and not b.waived)
    head = sum(1 for _, h, _ in pairs if h.found and not h.waived)
    waived_now = sum(1 for (b, _, _), name in zip(pairs, classes, strict=True) if name == "waived" and b.found and not b.waived)
    assert Balance(base, head, waived_now, Counter(classes)).reconciles


def test_a_wrong_balance_is_noticed() -> None:
    assert not Balance(3, 2, 0, {"fixed": 2}).reconciles


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
