"""Work is divided evenly among people."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.judge.todos import spread

WEIGHTS = st.lists(st.integers(0, 50).map(float), max_size=12)
PEOPLE = st.lists(st.integers(1, 9), min_size=1, max_size=4, unique=True)


def test_the_heaviest_goes_to_whoever_has_least() -> None:
    assert spread([1, 5, 3], [7, 8], {7: 4.0}) == [8, 8, 7]
    assert spread([], [7], {}) == []
    assert spread([2, 2, 2], [7, 8], {}) == [7, 8, 7]
    with pytest.raises(ValueError, match="nobody"):
        spread([1.0], [], {})


@given(WEIGHTS, PEOPLE)
def test_nobody_has_more_than_another_by_more_than_one_piece(weights: list[float], people: list[int]) -> None:
    given_to = spread(weights, people, {})
    assert len(given_to) == len(weights) and set(given_to) <= set(people)
    loads = {person: sum(w for w, who in zip(weights, given_to, strict=True) if who == person) for person in people}
    for person, load in loads.items():
        own = [w for w, who in zip(weights, given_to, strict=True) if who == person]
        if own:
            # Before the lightest piece came, nobody else had less.
            assert load - min(own) <= min(loads.values())


@given(WEIGHTS, PEOPLE, st.floats(0, 100))
def test_who_is_busier_than_everything_there_is_gets_nothing(weights: list[float], people: list[int], extra: float) -> None:
    free, busy = people[0], 99
    given_to = spread(weights, [busy, free], {busy: sum(weights) + extra + 1})
    assert given_to == [free] * len(weights)
