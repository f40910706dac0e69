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
    messages={"entries": "{url} has more than 50,000 entries", "bytes": "{url} is larger than 50 MiB"},
    cause="site",
    examples=(
        fails("entries")(
            page(doc()),
            text_file("/sitemap.xml", "\n".join(f"https://other.example/{n}" for n in range(50_001))),
            plan={"use_sitemaps": True},
        ),
        fails("bytes")(page(doc()), text_file("/sitemap.xml", "https://shop.example/\n" + "#" * (50 * 1024 * 1024))),
        passes(page(doc()), sitemap("/")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for found in site.sitemaps:
        if "too-many" in found.sitemap.problems:
            yield Fail("entries", found.url, {"url": found.url})
        if "too-large" in found.sitemap.problems:
            yield Fail("bytes", found.url, {"url": found.url})
