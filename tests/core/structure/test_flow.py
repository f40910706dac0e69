"""How links flow: against the solution of the equations, and groups against a plain joining of sets."""

from __future__ import annotations

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.structure.flow import DAMPING, flow, groups

Edges = list[tuple[int, int]]


@st.composite
def graphs(draw: st.DrawFn) -> tuple[int, Edges]:
    pages = draw(st.integers(1, 12))
    number = st.integers(0, pages - 1)
    return pages, sorted(draw(st.sets(st.tuples(number, number), max_size=40)))


def ends(edges: Edges) -> tuple[np.ndarray, np.ndarray]:
    return np.array([a for a, _ in edges], np.int64), np.array([b for _, b in edges], np.int64)


@given(graphs())
def test_flow_solves_its_equations(graph: tuple[int, Edges]) -> None:
    pages, edges = graph
    matrix = np.zeros((pages, pages))
    for source in range(pages):
        targets = [b for a, b in edges if a == source]
        for target in targets or range(pages):
            matrix[target, source] = 1 / len(targets or range(pages))
    exact = np.linalg.solve(np.eye(pages) - DAMPING * matrix, np.full(pages, 1 - DAMPING))
    found = flow(*ends(edges), pages)
    assert np.allclose(found, exact, atol=1e-5)
    assert np.isclose(found.sum(), pages)


@given(graphs())
def test_groups_are_what_links_join(graph: tuple[int, Edges]) -> None:
    pages, edges = graph
    sets = [{page} for page in range(pages)]
    for a, b in edges:
        one, other = (next(s for s in sets if page in s) for page in (a, b))
        if one is not other:
            sets.remove(other)
            one |= other
    ranked = sorted(sets, key=lambda s: (-len(s), min(s)))
    expected = [next(n for n, s in enumerate(ranked, 1) if page in s) for page in range(pages)]
    assert groups(*ends(edges), pages).tolist() == expected


def test_a_page_that_all_link_to_gets_most() -> None:
    found = flow(np.array([1, 2, 3]), np.array([0, 0, 0]), 4)
    assert found[0] == max(found) > 2
    assert len(set(found[1:].tolist())) == 1


def test_a_site_without_pages_has_no_flow() -> None:
    assert not len(flow(np.zeros(0, np.int64), np.zeros(0, np.int64), 0))
    assert not len(groups(np.zeros(0, np.int64), np.zeros(0, np.int64), 0))
