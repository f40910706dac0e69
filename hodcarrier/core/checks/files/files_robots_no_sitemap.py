"""A sitemap exists, and robots.txt has no Sitemap line."""

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
from hodcarrier.core.catalogue.mending import line

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="Sitemap not named in robots.txt",
    terms=("sitemap directive",),
    why="Search engines that do not try the usual location will not find the sitemap.",
    fix="Add the line “Sitemap: ” followed by the full URL of the sitemap to robots.txt.",
    mend=line("Sitemap: {origin}/sitemap.xml"),
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"unnamed": "{url} exists, but robots.txt does not name it"},
    revision=2,
    cause="site",
    examples=(
        fails("unnamed")(page(doc()), text_file("/robots.txt", ""), sitemap("/")),
        passes(page(doc()), text_file("/robots.txt", "Sitemap: https://shop.example/sitemap.xml"), sitemap("/")),
        passes(page(doc()), text_file("/robots.txt", "")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    working = [item for item in site.sitemaps if item.status == 200 and item.sitemap.kind != "unknown"]
    if site.robots.usable and not site.robots.is_markup and working and not site.robots.robots.sitemaps:
        yield Fail("unnamed", "", {"url": working[0].url})
