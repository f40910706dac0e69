"""How much of a change in health each event caused: the Shapley value over the events.

The health of every subset of the events is computed from the failing checks of each page, so a share is exact, does not depend on an order,
and the shares add up to the change (L. S. Shapley, "A value for n-person games", 1953).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import cached_property
from math import factorial

import numpy as np

from hodcarrier.core.judge.health import SITE_ROW, Counts, Flags, page_health, site_factor

# With more events than this the subsets become too many: the smallest are joined first.
EVENTS_MAX = 8
# Pages times subsets that are looked at together, to bound memory.
CELLS_AT_ONCE = 1_000_000
STAYS = -1


@dataclass(frozen=True)
class Steps:
    """From one run to another in steps, each of which belongs to an event (a number from 0 to ``events`` − 1).

    ``counts`` are the failing checks of each page before, by severity, shape (pages, 4); ``site`` those of the site, shape (4,). ``comes`` and
    ``goes`` name the event with which a page appears or goes (:data:`STAYS`: none). ``page``, ``severity``, ``event`` and ``step`` are
    parallel: by an event one failing check more (+1) or less (−1) on a page, or on the site (:data:`~hodcarrier.core.judge.health.SITE_ROW`).
    """

    events: int
    counts: Counts
    comes: Counts
    goes: Counts
    site: Counts
    page: Counts
    severity: Counts
    event: Counts
    step: Counts

    def health(self, happened: Flags) -> float | None:
        """Health once these events have happened and no other has; ``None`` when no page is there then."""
        chosen = happened[self.event]
        counts, site = self.counts.copy(), self.site.copy()
        on_page = chosen & (self.page != SITE_ROW)
        np.add.at(counts, (self.page[on_page], self.severity[on_page]), self.step[on_page])
        on_site = chosen & (self.page == SITE_ROW)
        np.add.at(site, self.severity[on_site], self.step[on_site])
        there = _there(self.comes, self.goes, happened)
        pages = int(there.sum())
        if not pages:
            return None
        return float(page_health(counts[there]).sum() / pages * site_factor(site.reshape(1, 4))[0])

    def joined(self, into: Sequence[int]) -> Steps:
        """The same steps with events joined: event ``i`` becomes a part of event ``into[i]``."""
        # The last one is where STAYS points.
        new = np.append(np.array(into, dtype=np.int64), STAYS)
        return replace(self, events=max(into, default=-1) + 1, comes=new[self.comes], goes=new[self.goes], event=new[self.event])

    def touched(self) -> Counts:
        """How many steps each event takes."""
        found: Counts = sum(
            (np.bincount(part[part != STAYS], minlength=self.events) for part in (self.event, self.comes, self.goes)),
            np.zeros(self.events, dtype=np.int64),
        )
        return found

    def weights(self, chosen: Sequence[int]) -> list[float]:
        """How much events matter to health, for choosing those worth a share of their own: what each changes as the first and as the last."""
        nothing, everything = np.zeros(self.events, dtype=bool), np.ones(self.events, dtype=bool)
        before, after = self.health(nothing) or 0.0, self.health(everything) or 0.0
        found = []
        for event in chosen:
            first, last = nothing.copy(), everything.copy()
            first[event], last[event] = True, False
            found.append(abs((self.health(first) or 0.0) - before) + abs(after - (self.health(last) or 0.0)))
        return found

    @cached_property
    def _alike(self) -> tuple[Counts, Counts, Counts, Counts, Counts]:
        """Pages that every subset treats alike, once each: counts, steps by event, when they come and go, and how many they are."""
        deltas = np.zeros((len(self.counts), self.events, 4), dtype=np.int64)
        on_page = self.page != SITE_ROW
        np.add.at(deltas, (self.page[on_page], self.event[on_page], self.severity[on_page]), self.step[on_page])
        flat = np.column_stack([self.comes, self.goes, self.counts, deltas.reshape(len(self.counts), -1)])
        rows, many = np.unique(flat, axis=0, return_counts=True)
        return rows[:, 2:6], rows[:, 6:].reshape(len(rows), self.events, 4), rows[:, 0], rows[:, 1], many

    def shares(self) -> list[Fraction] | None:
        """The share of every event in the change of health, in points: they add up to it exactly. ``None`` when either run has no health.

        For at most :data:`EVENTS_MAX` events; raises ``ValueError`` for more. A subset that leaves no page says nothing: it counts as no change.
        """
        if self.events > EVENTS_MAX:
            raise ValueError(f"{self.events} events are too many to divide a change among")
        worth = self._worths()
        if worth is None:
            return None
        n = self.events
        # Whole numbers of one unit are as exact as fractions, and many times faster.
        ratios = [value.as_integer_ratio() for value in worth]
        unit = max(below for _, below in ratios)
        units = [above * (unit // below) for above, below in ratios]
        orders = [factorial(size) * factorial(n - size - 1) for size in range(n)]
        found = [0] * n
        for subset in range((1 << n) - 1):
            order = orders[subset.bit_count()]
            for event in range(n):
                if not subset >> event & 1:
                    found[event] += order * (units[subset | 1 << event] - units[subset])
        return [Fraction(total, unit * factorial(n)) for total in found]

    def _worths(self) -> list[float] | None:
        """Health after every subset of the events (bit ``i``: event ``i`` has happened)."""
        counts, deltas, comes, goes, many = self._alike
        site_deltas = np.zeros((self.events, 4), dtype=np.int64)
        on_site = self.page == SITE_ROW
        np.add.at(site_deltas, (self.event[on_site], self.severity[on_site]), self.step[on_site])
        happened = (np.arange(1 << self.events)[:, None] >> np.arange(self.events)) & 1 == 1
        factors = site_factor(self.site + happened.astype(np.int64) @ site_deltas)
        found: list[float | None] = []
        at_once = max(1, CELLS_AT_ONCE // max(1, len(counts)))
        for start in range(0, len(happened), at_once):
            some = happened[start : start + at_once]
            states = counts + np.tensordot(some.astype(np.int64), deltas, axes=(1, 1))
            pages = many * _there(comes, goes, some)
            sums = (page_health(states.reshape(-1, 4)).reshape(pages.shape) * pages).sum(axis=1)
            numbers = pages.sum(axis=1)
            healths = zip(sums.tolist(), numbers.tolist(), factors[start : start + at_once].tolist(), strict=True)
            found += [total / number * factor if number else None for total, number, factor in healths]
        before, after = found[0], found[-1]
        if before is None or after is None:
            return None
        return [before if value is None else value for value in found]


def _there(comes: Counts, goes: Counts, happened: Flags) -> Flags:
    """Which pages there are once these events have happened; of several rows of events, a row each."""
    never = np.zeros((*happened.shape[:-1], 1), dtype=bool)  # where STAYS points
    by_event = np.concatenate([happened, never], axis=-1)
    there: Flags = ((comes == STAYS) | by_event[..., comes]) & ~by_event[..., goes]
    return there


def shown(shares: Sequence[Fraction], total: float, digits: int = 1) -> list[float]:
    """Shares rounded so that they add up to ``total``, a figure with as many digits: what is left over by rounding goes where most was cut off.

    Events without any share keep 0, unless all have none.
    """
    unit = 10**digits
    whole = [int(share * unit // 1) for share in shares]
    cut = [share * unit - units for share, units in zip(shares, whole, strict=True)]
    rest = round(total * unit) - sum(whole)
    moving = [place for place, share in enumerate(shares) if share] or list(range(len(shares)))
    by_cut = sorted(moving, key=lambda place: (-cut[place], place))
    while rest and by_cut:
        for place in by_cut if rest > 0 else reversed(by_cut):
            whole[place] += 1 if rest > 0 else -1
            rest += -1 if rest > 0 else 1
            if not rest:
                break
    return [units / unit for units in whole]
