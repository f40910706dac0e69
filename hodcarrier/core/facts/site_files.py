"""The files that speak for a whole site, robots.txt and sitemaps, and the traps that a crawl met."""

from __future__ import annotations

from dataclasses import dataclass

from hodcarrier.core.web.robots import RobotsTxt
from hodcarrier.core.web.sitemaps import Sitemap


@dataclass(frozen=True)
class RobotsFile:
    """robots.txt as it was met: ``status`` ``None`` means no answer came."""

    url: str
    status: int | None
    failure: str
    content_type: str
    hops: int
    robots: RobotsTxt

    @property
    def is_markup(self) -> bool:
        """Whether HTML or data answers in its place: it begins as markup does, or says so and holds nothing that could be a rule."""
        if not self.usable:
            return False
        holds_rules = bool(self.robots.groups or self.robots.sitemaps)
        other = self.content_type not in ("", "application/octet-stream") and not self.content_type.startswith("text/plain")
        return self.robots.text.lstrip().startswith("<") or (other and bool(self.robots.text.strip()) and not holds_rules)

    @property
    def usable(self) -> bool:
        """Whether rules could be read (RFC 9309: any 2xx)."""
        return self.status is not None and 200 <= self.status < 300


@dataclass(frozen=True)
class SitemapFile:
    """A sitemap as it was met, and where its address came from (``given``, ``robots``, ``usual``, ``index``). ``entries`` counts what it lists."""

    url: str
    found: str
    status: int | None
    failure: str
    sitemap: Sitemap
    entries: int = 0


@dataclass(frozen=True)
class Listed:
    """What is wrong with entries of sitemaps: addresses that one file lists twice, those of other hosts, and dates, each kind with how many there are and
    one of them."""

    twice: tuple[str, ...] = ()
    foreign: tuple[str, ...] = ()
    dates_unreadable: tuple[int, str] = (0, "")
    dates_in_future: tuple[int, str] = (0, "")
    dates_all_same: tuple[int, str] = (0, "")


@dataclass(frozen=True, slots=True)
class Trap:
    """A pattern of addresses that the crawl stopped at its limit (0: the path repeats itself)."""

    pattern: str
    limit: int
    examples: tuple[str, ...]
