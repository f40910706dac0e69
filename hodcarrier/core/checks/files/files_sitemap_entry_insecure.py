"""A site over https lists an address over http in its sitemap."""

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
    When,
    doc,
    fails,
    page,
    passes,
    sitemap,
    text_file,
)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.LISTED,
    summary="Sitemap lists http URLs",
    terms=(
        "HTTPS",
        "mixed protocols",
    ),
    why="Search engines are sent to the insecure address and over a redirect to the right one, or index the wrong one.",
    fix="Write https in the sitemap. The address of the site in its settings is often still the old one.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"listed": "{url} is listed over http"},
    cause="site",
    cause_line="Listed over http: {url}",
    across=True,
    examples=(
        fails("listed")(page(doc()), text_file("/sitemap.txt", "http://shop.example/a")),
        passes(page(doc()), sitemap("/a"), page(doc(), "/a")),
        passes(page(doc("<a href=http://shop.example/a>a</a>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.listed and page.plan.start[0].startswith("https://") and page.url.startswith("http://"):
        yield Fail("listed", "", {"url": page.url})
