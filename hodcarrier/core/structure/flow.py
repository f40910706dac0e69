"""How links flow through a site: the damped score of its pages, and groups of pages that no link joins to the rest."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Numbers = NDArray[np.int64]

# How much of what flows into a page flows on over its links; the rest is spread over all pages.
DAMPING = 0.85
ROUNDS_MAX = 100
# The scores stand still when all of them together change by less than this share of their sum.
STILL = 1e-8


def flow(sources: Numbers, targets: Numbers, pages: int) -> NDArray[np.float64]:
    """What flows to each of ``pages`` pages over links between them (numbers from 0 on, each pair once), in units of the average page: the scores
    add up to the number of pages.

    The stationary distribution of a walk that follows a link at random with probability :data:`DAMPING`, and goes on at any page otherwise or where
    a page has no links; found by iteration over the links (S. Brin and L. Page, 1998).
    """
    if not pages:
        return np.zeros(0)
    links_out = np.bincount(sources, minlength=pages)
    weights = DAMPING / links_out[sources]
    ends = links_out == 0
    scores: NDArray[Any] = np.ones(pages)
    for _ in range(ROUNDS_MAX):
        spread = 1 - DAMPING + DAMPING * float(scores[ends].sum()) / pages
        following = np.bincount(targets, scores[sources] * weights, minlength=pages) + spread
        moved = float(np.abs(following - scores).sum())
        scores = following
        if moved < STILL * pages:
            break
    return scores


def groups(sources: Numbers, targets: Numbers, pages: int) -> Numbers:
    """The group of each page: pages that links join, in whichever direction, are in one. Groups are numbered from 1 on, the largest first, equal ones
    by their first page.

    Each page takes the smallest number among its neighbours', and then that of the page it names, until none changes.
    """
    names = np.arange(pages)
    while True:
        lowest = names.copy()
        np.minimum.at(lowest, targets, names[sources])
        np.minimum.at(lowest, sources, names[targets])
        lowest = lowest[lowest]
        if np.array_equal(lowest, names):
            break
        names = lowest
    firsts, places, sizes = np.unique(names, return_inverse=True, return_counts=True)
    ranks = np.empty(len(firsts), np.int64)
    ranks[np.lexsort((firsts, -sizes))] = np.arange(1, len(firsts) + 1)
    return ranks[places]
