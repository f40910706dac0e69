"""One sitemap lists an address more than once."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    Severity,
    SiteView,
    Subject,
    doc,
    fails,
    page,
    passes,
    sitemap,
)

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="Sitemap lists URLs twice",
    terms=("duplicate entries",),
    why="Doubled entries do no harm by themselves, but show that the list is put together by something that does not know what it holds.",
    fix="Let the sitemap be made from the pages that exist, each once.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"twice": "{count:URL} listed more than once, such as {example}"},
    cause="site",
    examples=(
        fails("twice")(page(doc()), sitemap("/", "/a", "/a"), page(doc(), "/a")),
        passes(page(doc()), sitemap("/", "/a"), page(doc(), "/a")),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.listed.twice:
        yield Fail("twice", "", {"count": len(site.listed.twice), "example": site.listed.twice[0]})
