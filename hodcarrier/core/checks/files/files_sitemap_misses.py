"""An indexable page of a site that has a sitemap is in none."""

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

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    summary="Page not in the sitemap",
    terms=(
        "sitemap coverage",
        "missing from sitemap",
    ),
    why="Search engines find new and changed pages sooner when a sitemap names them.",
    fix="Let the sitemap be made from the pages that exist. If this page should not be found, set it to noindex.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"misses": "In no sitemap"},
    cause="template",
    across=True,
    examples=(
        fails("misses")(page(doc("<a href=/a>a</a>")), page(doc(), "/a"), sitemap("/")),
        passes(page(doc("<a href=/a>a</a>")), page(doc(), "/a"), sitemap("/", "/a")),
        passes(page(doc("<a href=/a>a</a>")), page(doc(), "/a")),
        passes(page(doc("<a href=/a>a</a>")), page(doc(head="<meta name=robots content=noindex>"), "/a"), sitemap("/")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.site_has_sitemap and not page.listed:
        yield Fail("misses")
