"""No check crashes on broken bytes: seeds that once did, and some that never have."""

from __future__ import annotations

import pytest

from tests.reference.fuzzing import crashes_of

SEEDS = (*range(12),)


@pytest.mark.parametrize("seed", SEEDS)
def test_no_check_crashes_on_broken_bytes(seed: int) -> None:
    assert crashes_of(seed) == []
