"""Admission: what becomes of every URL that a crawl comes to know. One verdict a URL: fetched, left out and why, or another site's.

Scope, patterns, depth, nofollow and traps are asked here and nowhere else; robots.txt is asked when a URL's turn comes, because
reading it takes a request.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field

import msgspec

from hodcarrier.core.errors import InvalidUrl
from hodcarrier.core.facts.answer import REDIRECTS_MAX
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.values import CHECKED_KINDS, FILE_KINDS, FOLLOWED_KINDS, PAGE_KINDS, Link
from hodcarrier.core.plan import Plan
from hodcarrier.core.scope import Scope
from hodcarrier.core.web.sitemaps import Entry
from hodcarrier.core.web.traps import TrapGuard
from hodcarrier.core.web.urls import is_web, normalize
from hodcarrier.runfile import schema
from hodcarrier.runfile.writer import RunWriter, Waiting

DEEP = "deeper than the plan's limit"
NOFOLLOW = "only linked with nofollow"
_PASSING_LIMITS = frozenset({DEEP, NOFOLLOW})


@dataclass
class Admission:
    """Knows URLs and queues those that are to be fetched (``push``). ``files`` are the ids of files that are no pages."""

    plan: Plan
    scope: Scope
    writer: RunWriter
    push: Callable[[Waiting], None]
    files: set[int] = field(default_factory=set)
    _left_out: dict[str, int] = field(default_factory=dict)
    # What no further link can change: most links of a site lead there.
    _settled: set[str] = field(default_factory=set)

    def __post_init__(self) -> None:
        self.guard = TrapGuard(self.plan.pattern_pages_max, self.plan.query_pages_max)

    def restore(self) -> None:
        """What an earlier part of this crawl has admitted already."""
        self.files = {row for (row,) in self.writer.db.execute("SELECT id FROM address WHERE role = 1")}
        for url, state, rule, row in self.writer.db.execute("SELECT url, state, rule, id FROM address WHERE role = 0"):
            if state != schema.SKIPPED:
                self.guard.admit(url)
            elif rule in _PASSING_LIMITS:
                self._left_out[url] = row

    def list(self, url: str, found_by: int) -> int:
        """Know an address from a list or sitemap; gives its id."""
        url = self.scope.identity(url)
        if not self.scope.belongs(url):
            return self.writer.know(url, "external", found_by, None, schema.SKIPPED)[0]
        why = self.scope.why_excluded(url)
        if not why and len(url) > self.plan.url_chars_max:
            why = "longer than the plan's limit"
        return self.writer.know(url, "page", found_by, None, schema.SKIPPED if why else schema.QUEUED, why)[0]

    def list_entry(self, url: str, _sitemap: str, entry: Entry, row: int) -> None:
        """Know a URL that a sitemap lists."""
        self.writer.add_listed(self.list(url, schema.FOUND_SITEMAP), row, entry.lastmod)

    def _why_left_out(self, url: str, depth: int | None, nofollow: bool) -> str:
        """Why the plan or the guard leaves a page out; empty when it is fetched, and then the guard has counted it."""
        if why := self.scope.why_excluded(url):
            return why
        if len(url) > self.plan.url_chars_max:
            return "longer than the plan's limit"
        if depth is not None and depth > self.plan.depth_max:
            return DEEP
        return NOFOLLOW if nofollow else self.guard.admit(url)

    def _know_page(self, url: str, depth: int | None, found_by: int, nofollow: bool = False) -> int:
        """Know a page of the site, and queue it unless the plan leaves it out; gives its id."""
        why = self._why_left_out(url, depth, nofollow)
        address, _ = self.writer.know(url, "page", found_by, depth, schema.SKIPPED if why else schema.QUEUED, why)
        if not why:
            self.push(Waiting(address, url, schema.PAGE, depth))
        elif why in _PASSING_LIMITS:
            self._left_out[url] = address
        return address

    def _bring_back(self, url: str, depth: int | None) -> None:
        """A page that was left out for the way that led to it is found on a better way."""
        if (depth is None or depth <= self.plan.depth_max) and not self.guard.admit(url):
            address = self._left_out.pop(url)
            self.writer.set_state(address, schema.QUEUED)
            self.push(Waiting(address, url, schema.PAGE, depth))

    def _make_page(self, address: int, url: str, depth: int | None, nofollow: bool) -> None:
        """A file is linked like a page: it becomes one, whichever was seen first, so that every run finds the same pages."""
        if not self._why_left_out(url, depth, nofollow):
            self.files.discard(address)
            self.writer.set_role(address, schema.PAGE, depth)
            self.push(Waiting(address, url, schema.PAGE, depth))

    def _know_other(self, url: str, role: str, found_by: int, checked: bool, hops: int | None = None) -> int:
        """Know a file or an address on another site, to which ``hops`` redirects have led; gives its id."""
        address, new = self.writer.know(url, role, found_by, None, schema.QUEUED if checked else schema.SKIPPED)
        if new and role == "file":
            self.files.add(address)
        if new and checked:
            self.push(Waiting(address, url, schema.ROLES.index(role), hops))
        return address

    def know_links(self, facts: PageFacts, source: Waiting, directives: frozenset[str], named: Sequence[Link] = ()) -> None:
        """Know everything that a page refers to, and what the headers of its answer name."""
        depth = None if source.depth is None else source.depth + 1
        shut = self.plan.obey_nofollow and bool(directives & {"nofollow", "none"})
        settled = self._settled
        for link in (*facts.links.all, *named) if named else facts.links.all:
            url = link.url
            if url not in settled:
                self._meet(link, url, depth, shut)

    def _meet(self, link: Link, url: str, depth: int | None, page_shut: bool) -> None:
        """Know what a link leads to, or what the link changes of it."""
        known = self.writer.ids.get(url)
        if known is None:
            self._know_link(link, depth, page_shut)
            return
        if not self.writer.found[known] & schema.FOUND_LINK:
            self.writer.mark_linked(known)
        if known in self.files:
            if self._leads_to_page(link):
                self._make_page(known, url, depth, self._shut(link, page_shut))
        elif url not in self._left_out:
            self._settled.add(url)
        elif link.kind in PAGE_KINDS and not self._shut(link, page_shut):
            self._bring_back(url, depth)

    def _shut(self, link: Link, page_shut: bool) -> bool:
        return self.plan.obey_nofollow and link.kind in FOLLOWED_KINDS and (page_shut or "nofollow" in link.rel)

    def _leads_to_page(self, link: Link) -> bool:
        return link.kind in PAGE_KINDS and self.plan.use_links and self.scope.belongs(link.url)

    def _know_link(self, link: Link, depth: int | None, page_shut: bool) -> None:
        url = link.url
        if self._leads_to_page(link):
            self._know_page(url, depth, schema.FOUND_LINK, self._shut(link, page_shut))
        elif link.kind in FILE_KINDS and self.scope.on_site(url):
            self._know_other(url, "file", schema.FOUND_LINK, self.plan.check_files)
        else:
            checked = self.plan.check_external and link.kind in CHECKED_KINDS and not self.scope.on_site(url)
            self._know_other(url, "external", schema.FOUND_LINK, checked)

    def know_fonts(self, fonts: Iterable[str]) -> Iterator[str]:
        """Know the fonts that a style sheet loads; gives their addresses as the run knows them."""
        for raw in fonts:
            try:
                url = normalize(raw)
            except InvalidUrl:
                continue
            if not is_web(url):
                continue
            if self.scope.on_site(url):
                url = self.scope.identity(url)
                self._know_other(url, "file", schema.FOUND_LINK, self.plan.check_files)
            else:
                self._know_other(url, "external", schema.FOUND_LINK, self.plan.check_external)
            yield url

    def with_identities(self, facts: PageFacts) -> PageFacts:
        """The facts with links named as the plan's parameter rules name them."""
        if not self.scope.changes_urls:
            return facts
        links = list(facts.links.all)
        named = [(i, link) for i, link in enumerate(links) if "?" in link.url or ";" in link.url]
        if not named:
            return facts
        for i, link in named:
            if self.scope.on_site(link.url):
                links[i] = msgspec.structs.replace(link, url=self.scope.identity(link.url))
        return msgspec.structs.replace(facts, links=msgspec.structs.replace(facts.links, all=tuple(links)))

    def redirect(self, waiting: Waiting, location: str) -> int | None:
        """The id of the address a redirect leads to; ``None`` when it leads to none on the web."""
        try:
            target = normalize(location, waiting.url)
        except InvalidUrl:
            return None
        if not is_web(target):
            return None
        target = self.scope.identity(target) if self.scope.on_site(target) else target
        known = self.writer.ids.get(target)
        if known is not None:
            if target in self._left_out:
                self._bring_back(target, waiting.depth)
            self.writer.know(target, "page", schema.FOUND_REDIRECT)
            return known
        if waiting.role == schema.PAGE and self.scope.belongs(target):
            return self._know_page(target, waiting.depth, schema.FOUND_REDIRECT)
        if waiting.role == schema.FILE and self.scope.on_site(target):
            return self._know_other(target, "file", schema.FOUND_REDIRECT, True)
        hops = 1 + ((waiting.depth or 0) if waiting.role == schema.EXTERNAL else 0)
        checked = self.plan.check_external and not self.scope.on_site(target) and hops <= REDIRECTS_MAX
        return self._know_other(target, "external", schema.FOUND_REDIRECT, checked, hops)
