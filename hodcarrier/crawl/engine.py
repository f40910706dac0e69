"""The crawl: breadth first from the start, into the run file.

Facts only; nothing is judged here. What was fetched and committed is never fetched again when the crawl goes on after a
crash.
"""

from __future__ import annotations

import asyncio
import heapq
import time
import zlib
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime

import msgspec

from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.extract import extract
from hodcarrier.core.facts import FILE_KINDS, PAGE_KINDS, Link, PageFacts
from hodcarrier.core.plan import Plan
from hodcarrier.core.robots import RobotsTxt, parse
from hodcarrier.core.sitemaps import read
from hodcarrier.core.urls import Resolver, drop_parameters, is_web, normalize, same_site, split
from hodcarrier.core.views import FAILURES, Answer
from hodcarrier.crawl.fetch import Fetched, Fetcher, HttpFetcher
from hodcarrier.runfile import schema
from hodcarrier.runfile.writer import RunWriter, Waiting

COMMIT_PAGES = 40
COMMIT_EVERY_S = 0.5
SITEMAPS_MAX = 100
ROBOTS_HOPS_MAX = 5
_FAR = 1 << 30


@dataclass
class Crawl:
    """One crawl of one site. ``now`` stamps the answers; ``should_stop`` is asked between fetches."""

    plan: Plan
    writer: RunWriter
    fetcher: Fetcher
    now: Callable[[], datetime]
    should_stop: Callable[[], str] = lambda: ""
    on_commit: Callable[[dict[str, object]], None] = lambda _progress: None
    robots: dict[str, RobotsTxt | None] = field(default_factory=dict)
    resolver: Resolver = field(default_factory=Resolver)
    recent: deque[tuple[str, int | None, str]] = field(default_factory=lambda: deque(maxlen=8))
    _heap: list[tuple[int, int, int, Waiting]] = field(default_factory=list)
    _drop: frozenset[str] = frozenset()
    _busy: int = 0
    _done_pages: int = 0
    _end: str = ""
    _began: float = 0.0
    _committed: float = 0.0
    _changed: asyncio.Event = field(default_factory=asyncio.Event)

    async def run(self) -> str:
        """Crawl to the end. Returns why it ended: ``complete``, ``pages``, ``time``, what ``should_stop`` said; ``failed: …`` when the start
        gave no answer at all."""
        self._began = self._committed = time.monotonic()
        self._drop = frozenset(self.plan.drop_parameters)
        problem = await self._prepare()
        if problem:
            self._commit()
            return problem
        for waiting in self.writer.waiting():
            self._push(waiting)
        self._done_pages = self.writer.counts().get("page-done", 0)
        tasks = [asyncio.create_task(self._work()) for _ in range(self.plan.parallel)]
        try:
            await asyncio.gather(*tasks)
        finally:
            for task in tasks:
                task.cancel()
            self._commit()
        if self._end:
            return self._end
        return "pages" if any(item[3].role == 0 for item in self._heap) else "complete"

    def _commit(self) -> None:
        began = time.perf_counter()
        self.writer.put_meta("progress", progress := self._progress())
        self.writer.commit()
        self.fetcher.own_work_s += time.perf_counter() - began
        self._committed = time.monotonic()
        self.on_commit(progress)

    def _progress(self) -> dict[str, object]:
        elapsed = max(0.001, time.monotonic() - self._began)
        return {
            "pages_done": self._done_pages,
            "queued": len(self._heap),
            "known": len(self.writer.ids),
            "elapsed_s": round(elapsed, 1),
            "per_s": round(self._done_pages / elapsed, 1),
            "recent": list(self.recent),
        }

    # -- before the first page ---------------------------------------------------------------------------------

    async def _prepare(self) -> str:
        if self.writer.meta("prepared"):
            for url, status, body in self.writer.db.execute("SELECT url, status, body FROM site_file WHERE kind = 'robots'"):
                self.robots[split(url).origin] = _policy(status, zlib.decompress(body))
            return ""
        start = self.plan.start[0]
        answer = await self._read_robots(split(start).origin)
        if answer.status is None and answer.failure in ("dns", "connect", "tls", "timeout", "refused-address"):
            words = FAILURES[answer.failure]
            detail = f" ({answer.detail})" if answer.detail else ""
            return f"failed: {split(start).host} cannot be audited: {words}{detail}."
        for url in self.plan.start:
            self.writer.know(url, "page", schema.FOUND_START, 0)
        if self.plan.use_sitemaps:
            await self._read_sitemaps(split(start).origin)
        self.writer.put_meta("prepared", True)
        self._commit()
        return ""

    async def _read_robots(self, origin: str) -> Answer:
        """Fetch an origin's robots.txt once. ``None`` as policy means unreachable: everything is disallowed (RFC 9309, 2.3.1)."""
        first = url = origin + "/robots.txt"
        hops = 0
        fetched = await self.fetcher.get(url)
        while fetched.location and hops < ROBOTS_HOPS_MAX:
            try:
                url = normalize(fetched.location, url)
            except InvalidUrl:
                break
            hops += 1
            fetched = await self.fetcher.get(url)
        body = fetched.body if fetched.answer.status is not None else b""
        self.robots[origin] = _policy(fetched.answer.status, body)
        if hops and fetched.location:
            self.robots[origin] = parse(b"")
        self.writer.add_site_file("robots", first, "usual", fetched.answer, hops, body)
        return fetched.answer

    async def _read_sitemaps(self, origin: str) -> None:
        policy = self.robots.get(origin)
        queue: deque[tuple[str, str]] = deque()
        for raw in policy.sitemaps if policy else ():
            try:
                queue.append((normalize(raw, origin), "robots"))
            except InvalidUrl:
                continue
        usual = origin + "/sitemap.xml"
        if usual not in {url for url, _ in queue}:
            queue.append((usual, "usual"))
        seen: set[str] = set()
        while queue and len(seen) < SITEMAPS_MAX:
            url, found = queue.popleft()
            if url in seen or not is_web(url):
                continue
            seen.add(url)
            if not await self._allowed(url):
                continue
            fetched = await self.fetcher.get(url)
            for _ in range(ROBOTS_HOPS_MAX):
                if not fetched.location:
                    break
                fetched = await self.fetcher.get(normalize(fetched.location, url))
            if fetched.answer.status != 200:
                self.writer.add_site_file("sitemap", url, found, fetched.answer, 0, b"")
                continue
            row = self.writer.add_site_file("sitemap", url, found, fetched.answer, 0, fetched.body)
            sitemap = read(fetched.body)
            for entry in sitemap.entries:
                try:
                    target = self._identity(normalize(entry.loc, url))
                except InvalidUrl:
                    continue
                if sitemap.kind == "index":
                    queue.append((target, "index"))
                elif is_web(target):
                    in_scope = self._in_scope(target)
                    address, _ = self.writer.know(
                        target,
                        "page" if in_scope else "external",
                        schema.FOUND_SITEMAP,
                        None,
                        schema.QUEUED if in_scope else schema.SKIPPED,
                    )
                    self.writer.add_listed(address, row, entry.lastmod)

    # -- the frontier ------------------------------------------------------------------------------------------

    def _identity(self, url: str) -> str:
        return drop_parameters(url, self._drop)

    def _in_scope(self, url: str) -> bool:
        return same_site(url, self.plan.host, self.plan.path_prefix, self.plan.subdomains)

    def _push(self, waiting: Waiting) -> None:
        depth = _FAR if waiting.depth is None else waiting.depth
        heapq.heappush(self._heap, (waiting.role, depth, waiting.id, waiting))
        self._changed.set()

    def _know(self, url: str, role: str, depth: int | None, found_by: int) -> None:
        too_far = depth is not None and depth > self.plan.depth_max
        too_long = len(url) > self.plan.url_chars_max
        state = schema.SKIPPED if role == "external" or too_far or too_long else schema.QUEUED
        address, new = self.writer.know(url, role, found_by, depth, state)
        if new and state == schema.QUEUED:
            self._push(Waiting(address, url, schema.ROLES.index(role), depth))

    def _take(self) -> Waiting | None:
        """The next address, pages before files, or ``None`` when none may be taken now."""
        if not self._heap:
            return None
        if self._heap[0][0] == 0 and self._done_pages + self._busy >= self.plan.pages_max:
            if self._busy:
                return None
            files = [item for item in self._heap if item[0] == 1]
            if not files:
                return None
            chosen = min(files)
            self._heap.remove(chosen)
            heapq.heapify(self._heap)
            return chosen[3]
        return heapq.heappop(self._heap)[3]

    def _must_end(self) -> bool:
        if not self._end:
            if reason := self.should_stop():
                self._end = reason
            elif time.monotonic() - self._began > self.plan.time_max_s:
                self._end = "time"
        return bool(self._end)

    # -- the work ----------------------------------------------------------------------------------------------

    async def _work(self) -> None:
        while not self._must_end():
            waiting = self._take()
            if waiting is None:
                if self._busy == 0:
                    self._changed.set()
                    return
                self._changed.clear()
                await self._changed.wait()
                continue
            self._busy += 1
            try:
                await self._handle(waiting)
            finally:
                self._busy -= 1
                self._changed.set()
            if self.writer.pending >= COMMIT_PAGES or time.monotonic() - self._committed > COMMIT_EVERY_S:
                self._commit()
        self._changed.set()

    async def _allowed(self, url: str) -> bool:
        if not self.plan.obey_robots:
            return True
        return (await self._verdict(url))[0]

    async def _verdict(self, url: str) -> tuple[bool, str]:
        origin = split(url).origin
        if origin not in self.robots:
            self.robots[origin] = parse(b"")
            await self._read_robots(origin)
        policy = self.robots[origin]
        if policy is None:
            return False, "robots.txt unreachable"
        verdict = policy.verdict(self.plan.robots_token, url)
        delay = policy.crawl_delay(self.plan.robots_token)
        if delay and self.plan.obey_crawl_delay and isinstance(self.fetcher, HttpFetcher):
            self.fetcher.host(url).pace.slow_to(delay)
        return verdict.allowed, f"{verdict.rule} (line {verdict.rule.line})" if verdict.rule and not verdict.allowed else ""

    async def _handle(self, waiting: Waiting) -> None:
        allowed, rule = await self._verdict(waiting.url)
        if not allowed and self.plan.obey_robots:
            self.writer.set_state(waiting.id, schema.DISALLOWED, rule)
            return
        if waiting.role == 1:
            fetched = await self.fetcher.get(waiting.url, "HEAD")
            if fetched.answer.status in (405, 501):
                fetched = await self.fetcher.get(waiting.url)
        else:
            fetched = await self.fetcher.get(waiting.url)
            self._done_pages += 1
        began = time.perf_counter()
        self._record(waiting, fetched)
        self.fetcher.own_work_s += time.perf_counter() - began
        self.recent.append((waiting.url, fetched.answer.status, fetched.answer.failure))

    def _record(self, waiting: Waiting, fetched: Fetched) -> None:
        answer = fetched.answer
        redirect_id: int | None = None
        if fetched.location:
            redirect_id = self._redirect(waiting, fetched.location)
        facts: PageFacts | None = None
        if waiting.role == 0 and answer.is_html and answer.status is not None and not fetched.location:
            facts = self._with_identities(extract(fetched.body, waiting.url, answer.header("content-type"), self.resolver))
            for link in facts.links:
                self._know_link(link, waiting)
        self.writer.add_answer(waiting.id, answer, redirect_id, self.now().isoformat(), facts)

    def _with_identities(self, facts: PageFacts) -> PageFacts:
        if not self._drop:
            return facts
        links = tuple(msgspec.structs.replace(link, url=self._identity(link.url)) for link in facts.links)
        return msgspec.structs.replace(facts, links=links)

    def _redirect(self, waiting: Waiting, location: str) -> int | None:
        try:
            target = self._identity(normalize(location, waiting.url))
        except InvalidUrl:
            return None
        if not is_web(target):
            return None
        role = schema.ROLES[waiting.role] if self._in_scope(target) else "external"
        self._know(target, role, waiting.depth, schema.FOUND_REDIRECT)
        return self.writer.ids[target]

    def _know_link(self, link: Link, source: Waiting) -> None:
        depth = None if source.depth is None else source.depth + 1
        role = "external"
        if link.kind in PAGE_KINDS and self._in_scope(link.url):
            role = "page" if self.plan.use_links or link.url in self.writer.ids else "external"
        elif link.kind in FILE_KINDS and same_site(link.url, self.plan.host, subdomains=self.plan.subdomains):
            role = "file"
        self._know(link.url, role, depth, schema.FOUND_LINK)


def _policy(status: int | None, body: bytes) -> RobotsTxt | None:
    """The rules a robots.txt answer stands for: 2xx its text, 4xx none, 5xx or no answer ``None`` (RFC 9309, 2.3.1)."""
    if status is None or status >= 500:
        return None
    return parse(body if 200 <= status < 300 else b"")
