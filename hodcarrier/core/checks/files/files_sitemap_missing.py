"""No sitemap is named in robots.txt or found at the usual place. One that gave no answer at all is unverified."""

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
    Unsure,
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
    summary="Sitemap missing",
    terms=(
        "XML sitemap",
        "sitemap.xml",
    ),
    why="A sitemap tells search engines which pages exist and when they changed. Without one they only find pages by following links.",
    fix="Let the content management system generate a sitemap, and name it in robots.txt.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"missing": "No sitemap found at {tried}"},
    revision=2,
    cause="site",
    examples=(
        fails("missing")(page(doc())),
        passes(page(doc()), sitemap("/")),
        passes(page(doc()), text_file("/robots.txt", "Sitemap: /map.txt"), text_file("/map.txt", "https://shop.example/")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not site.plan.use_sitemaps:
        yield Unsure("", "the plan does not look for sitemaps")
    elif not site.robots.usable and (site.robots.status is None or site.robots.status >= 500):
        yield Unsure("", "robots.txt could not be read")
    elif site.robots.robots.sitemaps and not site.sitemaps:
        yield Unsure("", "robots.txt keeps us from the sitemap that it names")
    elif not any(item.status == 200 for item in site.sitemaps) and not any(item.status is None for item in site.sitemaps):
        yield Fail("missing", "", {"tried": ", ".join(item.url for item in site.sitemaps)})
