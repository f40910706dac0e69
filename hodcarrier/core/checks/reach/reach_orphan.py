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
    why="No page of the site links here, so visitors cannot find the page, and search engines give it little weight.",
    fix="Link to it from a relevant page, such as its category or an article on the subject. If it is no longer needed, remove it from the sitemap and delete it.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"orphan": "Listed in a sitemap, but no page of the site links to it"},
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
