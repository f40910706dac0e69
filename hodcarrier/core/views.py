"""What a check sees: frozen views over the facts of one run."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from functools import cached_property

import msgspec

from hodcarrier.core.facts import FOLLOWED_KINDS, Link, PageFacts
from hodcarrier.core.plan import Plan
from hodcarrier.core.robots import RobotsTxt
from hodcarrier.core.sitemaps import Sitemap


@dataclass(frozen=True, slots=True)
class Answer:
    """An HTTP answer, or the failure to get one (``status`` is ``None``, ``failure`` one of :data:`FAILURES`)."""

    status: int | None
    failure: str = ""
    detail: str = ""
    content_type: str = ""
    headers: tuple[tuple[str, str], ...] = ()
    http_version: str = ""
    wire_bytes: int = 0
    decoded_bytes: int = 0
    first_byte_ms: float = 0.0
    total_ms: float = 0.0
    remote: str = ""

    def header(self, name: str) -> str:
        """The first value of a header, name in lower case; empty if absent."""
        return next((value for key, value in self.headers if key == name), "")

    def header_values(self, name: str) -> list[str]:
        """All values of a header, name in lower case."""
        return [value for key, value in self.headers if key == name]

    @property
    def is_html(self) -> bool:
        """Whether the declared type is HTML or XHTML."""
        return self.content_type in ("text/html", "application/xhtml+xml")


FAILURES = {
    "dns": "the host name does not resolve",
    "connect": "no connection could be made",
    "tls": "the secure connection failed",
    "timeout": "no answer came in time",
    "reset": "the connection broke off",
    "protocol": "the answer is not valid HTTP",
    "too-large": "the answer is larger than the limit",
    "decode": "the body could not be decompressed",
    "tangled": "the document is nested too deeply to be read in time",
    "refused-address": "the address is private and not permitted",
    "robots-unreachable": "robots.txt gave no answer, so nothing may be fetched",
}


class Hop(msgspec.Struct, frozen=True, gc=False):
    """One redirect on the way to an answer."""

    url: str
    status: int


class Target(msgspec.Struct, frozen=True, gc=False):
    """What a run knows of an address a page refers to, with its redirects followed to the end.

    ``state``: ``done``, ``queued`` (never reached), ``disallowed``, ``skipped`` (outside limits), ``unknown``.
    """

    url: str
    internal: bool
    state: str
    status: int | None = None
    failure: str = ""
    hops: tuple[Hop, ...] = ()
    loop: bool = False
    final_url: str = ""
    final_state: str = ""
    final_status: int | None = None
    final_failure: str = ""

    @property
    def examined(self) -> bool:
        """Whether the run holds a final outcome for the address."""
        return self.state == "done" and (self.final_state == "done" or self.loop)

    @property
    def broken(self) -> bool:
        """Whether a visitor would end at an error or at nothing."""
        return self.examined and (self.loop or bool(self.final_failure) or (self.final_status or 0) >= 400)

    @property
    def outcome(self) -> str:
        """The final outcome in a word or two: a status, or why there is none."""
        if self.loop:
            return "redirects in a circle"
        if self.final_failure:
            return FAILURES.get(self.final_failure, self.final_failure)
        return str(self.final_status or "not reached")


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
    def usable(self) -> bool:
        """Whether rules could be read (RFC 9309: any 2xx)."""
        return self.status is not None and 200 <= self.status < 300


@dataclass(frozen=True)
class SitemapFile:
    """A sitemap as it was met, and where its address came from (``robots``, ``usual``, ``index``)."""

    url: str
    found: str
    status: int | None
    failure: str
    sitemap: Sitemap


@dataclass(frozen=True)
class PageView:
    """One page for its checks. ``facts`` is ``None`` when no HTML document was read."""

    url: str
    state: str
    depth: int | None
    answer: Answer | None
    facts: PageFacts | None
    directives: frozenset[str]
    canonical: str
    why_not: str
    inlinks: int
    listed: bool
    is_start: bool
    robots_rule: str
    was_indexable: bool
    plan: Plan
    lookup: Callable[[str], Target] = field(repr=False)
    facts_of: Callable[[str], PageFacts | None] = field(repr=False, default=lambda _url: None)

    @property
    def indexable(self) -> bool:
        """200, HTML, not noindex, canonical absent or to itself, not kept out by robots.txt."""
        return self.why_not == ""

    @property
    def document(self) -> PageFacts:
        """The facts, for checks that declare ``needs="document"``."""
        assert self.facts is not None
        return self.facts

    @property
    def is_secure(self) -> bool:
        """Whether the page was asked for over https."""
        return self.url.startswith("https://")

    def target(self, url: str) -> Target:
        """What the run knows of an address."""
        return self.lookup(url)

    @cached_property
    def outlinks(self) -> tuple[tuple[Link, Target], ...]:
        """The first link to every address that a visitor may click, with what the run knows of the address."""
        firsts: dict[str, Link] = {}
        for link in self.document.links:
            if link.kind in FOLLOWED_KINDS and link.url not in firsts:
                firsts[link.url] = link
        return tuple((link, self.lookup(url)) for url, link in firsts.items())

    def links(self, *kinds: str) -> Iterator[Link]:
        """The document's references of these kinds (all, if none is named)."""
        for link in self.document.links:
            if not kinds or link.kind in kinds:
                yield link

    def distinct_links(self, *kinds: str) -> Iterator[Link]:
        """Like :meth:`links`, the first reference to every address only."""
        seen: set[str] = set()
        for link in self.links(*kinds):
            if link.url not in seen:
                seen.add(link.url)
                yield link


@dataclass(frozen=True)
class FileView:
    """A file (image, script, style sheet) of the site, and how many scored pages use it.

    ``state`` is ``done`` or ``disallowed``; ``robots_rule`` the rule that keeps it out, obeyed or not.
    """

    url: str
    kind: str
    state: str
    robots_rule: str
    answer: Answer
    target: Target
    used_by: int
    plan: Plan


@dataclass(frozen=True, slots=True)
class Trap:
    """A pattern of addresses that the crawl stopped at its limit (0: the path repeats itself)."""

    pattern: str
    limit: int
    examples: tuple[str, ...]


@dataclass(frozen=True)
class SiteView:
    """The whole site for its checks."""

    url: str
    robots: RobotsFile
    sitemaps: tuple[SitemapFile, ...]
    start: PageView | None
    pages_linked: int
    pages_disallowed: int
    rules_hit: tuple[tuple[str, int], ...]
    refused: int
    answered: int
    certificate_days: float | None
    certificate_ends: str
    icon_found: bool | None
    icon_linked: bool
    traps: tuple[Trap, ...]
    plan: Plan


@dataclass(frozen=True)
class GroupView:
    """Pages that share what a group check looks at, in the order of their URLs."""

    key: str
    members: tuple[str, ...]
