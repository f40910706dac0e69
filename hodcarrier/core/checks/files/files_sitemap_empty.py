"""A sitemap that can be read lists nothing."""

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
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="Sitemap is empty",
    terms=(
        "sitemap.xml",
        "no URLs",
    ),
    why="Search engines learn nothing from an empty sitemap. Usually the part of the site that fills it has stopped working.",
    fix="Find out why nothing is written into it, or remove it from robots.txt.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"empty": "{url} lists no URL"},
    cause="site",
    examples=(
        fails("empty")(page(doc()), sitemap()),
        passes(page(doc()), sitemap("/")),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for found in site.sitemaps:
        if found.status == 200 and found.entries == 0 and not found.sitemap.problems:
            yield Fail("empty", found.url, {"url": found.url})
