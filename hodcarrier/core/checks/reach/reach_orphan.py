"""An indexable page known from a sitemap that no other page links to with a followed link, directly or over redirects."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    moved,
    page,
    passes,
    sitemap,
)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    about="indexable",
    summary="Orphan pages",
    terms=(
        "no internal links",
        "unlinked",
    ),
    why="No page of the site links here, so visitors cannot find the page, and search engines give it little weight.",
    fix="Link to it from a relevant page, such as its category or an article on the subject. If it is no longer needed, remove it from the sitemap and delete it.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"orphan": "Listed in a sitemap, but no page of the site links to it"},
    cause="alone",
    across=True,
    revision=2,
    examples=(
        fails("orphan")(page(doc()), sitemap("/", "/lone"), page(doc(), "/lone")),
        fails("orphan")(page(doc('<a rel=nofollow href="/lone">Lone</a>')), sitemap("/lone"), page(doc(), "/lone")),
        passes(page(doc('<a href="/lone">Lone</a>')), sitemap("/", "/lone"), page(doc(), "/lone")),
        passes(page(doc()), sitemap("/")),
        passes(page(doc('<a href="/old">Lone</a>')), moved("/old", "/lone"), sitemap("/", "/lone"), page(doc(), "/lone")),
        fails("orphan")(page(doc()), moved("/old", "/lone"), sitemap("/lone"), page(doc('<a href="/old">I</a>'), "/lone")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    linked = page.inlinks or page.linked_over_redirect
    if page.listed and not linked and not page.is_start:
        yield Fail("orphan")
