"""robots.txt and sitemaps of a crawl: fetched once, recorded, asked."""

from __future__ import annotations

import asyncio
import zlib
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field

from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.plan import Plan
from hodcarrier.core.web.robots import READ_LIMIT_BYTES, UNREACHABLE, RobotsTxt, parse
from hodcarrier.core.web.sitemaps import BYTES_MAX, ENTRIES_MAX, Entry, Sitemap, read
from hodcarrier.core.web.urls import is_web, normalize, split
from hodcarrier.crawl.fetch import Fetched, Fetcher
from hodcarrier.runfile.writer import RunWriter

HOPS_MAX = 5
SITEMAPS_MAX = 500
# What all sitemaps of a site may come to: bytes once decoded, and entries for each page that the plan allows, but no fewer than one
# whole file. Beyond it they are left unread, and the crawl does not count as complete.
ALL_BYTES_MAX = 512 * 1024 * 1024
ENTRIES_PER_PAGE = 4
USUAL_PLACES = ("/sitemap.xml",)
LAST_PLACES = ("/sitemap_index.xml", "/sitemap.xml.gz", "/sitemap.txt")


@dataclass
class SiteFiles:
    """The robots.txt of every origin the crawl meets, and the sitemaps of the site. ``cut``: these hold more than was read."""

    plan: Plan
    writer: RunWriter
    fetcher: Fetcher
    policies: dict[str, RobotsTxt | None] = field(default_factory=dict)
    cut: bool = False
    _reading: dict[str, asyncio.Lock] = field(default_factory=dict)

    def restore(self) -> None:
        """What an earlier part of this crawl has read already."""
        self.cut = self.writer.meta("sitemaps_cut", False)
        for url, status, body in self.writer.db.execute("SELECT url, status, body FROM site_file WHERE kind = 'robots'"):
            self.policies[split(url).origin] = policy_of(status, zlib.decompress(body))

    async def read_robots(self, origin: str) -> Answer:
        """Fetch an origin's robots.txt once, over at most five redirects (RFC 9309, 2.3.1.2).

        Its policy becomes ``None`` when it is unreachable: then everything is disallowed (2.3.1.4).
        """
        first = origin + "/robots.txt"
        fetched, hops = await self._follow(first, READ_LIMIT_BYTES + 1)
        if fetched.location:  # more redirects than that, or one that leads nowhere: as if there were none
            self.policies[origin] = parse(b"")
        else:
            self.policies[origin] = policy_of(fetched.answer.status, fetched.body)
        self.writer.add_site_file("robots", first, "usual", fetched.answer, hops, fetched.body[:READ_LIMIT_BYTES])
        return fetched.answer

    async def _follow(self, url: str, bytes_max: int) -> tuple[Fetched, int]:
        hops = 0
        fetched = await self.fetcher.get(url, bytes_max=bytes_max)
        while fetched.location and hops < HOPS_MAX:
            try:
                url = normalize(fetched.location, url)
            except InvalidUrl:
                break
            if not is_web(url):
                break
            hops += 1
            fetched = await self.fetcher.get(url, bytes_max=bytes_max)
        return fetched, hops

    async def verdict(self, url: str) -> tuple[bool, str]:
        """Whether our agent may fetch an address, and the rule that says no."""
        origin = split(url).origin
        if origin not in self.policies:
            async with self._reading.setdefault(origin, asyncio.Lock()):
                if origin not in self.policies:
                    await self.read_robots(origin)
        policy = self.policies[origin]
        if policy is None:
            return False, UNREACHABLE
        verdict = policy.verdict(self.plan.robots_token, url)
        return verdict.allowed, verdict.words

    def crawl_delay_s(self, origin: str) -> float:
        """The seconds between requests that an origin's robots.txt asks of us; 0 when it asks for none."""
        policy = self.policies.get(origin)
        return (policy.crawl_delay(self.plan.robots_token) if policy else None) or 0.0

    async def read_sitemaps(
        self, origin: str, list_entry: Callable[[str, str, Entry, int], None], must_end: Callable[[], bool] = lambda: False
    ) -> None:
        """Read the plan's sitemaps, those robots.txt names, and the usual places; indexes lead on. No more is read than
        :data:`ALL_BYTES_MAX` and :data:`ENTRIES_PER_PAGE` allow, and none once ``must_end`` says so.

        ``list_entry`` gets the normalised address, the sitemap's address, the entry, and the sitemap's row.
        """
        entries_left = max(ENTRIES_MAX, ENTRIES_PER_PAGE * self.plan.pages_max)
        bytes_left = ALL_BYTES_MAX
        queue: deque[tuple[str, str]] = deque((url, "given") for url in self.plan.sitemaps)
        if self.plan.use_sitemaps:
            policy = self.policies.get(origin)
            queue.extend((raw, "robots") for raw in (policy.sitemaps if policy else ()))
            queue.extend((origin + path, "usual") for path in USUAL_PLACES)
        seen: set[str] = set()
        found = 0
        last = deque(LAST_PLACES if self.plan.use_sitemaps else ())
        while queue or (last and not found):
            if must_end():
                return
            if len(seen) >= SITEMAPS_MAX or entries_left <= 0 or bytes_left <= 0:
                self._cut()
                return
            raw, how = queue.popleft() if queue else (origin + last.popleft(), "usual")
            try:
                url = normalize(raw, origin)
            except InvalidUrl:
                continue
            if url in seen or not is_web(url):
                continue
            seen.add(url)
            if self.plan.obey_robots and not (await self.verdict(url))[0]:
                continue
            fetched, hops = await self._follow(url, BYTES_MAX + 1)
            if fetched.answer.status != 200:
                if how != "usual" or url == origin + USUAL_PLACES[0]:
                    self.writer.add_site_file("sitemap", url, how, fetched.answer, hops, b"")
                continue
            found += 1
            row = self.writer.add_site_file("sitemap", url, how, fetched.answer, hops, fetched.body)
            sitemap = await asyncio.to_thread(read, fetched.body)
            bytes_left -= sitemap.size_bytes
            self._note_sitemap(row, sitemap)
            for entry in sitemap.entries:
                try:
                    target = normalize(entry.loc, url)
                except InvalidUrl:
                    continue
                if sitemap.kind == "index":
                    queue.append((target, "index"))
                elif is_web(target):
                    if not entries_left:
                        self._cut()
                        return
                    entries_left -= 1
                    list_entry(target, url, entry, row)
            self.writer.commit()  # what is listed need not wait in memory

    def _cut(self) -> None:
        self.cut = True
        self.writer.put_meta("sitemaps_cut", True)

    def _note_sitemap(self, row: int, sitemap: Sitemap) -> None:
        """Keep what was found out about a sitemap, so that nobody has to read it again."""
        known = self.writer.meta("sitemaps", {})
        known[str(row)] = {
            "kind": sitemap.kind,
            "problems": sitemap.problems,
            "size_bytes": sitemap.size_bytes,
            "entries": len(sitemap.entries),
            "alternates": any(entry.alternates for entry in sitemap.entries),
        }
        self.writer.put_meta("sitemaps", known)


def policy_of(status: int | None, body: bytes) -> RobotsTxt | None:
    """The rules a robots.txt answer stands for: 2xx its text, 4xx none, 5xx or no answer ``None`` (RFC 9309, 2.3.1)."""
    if status is None or status >= 500:
        return None
    return parse(body if 200 <= status < 300 else b"")
