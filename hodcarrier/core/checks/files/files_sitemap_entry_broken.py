"""A sitemap lists an address that answers 4xx, 5xx or nothing, itself or at the end of its redirects."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Sample,
    Severity,
    Subject,
    When,
    doc,
    fails,
    gone,
    moved,
    page,
    passes,
    sitemap,
)

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.LISTED,
    summary="Sitemap lists broken URLs",
    terms=(
        "sitemap 404",
        "sitemap errors",
    ),
    why="A sitemap that lists missing pages loses the trust of search engines, and they rely less on the rest of it.",
    fix="Remove the entry, or restore the page. Generate the sitemap from the content automatically so that it stays current.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"broken": "{url} is listed in a sitemap and ends with: {outcome}"},
    cause="target",
    cause_line="{url}: {outcome}",
    across=True,
    revision=2,
    examples=(
        fails("broken")(page(doc()), sitemap("/", "/a"), gone("/a")),
        fails("broken")(page(doc()), sitemap("/a"), gone("/a", 500)),
        fails("broken")(page(doc()), sitemap("/a"), moved("/a", "/b"), gone("/b")),
        fails("broken")(page(doc()), sitemap("/a"), Sample("/a", status=301)),
        passes(page(doc()), sitemap("/", "/a"), page(doc(), "/a")),
        passes(page(doc('<a href="/a">a</a>')), sitemap("/"), gone("/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.listed and page.answer is not None:
        target = page.target(page.url)
        if target.broken:
            yield Fail("broken", "", {"url": page.url, "outcome": target.outcome})
