"""A sitemap has more than 50,000 entries or 50 MiB (sitemaps.org protocol 0.9)."""

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

LIMITS = {"too-many": "more than 50,000 entries", "too-large": "more than 50 MiB"}

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="Sitemap too large",
    terms=(
        "50,000 URLs",
        "sitemap index",
    ),
    why="Search engines read the first 50,000 entries or 50 MiB of a file, or refuse it as a whole.",
    fix="Divide it into several files and list them in a sitemap index.",
    effort=Effort.MEDIUM,
    standard="sitemaps.org protocol 0.9",
    messages={"large": "{url} has {what}"},
    cause="site",
    examples=(
        fails("large")(page(doc()), text_file("/sitemap.xml", "https://other.example/\n" * 50_001)),
        passes(page(doc()), text_file("/sitemap.xml", "https://other.example/\n" * 50_000)),
        passes(page(doc()), sitemap("/")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for found in site.sitemaps:
        what = [words for problem, words in LIMITS.items() if problem in found.sitemap.problems]
        if what:
            yield Fail("large", found.url, {"url": found.url, "what": " and ".join(what)})
