"""An indexable page known from a sitemap that no other page links to with a followed link."""

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
    page,
    passes,
    sitemap,
)
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(HeadFacts,),
    summary="Orphan pages",
    terms=(
        "no internal links",
        "unlinked",
    ),
    why="Only the sitemap knows this page. Visitors cannot come across it, and search engines take a page that its own site does not mention for unimportant.",
    fix="Link to it where a reader would look for it, or take it out of the sitemap if it has had its day.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"orphan": "Listed in a sitemap, but no page of the site links here"},
    cause="alone",
    across=True,
    examples=(
        fails("orphan")(page(doc()), sitemap("/", "/lone"), page(doc(), "/lone")),
        fails("orphan")(page(doc('<a rel=nofollow href="/lone">Lone</a>')), sitemap("/lone"), page(doc(), "/lone")),
        passes(page(doc('<a href="/lone">Lone</a>')), sitemap("/", "/lone"), page(doc(), "/lone")),
        passes(page(doc()), sitemap("/")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.listed and not page.inlinks and not page.is_start and page.indexable:
        yield Fail("orphan")
