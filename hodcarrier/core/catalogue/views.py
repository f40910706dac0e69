"""What a check sees: frozen views over the facts of one run."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from datetime import datetime
from functools import cached_property

from hodcarrier.core.facts.answer import Answer, Target
from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.files import FileFacts
from hodcarrier.core.facts.forms import FormFacts
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.kinds import PageKind, kind_of
from hodcarrier.core.facts.language import LanguageFacts
from hodcarrier.core.facts.links import LinkFacts
from hodcarrier.core.facts.markup import MarkupFacts
from hodcarrier.core.facts.media import MediaFacts
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.preview import PreviewFacts
from hodcarrier.core.facts.probes import ProbeFacts
from hodcarrier.core.facts.site_files import Listed, RobotsFile, SitemapFile, Trap
from hodcarrier.core.facts.template import TemplateFacts
from hodcarrier.core.facts.text import TextFacts
from hodcarrier.core.facts.trust import TrustFacts
from hodcarrier.core.facts.values import FOLLOWED_KINDS, PICTURE_KINDS, Alternate, Link
from hodcarrier.core.plan import Plan


@dataclass(frozen=True)
class PageView:
    """One page for its checks. ``facts`` is ``None`` when no HTML document was read.

    ``inlinks`` are the other pages that link to it; ``linked_over_redirect``: a link of another page leads here over a redirect.
    ``alternates`` are the versions in other languages that it names, in the document, in headers and in sitemaps.
    ``refresh_to`` is the page that it gives way to at once by a refresh, which makes it a redirect and no document of its own.
    """

    url: str
    state: str
    depth: int | None
    answer: Answer | None
    facts: PageFacts | None
    directives: frozenset[str]
    canonical: str
    why_not: str
    inlinks: int
    linked_over_redirect: bool
    refresh_to: str
    listed: bool
    is_start: bool
    robots_rule: str
    was_indexable: bool
    plan: Plan
    lookup: Callable[[str], Target] = field(repr=False)
    facts_of: Callable[[str], PageFacts | None] = field(repr=False, default=lambda _url: None)
    # Of any page by its URL; ``None`` when it was not read.
    versions_of: Callable[[str], tuple[Alternate, ...] | None] = field(repr=False, default=lambda _url: None)
    # Why another page may not be indexed (a :class:`~hodcarrier.core.facts.indexable.WhyNot`), and how many pages link to it; the start page counts as linked.
    why_not_of: Callable[[str], str] = field(repr=False, default=lambda _url: "")
    inlinks_of: Callable[[str], int] = field(repr=False, default=lambda _url: 0)
    alternates: tuple[Alternate, ...] = ()
    site_has_sitemap: bool = False
    # The prints of the names within a page that links may point at, by its URL; ``None`` when it was not read, or has no names at all.
    fragments_of: Callable[[str], frozenset[int] | None] = field(repr=False, default=lambda _url: None)
    # What is known of a file by its URL; ``None`` when it gave no answer of 200.
    file_of: Callable[[str], SeenFile | None] = field(repr=False, default=lambda _url: None)
    # The template that all pages linking to it are of; empty when they are of several, or of none.
    linked_by_template: Callable[[], str] = field(repr=False, default=str)
    # The templates of the page and of the site's pages.
    own_template: str = ""
    templates: int = 0
    # Who leads to the page, in words.
    tell_how_found: Callable[[], str] = field(repr=False, default=str)
    # The pages on a shortest way by clicks from the start to a page, by its URL.
    trail_of: Callable[[str], tuple[str, ...]] = field(repr=False, default=lambda _url: ())

    @property
    def indexable(self) -> bool:
        """It answers 200 with HTML, has no noindex and no canonical to another page, and robots.txt does not keep it out."""
        return self.why_not == ""

    @property
    def how_found(self) -> str:
        """Who leads to the page, in words."""
        return self.tell_how_found()

    @cached_property
    def canonical_target(self) -> Target | None:
        """The other page of the site that it names as its canonical; ``None`` when it names none, itself, or another site."""
        if not self.canonical or self.canonical == self.url:
            return None
        target = self.lookup(self.canonical)
        return target if target.internal else None

    @cached_property
    def version_targets(self) -> tuple[tuple[Alternate, Target], ...]:
        """The other pages of the site that it names as its versions in other languages, where that counts."""
        named = ((alternate, self.lookup(alternate.url)) for alternate in self.alternates if alternate.in_head and alternate.url)
        return tuple((alternate, target) for alternate, target in named if alternate.url != self.url and target.internal)

    def waited_longer(self, limit_ms: float) -> bool | None:
        """Whether the first byte came later than a limit; ``None`` when that could not be measured. Only pages that answer 200 count."""
        answer = self.answer
        if answer is None or answer.status != 200:
            return False
        if answer.first_byte_ms is not None:
            return answer.first_byte_ms > limit_ms
        return None if answer.total_ms > limit_ms else False  # within it, the first byte came in time as well

    @property
    def is_document(self) -> bool:
        """Whether a whole document was read that people and search engines get to see."""
        answer = self.answer
        return (
            self.facts is not None and answer is not None and answer.status == 200 and not answer.failure and not self.refresh_to
        )

    @cached_property
    def kind(self) -> PageKind:
        """What kind of page it is, as far as that is certain."""
        facts = self.document
        mains = [heading.text for heading in facts.text.headings if heading.level == 1]
        links = sum(link.kind in FOLLOWED_KINDS and link.landmark == "main" for link in facts.links.all)
        return kind_of(self.url, facts.head.title, mains, links, facts.text.words, facts.forms.password_fields > 0)

    @property
    def refresh_later(self) -> tuple[int, str] | None:
        """After how many seconds the document gives way to another, and to which; ``None`` when it stays, or gives way at once."""
        head = self.facts.head if self.facts is not None and self.answer is not None and self.answer.status == 200 else None
        if head is None or self.refresh_to or not head.refresh or head.refresh == self.url:
            return None
        return head.refresh_s or 0, head.refresh

    @property
    def document(self) -> PageFacts:
        """The facts, for checks that need any."""
        if self.facts is None:
            raise LookupError(f"{self.url} has no document")
        return self.facts

    @property
    def head(self) -> HeadFacts:
        """Facts of the document: titles, descriptions, directives, canonicals."""
        return self.document.head

    @property
    def language(self) -> LanguageFacts:
        """Facts of the document: language, encoding, hreflang."""
        return self.document.language

    @property
    def text(self) -> TextFacts:
        """Facts of the document: headings and words."""
        return self.document.text

    @property
    def links(self) -> LinkFacts:
        """Facts of the document: references."""
        return self.document.links

    @property
    def media(self) -> MediaFacts:
        """Facts of the document: images."""
        return self.document.media

    @property
    def forms(self) -> FormFacts:
        """Facts of the document: forms."""
        return self.document.forms

    @property
    def preview(self) -> PreviewFacts:
        """Facts of the document: metas of previews."""
        return self.document.preview

    @property
    def data(self) -> DataFacts:
        """Facts of the document: structured data."""
        return self.document.data

    @property
    def markup(self) -> MarkupFacts:
        """Facts of the document: size and soundness."""
        return self.document.markup

    @property
    def template(self) -> TemplateFacts:
        """Facts of the document: template."""
        return self.document.template

    @property
    def trust(self) -> TrustFacts:
        """Facts of the document: who stands behind it."""
        return self.document.trust

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
        lookup = self.lookup
        return tuple([(link, lookup(url)) for url, link in self._sorted_links[1].items()])

    @cached_property
    def kinds_of_links(self) -> frozenset[str]:
        """The kinds of the document's references."""
        return frozenset(self._links_by_kind)

    @cached_property
    def _sorted_links(self) -> tuple[dict[str, dict[str, Link]], dict[str, Link]]:
        """Of every kind of reference the first one to each address; and the first one to each address that a visitor may click."""
        found: dict[str, dict[str, Link]] = {}
        clicked: dict[str, Link] = {}
        for link in self.document.links.all:
            kind, url = link.kind, link.url
            firsts = found.get(kind)
            if firsts is None:
                firsts = found[kind] = {}
            if url not in firsts:
                firsts[url] = link
                if kind in FOLLOWED_KINDS:
                    clicked.setdefault(url, link)
        return found, clicked

    @property
    def _links_by_kind(self) -> dict[str, dict[str, Link]]:
        return self._sorted_links[0]

    def distinct_links(self, *kinds: str) -> Iterator[Link]:
        """The document's references of these kinds (all, if none is named), kind by kind, one to every address only."""
        firsts: dict[str, Link] = {}
        for kind in kinds or self._links_by_kind:
            for url, link in self._links_by_kind.get(kind, {}).items():
                firsts.setdefault(url, link)
        yield from firsts.values()


@dataclass(frozen=True, slots=True)
class SeenFile:
    """A file that answered 200: its bytes over the wire, and what was read in it."""

    wire_bytes: int
    read: FileFacts


@dataclass(frozen=True)
class FileView:
    """A file (image, script, style sheet) of the site, all the ``kinds`` of use that pages make of it, and how many scored pages do.

    ``state`` is ``done`` or ``disallowed``; ``robots_rule`` the rule that keeps it out, obeyed or not.
    """

    url: str
    kinds: tuple[str, ...]
    state: str
    robots_rule: str
    answer: Answer
    target: Target
    used_by: int
    plan: Plan
    # What was read in it, and other addresses that hold the same bytes.
    read: FileFacts
    same_as: tuple[str, ...] = ()

    @property
    def is_picture(self) -> bool:
        """Whether pages show it as a picture."""
        return bool(PICTURE_KINDS.intersection(self.kinds))

    @property
    def needed_as(self) -> str:
        """``script`` or ``style`` when a page needs it to work or to look as it should; else empty."""
        return next((kind for kind in ("script", "style") if kind in self.kinds), "")


@dataclass(frozen=True)
class SiteView:
    """The whole site for its checks. ``documents`` answer 200; ``canonical_hosts`` are other hosts that they name in canonicals, each with
    the number of documents that do."""

    url: str
    robots: RobotsFile
    sitemaps: tuple[SitemapFile, ...]
    listed: Listed
    start: PageView | None
    documents: int
    canonical_hosts: tuple[tuple[str, int], ...]
    pages_linked: int
    pages_disallowed: int
    rules_hit: tuple[tuple[str, int], ...]
    refused: int
    answered: int
    certificate_days: float | None
    certificate_ends: str
    postal: bool
    traps: tuple[Trap, ...]
    probes: ProbeFacts
    examined_at: datetime
    plan: Plan

    @property
    def start_document(self) -> PageView | None:
        """The start page; ``None`` when no whole document was read there."""
        return self.start if self.start is not None and self.start.is_document else None


@dataclass(frozen=True)
class GroupView:
    """Pages that share what a group check looks at, in the order of their URLs."""

    key: str
    members: tuple[str, ...]
