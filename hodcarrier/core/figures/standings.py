"""Where a site stands for the keywords that it watches: now, before, at best, and who stands above it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date

# Positions that are told together: the first three are seen at once, ten make a page of results.
BANDS: Mapping[str, tuple[int, int]] = {"1–3": (1, 3), "4–10": (4, 10), "11–20": (11, 20), "21–50": (21, 50), "51–100": (51, 100)}
BEYOND = "not found"


@dataclass(frozen=True)
class Position:
    """One look at a keyword: on a day, on a device, from a place. ``rank`` is ``None`` where the site was not found; ``host`` is empty for the site itself."""

    keyword: str
    device: str
    place: str
    host: str
    day: date
    rank: int | None
    page: str = ""
    features: str = ""


@dataclass(frozen=True)
class Standing:
    """A keyword on a device, from a place. ``now`` is the last look, ``before`` the last one of the time before, ``best`` the best of all, where it was reached first; ``above`` are others
    that stood higher on the day of ``now``, the first of them first."""

    now: Position
    before: Position | None
    best: Position
    above: Sequence[tuple[str, int]]

    @property
    def change(self) -> int | None:
        """Places won (more than 0) or lost; ``None`` where either look did not find the site."""
        if self.before is None or self.before.rank is None or self.now.rank is None:
            return None
        return self.before.rank - self.now.rank


def standings(looks: Iterable[Position], before: date) -> list[Standing]:
    """What looks say of each keyword, device and place. ``before`` is the last day of the time before; the order is that of the looks."""
    own: dict[tuple[str, str, str], list[Position]] = {}
    others: dict[tuple[str, str, str, date], list[tuple[str, int]]] = {}
    for look in looks:
        key = (look.keyword, look.device, look.place)
        if not look.host:
            own.setdefault(key, []).append(look)
        elif look.rank is not None:
            others.setdefault((*key, look.day), []).append((look.host, look.rank))
    found = []
    for key, all_looks in own.items():
        seen = sorted(all_looks, key=lambda look: look.day)
        now = seen[-1]
        earlier = [look for look in seen if look.day <= before and look.day < now.day]
        best = min(seen, key=lambda look: (look.rank or 10**9, look.day))
        higher = [each for each in others.get((*key, now.day), []) if now.rank is None or each[1] < now.rank]
        found.append(Standing(now, earlier[-1] if earlier else None, best, sorted(higher, key=lambda each: (each[1], each[0]))))
    return found


def band_of(rank: int | None) -> str:
    """The band that a position is in; positions beyond the last band count as not found."""
    return next((name for name, (first, last) in BANDS.items() if rank is not None and first <= rank <= last), BEYOND)


def spread(ranks: Iterable[int | None]) -> dict[str, int]:
    """How many positions are in each band."""
    counts = dict.fromkeys((*BANDS, BEYOND), 0)
    for rank in ranks:
        counts[band_of(rank)] += 1
    return counts


def side_by_side(looks: Iterable[Position], hosts: Sequence[str], rank_max: int) -> tuple[list[int | None], int]:
    """How many keywords each host stands for among the first ``rank_max``, of how many at the last look at each; ``None`` for a host that nobody looked at. An empty host
    is the site itself. A keyword counts on each device and from each place."""
    last: dict[tuple[str, str, str, str], Position] = {}
    for look in looks:
        key = (look.keyword, look.device, look.place, look.host)
        if key not in last or look.day >= last[key].day:
            last[key] = look
    own = [key[:3] for key in last if not key[3]]
    counts: list[int | None] = []
    for host in hosts:
        seen = [last[*key, host] for key in own if (*key, host) in last]
        counts.append(sum(1 for look in seen if look.rank is not None and look.rank <= rank_max) if seen else None)
    return counts, len(own)
