"""The facts of one run arranged for checks: addresses in memory, pages streamed."""

from __future__ import annotations

import sqlite3
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import lru_cache

from hodcarrier.core.catalogue.views import PageView
from hodcarrier.core.facts.answer import REDIRECTS, REDIRECTS_MAX, Answer, Hop, Target
from hodcarrier.core.facts.indexable import header_directives, why_not_indexable
from hodcarrier.core.facts.markup import unpack_prints
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.values import Alternate
from hodcarrier.core.judge.areas import Seen, seen_of
from hodcarrier.core.plan import Plan
from hodcarrier.core.scope import Scope
from hodcarrier.core.web.link_header import alternates_from_header, canonical_from_header
from hodcarrier.core.web.urls import split
from hodcarrier.examine import ways
from hodcarrier.examine.files import Files
from hodcarrier.examine.graph import know_fonts, read_graph
from hodcarrier.examine.templates import read_templates
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import unpack_facts, unpack_links, unpack_small
from hodcarrier.runfile.reader import ANSWER_COLUMNS, RunFile, make_answer

# Of how many pages the names within them are held in memory at once: links come from one part of a site to another.
FRAGMENTS_KEPT = 1_000


@dataclass(slots=True)
class Known:
    """What is held in memory of every address."""

    url: str
    role: int
    state: int
    depth: int | None
    found_by: int
    rule: str
    status: int | None = None
    failure: str = ""
    redirect_id: int | None = None
    why_not: str = ""
    html: bool = False
    # The page that it gives way to at once by a refresh: it is a redirect, not a page of its own.
    refresh_id: int | None = None

    @property
    def is_stub(self) -> bool:
        """Whether it is a document that gives way to another one at once."""
        return self.status == 200 and self.refresh_id is not None


@dataclass(frozen=True)
class Neighbourhood:
    """Where a single page stands among the pages of another run: the ids of pages that link to it there, whether a sitemap lists
    it, its depth and how it was found."""

    url: str
    inlinks: Sequence[int]
    listed: bool
    depth: int | None
    found_by: int


@dataclass
class RunViews:
    """Everything checks may ask of a run."""

    db: sqlite3.Connection
    plan: Plan
    known: list[Known]
    ids: dict[str, int]
    listed: set[int]
    inlinks: dict[int, Sequence[int]] = field(default_factory=dict)
    file_users: dict[int, Sequence[int]] = field(default_factory=dict)
    file_kinds: dict[int, tuple[str, ...]] = field(default_factory=dict)
    # Pages that a link of another page leads to over a redirect.
    over_redirects: set[int] = field(default_factory=set)
    once_indexable: set[str] = field(default_factory=set)
    # Documents that answer 200, and how many of them name a canonical on which other host.
    documents: int = 0
    canonical_hosts: Counter[str] = field(default_factory=Counter)
    # Of pages that something other than a link names: the kind of reference, and the page it stands on. Of pages that clicks lead to: the
    # page before on a shortest way from the start.
    named: dict[int, tuple[str, int]] = field(default_factory=dict)
    before: dict[int, int] = field(default_factory=dict)
    # The names of the templates of pages.
    templates: dict[int, str] = field(default_factory=dict)
    templates_count: int = 0
    # Versions in other languages that sitemaps name.
    listed_versions: dict[int, tuple[Alternate, ...]] = field(default_factory=dict)
    outside_answers: bool = False
    # A single page among the pages of another run: the ids of those that link to it are of that run.
    borrowed: bool = False

    def __post_init__(self) -> None:
        self._scope = Scope.of(self.plan)
        self.files = Files(self.db, self.ids)
        self._fragments: dict[int, frozenset[int] | None] = {}

    @classmethod
    def load(cls, db: sqlite3.Connection, plan: Plan, neighbourhood: Neighbourhood | None = None) -> RunViews:
        """Read addresses and answers, and the link graph from the packed links."""
        known = [Known("", 2, schema.SKIPPED, None, 0, "")]
        for url, role, state, depth, found_by, rule in db.execute(
            "SELECT url, role, state, depth, found_by, rule FROM address ORDER BY id"
        ):
            known.append(Known(url, role, state, depth, found_by, rule))
        for row_id, status, failure, redirect in db.execute("SELECT address_id, status, failure, redirect_id FROM answer"):
            item = known[row_id]
            item.status, item.failure, item.redirect_id = status, failure, redirect
        listed = {row[0] for row in db.execute("SELECT DISTINCT address_id FROM listed")}
        views = cls(db, plan, known, {k.url: i for i, k in enumerate(known) if i}, listed)
        views.outside_answers = any(item.role == schema.EXTERNAL and item.status is not None for item in known)
        views._read_listed_versions()
        read_graph(views)
        know_fonts(views)
        views._read_verdicts()
        documents = ((i, item.url) for i, item in enumerate(known) if item.html and item.status == 200)
        views.templates = read_templates(db, documents)
        views.templates_count = len(set(views.templates.values()))
        if neighbourhood is not None:
            views._place(neighbourhood)
        return views

    def _read_listed_versions(self) -> None:
        for url, code, version in RunFile(self.db).sitemap_alternates():
            if i := self.ids.get(url):
                self.listed_versions[i] = (*self.listed_versions.get(i, ()), Alternate(code, version, True, "sitemap"))

    def _place(self, found: Neighbourhood) -> None:
        here = self.ids[found.url]
        self.borrowed = True
        self.inlinks[here] = found.inlinks
        if found.listed:
            self.listed.add(here)
        self.known[here].depth, self.known[here].found_by = found.depth, found.found_by

    def _read_verdicts(self) -> None:
        pages = {row[0] for row in self.db.execute("SELECT address_id FROM page")}
        for i, item in enumerate(self.known):
            item.html = i in pages
            if item.role == 0 and not item.html:
                item.why_not = self._why_not(i, frozenset(), "")
        # From columns, without unpacking the facts of every document for it.
        sql = "SELECT page.address_id, page.robots, page.canonical, headers FROM page JOIN answer ON answer.address_id = page.address_id"
        for i, robots, canonical, packed in self.db.execute(sql):
            item, directives = self.known[i], frozenset(filter(None, robots.split(", ")))
            if b"x-robots-tag" in packed or b"link" in packed:
                headers = unpack_small(packed)
                directives |= header_directives(value for name, value in headers if name == "x-robots-tag")
                canonical = canonical or canonical_from_header((value for name, value in headers if name == "link"), item.url)
            if item.status == 200:
                self.documents += 1
                host = split(canonical).host if canonical else ""
                if host and host != split(item.url).host:
                    self.canonical_hosts[host] += 1
            item.why_not = self._why_not(i, self.obeyed(directives), canonical)

    def _why_not(self, i: int, directives: frozenset[str], canonical: str) -> str:
        """The reason an address may not be indexed (empty: it may)."""
        item = self.known[i]
        if canonical and not self.plan.obey_canonical and split(canonical).host != split(item.url).host:
            canonical = ""
        return why_not_indexable(
            state=schema.STATES[item.state],
            status=item.status,
            html=item.html,
            directives=directives,
            canonical=canonical,
            url=item.url,
            stub=item.is_stub,
        )

    def pages(self) -> Iterator[tuple[int, PageView]]:
        """Every page address with its view, in the order of ids."""
        sql = (
            f"SELECT address.id, page.facts, page.links, {ANSWER_COLUMNS} FROM address"
            " LEFT JOIN answer ON answer.address_id = address.id LEFT JOIN page ON page.address_id = address.id"
            " WHERE role = 0 ORDER BY address.id"
        )
        lookup = lru_cache(maxsize=50_000)(self.target)
        url_of = [item.url for item in self.known].__getitem__  # asked for every link of the site
        for row_id, facts_blob, links_blob, *columns in self.db.execute(sql):
            answer = make_answer(tuple(columns)) if columns[4] is not None else None
            facts = unpack_facts(facts_blob, unpack_links(links_blob, url_of)) if facts_blob is not None else None
            yield row_id, self._view(row_id, answer, facts, lookup)

    def page(self, i: int) -> PageView | None:
        """The view of one page address."""
        sql = (
            f"SELECT page.facts, page.links, {ANSWER_COLUMNS} FROM answer LEFT JOIN page USING (address_id) WHERE address_id = ?"
        )
        row = self.db.execute(sql, (i,)).fetchone()
        if row is None:
            return self._view(i, None, None, self.target)
        facts = unpack_facts(row[0], unpack_links(row[1], self.url_of)) if row[0] is not None else None
        return self._view(i, make_answer(tuple(row[2:])), facts, self.target)

    def _view(self, i: int, answer: Answer | None, facts: PageFacts | None, lookup: object) -> PageView:
        item = self.known[i]
        return PageView(
            url=item.url,
            state=schema.STATES[item.state],
            depth=item.depth,
            answer=answer,
            facts=facts,
            directives=self.obeyed(directives_of(answer, facts)),
            canonical=canonical_of(answer, facts, item.url),
            why_not=item.why_not,
            inlinks=len(self.inlinks.get(i, ())),
            listed=i in self.listed,
            linked_over_redirect=i in self.over_redirects,
            refresh_to=self.known[item.refresh_id or 0].url if item.is_stub else "",
            is_start=bool(item.found_by & schema.FOUND_START),
            robots_rule=item.rule,
            was_indexable=item.url in self.once_indexable,
            plan=self.plan,
            lookup=lookup,  # type: ignore[arg-type]
            facts_of=self.facts_of,
            versions_of=self.versions_of,
            why_not_of=self.why_not_of,
            inlinks_of=self.inlinks_of,
            site_has_sitemap=bool(self.listed),
            fragments_of=self.fragments_of,
            file_of=self.files.of,
            linked_by_template=lambda: self._linked_by_template(i),
            own_template=self.templates.get(i, ""),
            templates=self.templates_count,
            tell_how_found=lambda: ways.how_found(self, i),
            trail_of=lambda url: ways.trail_of(self, url),
            alternates=self._alternates(i, answer, facts),
        )

    def _alternates(self, i: int, answer: Answer | None, facts: PageFacts | None) -> tuple[Alternate, ...]:
        """The versions in other languages that a page names, wherever it does."""
        found = facts.language.alternates if facts is not None else ()
        links = answer.header_values("link") if answer is not None else ()
        if links:
            named = alternates_from_header(links, self.known[i].url)
            found += tuple(Alternate(code, url, True, "header") for code, url in named)
        return found + self.listed_versions.get(i, ())

    def _linked_by_template(self, i: int) -> str:
        """The template that all pages linking to an address are of."""
        found = ""
        for source in self.inlinks.get(i, ()):
            template = self.templates.get(source, "")
            if not template or (found and template != found):
                return ""
            found = template
        return found

    def fragments_of(self, url: str) -> frozenset[int] | None:
        """The prints of the names within a page, by its URL."""
        i = self.ids.get(url, 0)
        if i not in self._fragments:
            if len(self._fragments) >= FRAGMENTS_KEPT:
                self._fragments.clear()
            row = self.db.execute("SELECT prints FROM page_fragment WHERE address_id = ?", (i,)).fetchone()
            self._fragments[i] = unpack_prints(row[0]) if row else None
        return self._fragments[i]

    def why_not_of(self, url: str) -> str:
        """Why a page may not be indexed, by its URL; empty also for one that the run does not know."""
        return self.known[self.ids.get(url, 0)].why_not

    def inlinks_of(self, url: str) -> int:
        """How many pages link to a page, by its URL; the start page counts as linked."""
        i = self.ids.get(url, 0)
        return len(self.inlinks.get(i, ())) + bool(self.known[i].found_by & schema.FOUND_START)

    def versions_of(self, url: str) -> tuple[Alternate, ...] | None:
        """The versions in other languages that a page names, by its URL; ``None`` when the page was not read."""
        i = self.ids.get(url, 0)
        row = self.db.execute(
            f"SELECT page.facts, {ANSWER_COLUMNS} FROM page JOIN answer ON answer.address_id = page.address_id WHERE page.address_id = ?",
            (i,),
        ).fetchone()
        return self._alternates(i, make_answer(tuple(row[1:])), unpack_facts(row[0], ())) if row else None

    def obeyed(self, found: frozenset[str]) -> frozenset[str]:
        """The robots directives that count by the plan: noindex may be left aside, for staging sites."""
        return found if self.plan.obey_noindex else found - {"noindex", "none"}

    def url_of(self, i: int) -> str:
        """The URL of an address id."""
        return self.known[i].url

    def facts_of(self, url: str) -> PageFacts | None:
        """Facts of another page by its URL, without links."""
        row = self.db.execute("SELECT facts FROM page WHERE address_id = ?", (self.ids.get(url, 0),)).fetchone()
        return unpack_facts(row[0], ()) if row else None

    def target(self, url: str) -> Target:
        """What the run knows of an address, with redirects followed to their end."""
        i = self.ids.get(url)
        if i is None:
            return Target(url, False, "unknown")
        item = self.known[i]
        hops: list[Hop] = []
        seen = {i}
        at, end = i, item
        loop = False
        while end.redirect_id is not None:
            hops.append(Hop(end.url, end.status or 0))
            at = end.redirect_id
            end = self.known[at]
            if at in seen or len(hops) > REDIRECTS_MAX:
                loop = True
                break
            seen.add(at)
        return Target(
            url,
            item.role != schema.EXTERNAL or self._scope.on_site(item.url),
            "skipped" if item.role == schema.EXTERNAL and not self.outside_answers else schema.STATES[item.state],
            item.status,
            item.failure,
            tuple(hops),
            loop,
            end.url,
            schema.STATES[end.state],
            end.status,
            end.failure if end.status is None else "",
        )

    def seen(self, i: int) -> Seen:
        """How much was seen of a scored page."""
        item = self.known[i]
        document = item.html and item.status == 200 and not item.failure
        return seen_of(item.state == schema.DISALLOWED, item.status, document, item.why_not == "")

    def is_scored(self, i: int) -> bool:
        """HTML or an error answer; not a redirect; kept out by robots.txt only if it was indexable in an earlier run."""
        item = self.known[i]
        if item.role != 0:
            return False
        if item.state == schema.DISALLOWED:
            return item.url in self.once_indexable
        if item.state != schema.DONE or item.redirect_id is not None or item.is_stub:
            return False
        return item.html or item.status is None or item.status >= 400 or item.status in REDIRECTS


def directives_of(answer: Answer | None, facts: PageFacts | None) -> frozenset[str]:
    """Robots directives of metas and ``X-Robots-Tag`` headers together."""
    from_header = header_directives(answer.header_values("x-robots-tag")) if answer else frozenset()
    return from_header | (facts.head.directives() if facts else frozenset())


def canonical_of(answer: Answer | None, facts: PageFacts | None, url: str) -> str:
    """The canonical that counts: the document's, else that of a ``Link`` header (RFC 8288)."""
    named = facts.head.canonical if facts else ""
    return named or (canonical_from_header(answer.header_values("link"), url) if answer else "")
