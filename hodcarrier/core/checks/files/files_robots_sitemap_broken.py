"""A Sitemap line of robots.txt names a file that cannot be read."""

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
from hodcarrier.core.facts.answer import FAILURES

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="Sitemap in robots.txt cannot be read",
    terms=(
        "sitemap 404",
        "Sitemap line",
    ),
    why="Search engines look for the sitemap where robots.txt says it is, and find an error.",
    fix="Correct the URL in the Sitemap line, or restore the file.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"broken": "{url}, named in robots.txt: {outcome}"},
    cause="site",
    examples=(
        fails("broken")(page(doc()), text_file("/robots.txt", "Sitemap: https://shop.example/s.xml")),
        passes(page(doc()), text_file("/robots.txt", "Sitemap: https://shop.example/sitemap.xml"), sitemap("/")),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for found in site.sitemaps:
        if found.found == "robots" and found.status != 200:
            outcome = FAILURES.get(found.failure, found.failure) if found.status is None else str(found.status)
            yield Fail("broken", found.url, {"url": found.url, "outcome": outcome})
