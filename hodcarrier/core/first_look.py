"""What a first look at a site tells, and the settings that it suggests: pure, so that each proposal can be tested for itself."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import time
from typing import Any

from hodcarrier.core.plan import Plan
from hodcarrier.core.web.urls import split
from hodcarrier.core.words import fill

# A site grows, and a sitemap does not list everything: half as many again, rounded up to one of these.
LIMITS = (10_000, 20_000, 50_000, 100_000, 200_000, 500_000, 1_000_000, 2_000_000, 5_000_000)
HEADROOM = 1.5
# Above this a page is slow to answer by itself, and several at once may hurt visitors (the good limit of the web's own field measure).
SLOW_MS = 800
SLOW_RATE, SLOW_PARALLEL = 1.0, 2
# An audit that takes longer than a night is better run less often.
NIGHT_MINUTES = 6 * 60
# When audits start by themselves: in the small hours, at half hours.
STARTS = tuple(time(minute // 60, minute % 60) for minute in range(60, 330, 30))


@dataclass(frozen=True, slots=True)
class Glance:
    """What was met at a first look. ``listed`` is how many URLs the sitemaps list, ``known`` how many pages were heard of in all; milliseconds are
    medians over the ``fetched`` pages. ``delay_s`` is the crawl delay that robots.txt asks for."""

    asked: str
    address: str
    fetched: int
    listed: int
    known: int
    first_byte_ms: float | None
    page_bytes: float | None
    robots: str
    sitemaps: int
    delay_s: float | None
    languages: tuple[str, ...]
    generator: str
    server: str


@dataclass(frozen=True, slots=True)
class Proposal:
    """A setting of a plan, its value, and why."""

    name: str
    value: Any
    reason: str


def size_of(glance: Glance) -> int:
    """About how many pages the site has, as far as a first look can tell."""
    return max(glance.listed, glance.known, glance.fetched)


def propose(glance: Glance) -> Iterator[Proposal]:
    """Settings that differ from the defaults, each with its reason."""
    asked, met = split(glance.asked), split(glance.address)
    if (asked.scheme, asked.host) != (met.scheme, met.host):
        reason = f"{glance.asked} redirects there."
        yield Proposal("start", [glance.address], reason)
    size = size_of(glance)
    if size * HEADROOM > Plan().pages_max:
        limit = next((limit for limit in LIMITS if limit >= size * HEADROOM), LIMITS[-1])
        yield Proposal("pages_max", limit, fill("The sitemaps list {n:URL}.", {"n": size}))
    if glance.first_byte_ms is not None and glance.first_byte_ms > SLOW_MS:
        reason = f"Pages take {glance.first_byte_ms:,.0f} ms to answer; more at once would slow the site down for its visitors."
        yield Proposal("rate_per_s", SLOW_RATE, reason)
        yield Proposal("parallel", SLOW_PARALLEL, reason)


def minutes_of(glance: Glance, plan: Plan) -> float:
    """About how long an audit takes, in minutes: its pages at the pace of the plan, or of robots.txt where that is slower."""
    rate = plan.rate_per_s
    if plan.obey_crawl_delay and glance.delay_s:
        rate = min(rate, 1 / glance.delay_s)
    return min(size_of(glance), plan.pages_max) / rate / 60


def propose_rule(minutes: float) -> tuple[str, str]:
    """How often to audit, as a short rule, and why."""
    if minutes > NIGHT_MINUTES:
        return "monthly:1", f"An audit takes about {minutes / 60:,.0f} hours; once a month is easier on the site."
    return "weekly:TU", "A week is long enough for fixes, and short enough to notice what breaks."


def quiet_start(taken: Sequence[str]) -> time:
    """The start in the small hours at which the fewest audits start already (``HH:MM``), the earliest of several."""
    return min(STARTS, key=lambda start: (sum(1 for each in taken if each == f"{start:%H:%M}"), start))
