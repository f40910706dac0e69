"""The crawl: breadth first from the start, into the run file.

Facts only; nothing is judged here. What was fetched and committed is never fetched again when the crawl goes on after a
crash.
"""

from __future__ import annotations

import asyncio
import time
from collections import deque
from collections.abc import Callable, Iterable
from dataclasses import asdict, dataclass, field, replace
from datetime import datetime

import msgspec

from hodcarrier.core.facts.answer import FAILURES, Answer
from hodcarrier.core.facts.files import is_raster, is_text, read_file
from hodcarrier.core.facts.heavy import is_heavy
from hodcarrier.core.facts.indexable import header_directives
from hodcarrier.core.facts.page import PageFacts, collect
from hodcarrier.core.facts.values import Link
from hodcarrier.core.plan import Plan
from hodcarrier.core.progress import Mark, Progress, pace, time_left
from hodcarrier.core.scope import Scope
from hodcarrier.core.web.link_header import alternates_from_header, canonical_from_header
from hodcarrier.core.web.urls import Resolver, is_web, split
from hodcarrier.crawl.admission import Admission
from hodcarrier.crawl.fetch import Fetched, Fetcher
from hodcarrier.crawl.frontier import Frontier
from hodcarrier.crawl.readers import Readers
from hodcarrier.crawl.sources import SiteFiles
from hodcarrier.runfile import schema
from hodcarrier.runfile.writer import RunWriter, Waiting

COMMIT_PAGES = 200
COMMIT_EVERY_S = 1.0
ASK_EVERY_S = 0.5
GRACE_S = 5.0
EXTERNAL_WORKERS = 8
HEAD_BYTES_MAX = 65_536
# Of an image this much tells its format and its size; smaller ones are read whole.
IMAGE_BYTES = 32_768
_NO_START = frozenset({"dns", "connect", "tls", "timeout", "refused-address"})


@dataclass
class Crawl:
    """One crawl of one site. ``now`` stamps the answers; ``should_stop`` is asked between fetches; ``readers`` end with the crawl;
    ``inspect``: the errors in the source of pages are read too."""

    plan: Plan
    writer: RunWriter
    fetcher: Fetcher
    now: Callable[[], datetime]
    should_stop: Callable[[], str] = lambda: ""
    on_commit: Callable[[Progress], None] = lambda _progress: None
    resolver: Resolver = field(default_factory=Resolver)
    readers: Readers = field(default_factory=Readers)
    inspect: bool = False
    recent: deque[tuple[str, int | None, str]] = field(default_factory=lambda: deque(maxlen=8))
    _waits: Frontier = field(default_factory=Frontier)
    _states: dict[str, int] = field(default_factory=dict)
    _external_tasks: set[asyncio.Task[None]] = field(default_factory=set)
    _busy: int = 0
    _busy_pages: int = 0
    _done_pages: int = 0
    _marks: deque[Mark] = field(default_factory=lambda: deque(maxlen=30))
    _end: str = ""
    _began: float = 0.0
    _committed: float = 0.0
    _changed: asyncio.Event = field(default_factory=asyncio.Event)

    def __post_init__(self) -> None:
        self.scope = Scope.of(self.plan)
        self.admission = Admission(self.plan, self.scope, self.writer, self._push)
        self.files = SiteFiles(self.plan, self.writer, self.fetcher)

    async def run(self) -> str:
        """Crawl to the end. Returns why it ended: ``complete``, ``pages``, ``time``, what ``should_stop`` said; ``failed: …`` when the start
        gave no answer at all."""
        self._began = self._committed = time.monotonic()
        problem = await self._prepare()
        if problem:
            self._commit()
            return problem
        self._restore()
        tasks = [asyncio.create_task(self._work()) for _ in range(self.plan.parallel)]
        try:
            await self._until_done(tasks)
            while self._external_tasks:
                await self._until_done(self._external_tasks)
        finally:
            for task in (*tasks, *self._external_tasks):
                task.cancel()
            self.readers.end()
            self._commit()
        if self._end:
            return self._end
        return "pages" if self._waits.pages or self.files.cut else "complete"

    async def _until_done(self, tasks: Iterable[asyncio.Task[None]]) -> None:
        """Wait for workers. When the crawl is to end, those that wait for a host get some seconds more and are then let go;
        what they were asking for stays unfetched."""
        waiting = set(tasks)
        while waiting:
            done, waiting = await asyncio.wait(waiting, timeout=ASK_EVERY_S)
            if waiting and self._must_end():
                ended, late = await asyncio.wait(waiting, timeout=GRACE_S)
                for task in late:
                    task.cancel()
                await asyncio.gather(*late, return_exceptions=True)
                done, waiting = done | ended, set()
            for task in done:
                task.result()

    def _restore(self) -> None:
        for waiting in self.writer.waiting():
            self._push(waiting)
        self._done_pages = self.writer.counts().get("page-done", 0)
        self.admission.restore()

    def _commit(self) -> None:
        progress = self._progress()
        self.writer.put_meta("progress", asdict(progress))
        if self.admission.guard.full:
            traps = [{"pattern": p, "limit": limit, "examples": urls} for p, (limit, urls) in self.admission.guard.full.items()]
            self.writer.put_meta("traps", traps)
        self.writer.commit()
        self._committed = time.monotonic()
        self.on_commit(progress)

    def _progress(self) -> Progress:
        elapsed = time.monotonic() - self._began
        self._marks.append(Mark(elapsed, self._done_pages, len(self._waits.pages)))
        left = time_left(self._marks, self.plan.pages_max, self.plan.time_max_s)
        return Progress(
            pages_done=self._done_pages,
            queued=len(self._waits),
            pages_queued=min(len(self._waits.pages), max(0, self.plan.pages_max - self._done_pages)),
            known=len(self.writer.ids),
            elapsed_s=round(elapsed, 1),
            per_s=round(pace(self._marks), 1),
            left_s=None if left is None else round(left),
            slower=round(self.fetcher.slower(self.plan.start[0]), 1),
            answers=dict(self._states),
            recent=list(self.recent),
        )

    # -- before the first page ---------------------------------------------------------------------------------

    async def _prepare(self) -> str:
        if self.writer.meta("prepared"):
            self.files.restore()
            return ""
        self.writer.forget_site_files()
        start = self.plan.start[0]
        answer = await self.files.read_robots(split(start).origin)
        if answer.status is None and answer.failure in _NO_START:
            words = FAILURES[answer.failure]
            detail = f" ({answer.detail})" if answer.detail else ""
            return f"failed: {split(start).host} cannot be audited: {words}{detail}."
        self.on_commit(self._progress())
        for url in self.plan.start:
            self.writer.know(url, "page", schema.FOUND_START, 0)
        for url in self.plan.addresses:
            self.admission.list(url, schema.FOUND_LIST)
        await self.files.read_sitemaps(split(start).origin, self.admission.list_entry, self._must_end)
        if self._end != "leave":
            self.writer.put_meta("prepared", True)
        self._commit()
        return ""

    def _push(self, waiting: Waiting) -> None:
        self._waits.push(waiting)
        if waiting.role != schema.EXTERNAL:
            self._changed.set()
        elif len(self._external_tasks) < EXTERNAL_WORKERS:
            task = asyncio.create_task(self._work_external())
            self._external_tasks.add(task)
            task.add_done_callback(self._external_tasks.discard)

    # -- the work ----------------------------------------------------------------------------------------------

    def _must_end(self) -> bool:
        if not self._end:
            if reason := self.should_stop():
                self._end = reason
            elif time.monotonic() - self._began > self.plan.time_max_s:
                self._end = "time"
        return bool(self._end)

    async def _work(self) -> None:
        while not self._must_end():
            waiting = self._waits.take(self.plan.pages_max - self._done_pages, self._busy_pages)
            if waiting is None:
                if self._busy == 0:
                    self._changed.set()
                    return
                self._changed.clear()
                await self._changed.wait()
                continue
            if waiting.role == schema.FILE and waiting.id not in self.admission.files:
                continue  # it has become a page and waits among them
            is_page = waiting.role == schema.PAGE
            self._busy += 1
            self._busy_pages += is_page
            try:
                await self._handle(waiting)
            finally:
                self._busy -= 1
                self._busy_pages -= is_page
                self._changed.set()
            self._commit_when_due()
        self._changed.set()

    async def _work_external(self) -> None:
        """Check addresses on other sites until none is left."""
        while self._waits.external and not self._must_end():
            await self._check(self._waits.external.popleft())
            self._commit_when_due()

    def _commit_when_due(self) -> None:
        if self.writer.pending >= COMMIT_PAGES or time.monotonic() - self._committed > COMMIT_EVERY_S:
            self._commit()

    async def _handle(self, waiting: Waiting) -> None:
        allowed, rule = await self.files.verdict(waiting.url)
        if self.plan.obey_crawl_delay and (delay := self.files.crawl_delay_s(split(waiting.url).origin)):
            self.fetcher.slow_to(waiting.url, delay)
        if not allowed and self.plan.obey_robots:
            self.writer.set_state(waiting.id, schema.DISALLOWED, rule)
            return
        if waiting.role == schema.FILE:
            await self._check(waiting, rule)
            return
        fetched = await self.fetcher.get(waiting.url)
        apart = None
        if is_heavy(fetched.body):
            fetched, apart = await self._read_apart(waiting, fetched)
        self._done_pages += 1
        self._record_page(waiting, fetched, apart, rule)
        self._note(waiting, fetched)

    async def _check(self, waiting: Waiting, rule: str = "") -> None:
        """Whether a file or an address on another site answers: by HEAD, then by GET where HEAD is refused, says no, or does not say how large
        a file is. Of files whose names say that something is to be read in them, that is done at once."""
        if waiting.role == schema.FILE and (is_text(waiting.url) or is_raster(waiting.url)):
            await self._read_file(waiting, rule)
            return
        fetched = await self.fetcher.get(waiting.url, "HEAD")
        unweighed = waiting.role == schema.FILE and fetched.answer.status == 200 and not fetched.answer.header("content-length")
        if fetched.answer.status is None or fetched.answer.status >= 400 or unweighed:
            # What a file of the site weighs is known by reading it, where nothing announces it.
            fetched = await self.fetcher.get(waiting.url, bytes_max=self.plan.bytes_max if unweighed else HEAD_BYTES_MAX)
            if fetched.answer.failure == "too-large":
                fetched = replace(fetched, answer=replace(fetched.answer, failure=""))
        size = fetched.answer.announced_bytes
        if size is not None and fetched.answer.status == 200:
            fetched = replace(fetched, answer=replace(fetched.answer, wire_bytes=size, decoded_bytes=size))
        if waiting.role == schema.FILE and waiting.id not in self.admission.files:
            return  # it has become a page meanwhile and is fetched as one
        redirect = self.admission.redirect(waiting, fetched.location) if fetched.location else None
        self.writer.add_answer(waiting.id, fetched.answer, redirect, self.now().isoformat(), None, rule)
        self._note(waiting, fetched)

    async def _read_file(self, waiting: Waiting, rule: str) -> None:
        """Read a script, a style sheet or a drawing whole, and of an image as much as tells what it is."""
        whole = is_text(waiting.url)
        fetched = await self.fetcher.get(waiting.url, bytes_max=self.plan.bytes_max, begin_bytes=0 if whole else IMAGE_BYTES)
        if fetched.answer.status == 416 and not whole:  # of an empty file there is no beginning (RFC 9110, 15.5.17)
            fetched = await self.fetcher.get(waiting.url, bytes_max=self.plan.bytes_max)
        answer = fetched.answer
        total = answer.header("content-range").rpartition("/")[2]
        read = len(fetched.body)
        if answer.status == 206:
            size = int(total) if total.isdigit() else read
            whole = read >= size
            answer = replace(answer, status=200, wire_bytes=size, decoded_bytes=size)
        else:
            whole = not answer.failure
            announced = answer.announced_bytes
            if announced is not None and answer.status == 200:
                decoded = answer.decoded_bytes if answer.is_encoded else announced
                answer = replace(answer, wire_bytes=announced, decoded_bytes=decoded)
        if answer.failure == "too-large":
            answer = replace(answer, failure="")
        if waiting.id not in self.admission.files:
            return  # it has become a page meanwhile and is fetched as one
        redirect = self.admission.redirect(waiting, fetched.location) if fetched.location else None
        if answer.status == 200:
            facts = read_file(fetched.body, waiting.url, answer.content_type, whole)
            facts = msgspec.structs.replace(facts, fonts=tuple(self.admission.know_fonts(facts.fonts)))
            self.writer.add_file_facts(waiting.id, facts)
        fetched = replace(fetched, answer=answer)
        self.writer.add_answer(waiting.id, answer, redirect, self.now().isoformat(), None, rule)
        self._note(waiting, fetched)

    def _note(self, waiting: Waiting, fetched: Fetched) -> None:
        answer = fetched.answer
        self.recent.append((waiting.url, answer.status, answer.failure))
        key = answer.failure if answer.status is None else f"{answer.status // 100}xx"
        self._states[key] = self._states.get(key, 0) + 1

    async def _read_apart(self, waiting: Waiting, fetched: Fetched) -> tuple[Fetched, PageFacts | None]:
        """The facts of a heavy document; an answer that says so when they could not be had."""
        answer = fetched.answer
        if not answer.is_html or fetched.location:
            return fetched, None
        facts = await self.readers.read(fetched.body, waiting.url, answer.header("content-type"), self.plan.expected)
        return (fetched, facts) if facts else (replace(fetched, answer=replace(answer, failure="tangled")), None)

    def _record_page(self, waiting: Waiting, fetched: Fetched, apart: PageFacts | None, rule: str) -> None:
        """Record a page. ``apart`` are its facts when they were read by another process already."""
        answer = fetched.answer
        redirect = self.admission.redirect(waiting, fetched.location) if fetched.location else None
        facts = apart
        if facts is None and answer.is_html and not fetched.location and answer.failure != "tangled":
            kind = answer.header("content-type")
            facts = collect(fetched.body, waiting.url, kind, self.resolver, self.plan.expected, self.inspect)
        if facts is not None and not answer.is_success:
            # What an error page links to is no link of the site: its template would make thousands of them.
            facts = msgspec.structs.replace(facts, links=msgspec.structs.replace(facts.links, all=()))
        elif facts is not None:
            facts = self.admission.with_identities(facts)
            directives = facts.head.directives() | header_directives(answer.header_values("x-robots-tag"))
            self.admission.know_links(facts, waiting, directives, _named(answer, waiting.url))
        self.writer.add_answer(waiting.id, answer, redirect, self.now().isoformat(), facts, rule, fetched.body)


def _named(answer: Answer, url: str) -> list[Link]:
    """The pages that ``Link`` headers name: versions in other languages, and the canonical."""
    values = answer.header_values("link")
    if not values:
        return []
    found = [Link(version, "alternate", version) for _, version in alternates_from_header(values, url) if is_web(version)]
    canonical = canonical_from_header(values, url)
    return [*found, Link(canonical, "canonical", canonical)] if canonical else found
