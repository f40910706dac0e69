"""Links from other sites: which are new, which were lost, and from how many domains they come."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from datetime import date
from urllib.parse import urlsplit

from hodcarrier.core.states import BacklinkState

GONE_STATUS = frozenset({404, 410})


@dataclass(frozen=True)
class Backlink:
    """A link from a page of another site. Days are ``None`` where the table had none; ``status`` is what the latest run was answered for ``page``, ``None`` where it
    did not ask."""

    source_page: str
    page: str
    anchor: str = ""
    rel: str = ""
    first_seen: date | None = None
    last_seen: date | None = None
    lost_on: date | None = None
    status: int | None = None

    @property
    def domain(self) -> str:
        """The host of the other site, without a leading www."""
        return (urlsplit(self.source_page).hostname or "").removeprefix("www.")

    @property
    def to_gone(self) -> bool:
        """Whether it leads to a page that is gone."""
        return self.status in GONE_STATUS


def state_of(link: Backlink, since: date) -> BacklinkState:
    """Whether a link was lost, is new since a day, or was there before."""
    if link.lost_on is not None:
        return BacklinkState.LOST
    return BacklinkState.NEW if link.first_seen is not None and link.first_seen >= since else BacklinkState.LIVE


def is_in(link: Backlink, state: BacklinkState, since: date) -> bool:
    """Whether a list shows a link. Those that are there are live, new ones included; of those that were lost, only the ones since a day are."""
    if state == BacklinkState.TO_GONE:
        return link.to_gone and link.lost_on is None
    if state == BacklinkState.WIN_BACK:
        return link.to_gone and link.lost_on is not None
    if state == BacklinkState.LOST:
        return link.lost_on is not None and link.lost_on >= since
    if state == BacklinkState.LIVE:
        return link.lost_on is None
    return state_of(link, since) == state


def as_of(link: Backlink, day: date) -> Backlink | None:
    """A link as it was known on a day: one that was lost later was there still; ``None`` for one that was first seen later."""
    if link.first_seen is not None and link.first_seen > day:
        return None
    last_seen = min(link.last_seen, day) if link.last_seen is not None else None
    return replace(link, last_seen=last_seen, lost_on=link.lost_on if link.lost_on is not None and link.lost_on <= day else None)


def domains(links: Iterable[Backlink], since: date) -> Mapping[str, int]:
    """How many domains link here now (``live``), do so since a day only (``new``), and have no link left since then (``lost``)."""
    there, first, gone = set[str](), dict[str, date | None](), dict[str, date]()
    for link in links:
        domain = link.domain
        known = first.get(domain, link.first_seen)
        first[domain] = None if known is None or link.first_seen is None else min(known, link.first_seen)
        if link.lost_on is None:
            there.add(domain)
        else:
            gone[domain] = max(gone.get(domain, link.lost_on), link.lost_on)
    new = sum(1 for domain in there if (begun := first[domain]) is not None and begun >= since)
    lost = sum(1 for domain, day in gone.items() if domain not in there and day >= since)
    return {"live": len(there), "new": new, "lost": lost}
