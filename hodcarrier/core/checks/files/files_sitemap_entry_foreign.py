"""A sitemap lists addresses of other hosts."""

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
    text_file,
)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="Sitemap lists other hosts",
    terms=(
        "cross-submission",
        "wrong domain",
    ),
    why="Search engines ignore entries of other hosts unless those allow it in their own robots.txt.",
    fix="List only addresses of this host. After a move the old host often stays in the settings.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9, sitemap file location",
    messages={"foreign": "{count:URL} of other hosts, such as {example}"},
    cause="site",
    examples=(
        fails("foreign")(page(doc()), text_file("/sitemap.txt", "https://other.example/a\nhttps://shop.example/")),
        passes(page(doc()), sitemap("/")),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.listed.foreign:
        yield Fail("foreign", "", {"count": len(site.listed.foreign), "example": site.listed.foreign[0]})
