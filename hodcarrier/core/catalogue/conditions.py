"""What a page must have for a check to have anything to look at. Where it has not, the check does not apply: it has not passed."""

from __future__ import annotations

from collections.abc import Callable
from enum import StrEnum

from hodcarrier.core.catalogue.views import PageView
from hodcarrier.core.facts.answer import REDIRECTS
from hodcarrier.core.facts.values import FILE_KINDS, FOLLOWED_KINDS


class When(StrEnum):
    """A condition on a page; ``always``: every page that was read so far as the check needs."""

    ALWAYS = "always"
    SECURE = "secure"
    PLAIN = "plain"
    REDIRECT = "redirect"
    LISTED = "listed"
    QUERY = "query"
    XML = "xml"
    KNOWN_BEFORE = "known-before"
    DIRECTIVES = "directives"
    CANONICAL = "canonical"
    CANONICAL_ELSEWHERE = "canonical-elsewhere"
    VERSIONS = "versions"
    TITLE = "title"
    DESCRIPTION = "description"
    HEADINGS = "headings"
    MAIN_HEADING = "main-heading"
    LINKS = "links"
    OUTWARD = "outward"
    IMAGES = "images"
    FILES = "files"
    PREVIEW = "preview"
    DATA = "data"
    VIEWPORT = "viewport"
    AMP = "amp"
    ARTICLE = "article"
    LANGUAGE = "language"
    INSPECTED = "inspected"


# To whom it applies, in words that follow “applies to”; nothing to say of checks that always do.
WORDS: dict[When, str] = {
    When.ALWAYS: "",
    When.SECURE: "pages over https",
    When.PLAIN: "pages over http",
    When.REDIRECT: "redirects",
    When.LISTED: "URLs that a sitemap lists",
    When.QUERY: "URLs with a query",
    When.XML: "pages that are XHTML by their type",
    When.KNOWN_BEFORE: "pages that were indexable in an earlier run",
    When.DIRECTIVES: "pages with robots directives",
    When.CANONICAL: "pages with a canonical",
    When.CANONICAL_ELSEWHERE: "pages whose canonical is another page",
    When.VERSIONS: "pages with hreflang annotations",
    When.TITLE: "pages with a title",
    When.DESCRIPTION: "pages with a meta description",
    When.HEADINGS: "pages with headings",
    When.MAIN_HEADING: "pages with an H1",
    When.LINKS: "pages with links",
    When.OUTWARD: "pages with links to other sites",
    When.IMAGES: "pages with images",
    When.FILES: "pages that use files",
    When.PREVIEW: "pages with metadata for previews",
    When.DATA: "pages with structured data",
    When.VIEWPORT: "pages with a viewport",
    When.AMP: "pages with an AMP version",
    When.ARTICLE: "articles",
    When.LANGUAGE: "pages with a lang attribute",
    When.INSPECTED: "pages that are looked at one by one",
}


def _is_redirect(page: PageView) -> bool:
    return bool(page.refresh_to) or (page.answer is not None and page.answer.status in REDIRECTS)


# Those that the answer alone decides, and those of documents.
OF_ANSWERS: dict[When, Callable[[PageView], bool]] = {
    When.SECURE: lambda page: page.is_secure,
    When.PLAIN: lambda page: not page.is_secure,
    When.REDIRECT: _is_redirect,
    When.LISTED: lambda page: page.listed,
    When.XML: lambda page: page.answer is not None and page.answer.content_type == "application/xhtml+xml",
    When.QUERY: lambda page: "?" in page.url,
    When.KNOWN_BEFORE: lambda page: page.was_indexable,
}
OF_DOCUMENTS: dict[When, Callable[[PageView], bool]] = {
    When.DIRECTIVES: lambda page: bool(page.directives or page.head.robots),
    When.CANONICAL: lambda page: bool(page.canonical or page.head.canonicals),
    When.CANONICAL_ELSEWHERE: lambda page: bool(page.canonical) and page.canonical != page.url,
    When.VERSIONS: lambda page: bool(page.alternates),
    When.TITLE: lambda page: bool(page.head.titles),
    When.DESCRIPTION: lambda page: bool(page.head.descriptions),
    When.HEADINGS: lambda page: bool(page.text.headings),
    When.MAIN_HEADING: lambda page: any(heading.level == 1 for heading in page.text.headings),
    When.LINKS: lambda page: bool(FOLLOWED_KINDS.intersection(page.kinds_of_links)),
    When.OUTWARD: lambda page: any(not target.internal for _, target in page.outlinks),
    When.IMAGES: lambda page: bool(page.media.images),
    When.FILES: lambda page: bool(FILE_KINDS.intersection(page.kinds_of_links)),
    When.PREVIEW: lambda page: bool(page.preview.social),
    When.DATA: lambda page: bool(page.data.things or page.data.errors or page.data.types),
    When.VIEWPORT: lambda page: page.head.viewport is not None,
    When.AMP: lambda page: "amp" in page.kinds_of_links,
    When.ARTICLE: lambda page: page.trust.article,
    When.INSPECTED: lambda page: page.markup.errors is not None,
    When.LANGUAGE: lambda page: bool(page.language.lang),
}
