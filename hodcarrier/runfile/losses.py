"""Where the points went that a run's health lacks: the exact share of each of the checks that cost most, and of all others together."""

from __future__ import annotations

import numpy as np

from hodcarrier.core.judge.health import SITE_ROW, Counts, page_health, site_factor
from hodcarrier.core.judge.shares import EVENTS_MAX, STAYS, Steps, shown
from hodcarrier.core.summary import Loss
from hodcarrier.runfile.scores import ScoredRun

HEALTH_MAX = 100.0


def _alone(page: Counts, number: Counts, severity: Counts, pages: int) -> dict[int, float]:
    """What each check would cost if nothing else failed, for choosing those that are named: by gain alone, two that fail on the same pages seem to
    cost nothing."""
    one = np.eye(4, dtype=np.int64)
    on_page, on_site = HEALTH_MAX - page_health(one), HEALTH_MAX * (1 - site_factor(one))
    cost = np.where(page == SITE_ROW, on_site[severity], on_page[severity] / max(1, pages))
    totals = np.bincount(number, weights=cost)
    return {int(check): float(totals[check]) for check in np.unique(number)}


def losses(scored: ScoredRun, health: float | None) -> list[Loss]:
    """By check, the largest first and the others together last, so many points that with ``health``, as it is shown, they make 100.

    Each is a Shapley value (:mod:`hodcarrier.core.judge.shares`): what passes with one check alone depends on what else fails on the same pages, so gains
    do not add up; these do.
    """
    if health is None or health >= HEALTH_MAX:
        return []
    page, number, severity, checks = scored.faults(np.arange(len(scored.urls)))
    weight = dict(scored.run.rows("SELECT id, gain FROM check_state WHERE findings > 0"))
    for check, alone in _alone(page, number, severity, len(scored.urls)).items():
        weight[checks[check][0]] += alone
    failing = sorted({checks[n][0] for n in number.tolist()}, key=lambda check: (-weight[check], check))
    named = failing[: EVENTS_MAX - 1] if len(failing) > EVENTS_MAX else failing
    place_of = {check: named.index(check) if check in named else len(named) for check in failing}
    event = np.array([place_of[checks[n][0]] for n in number.tolist()], dtype=np.int64)
    counts = np.zeros((len(scored.urls) + 1, 4), dtype=np.int64)  # the last row is where SITE_ROW points
    np.add.at(counts, (page, severity), 1)
    stays = np.full(len(scored.urls), STAYS)
    groups = [*named, ""] if len(failing) > len(named) else named
    steps = Steps(len(groups), counts[:-1], stays, stays, counts[SITE_ROW], page, severity, event, np.full(len(page), -1))
    shares = steps.shares()
    if shares is None:
        return []
    found = [Loss(check, points) for check, points in zip(groups, shown(shares, HEALTH_MAX - health), strict=True)]
    return sorted(found, key=lambda loss: (loss.check == "", -loss.points))
