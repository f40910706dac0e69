"""A sitemap lists an address that redirects to a page."""

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
    moved,
    page,
    passes,
    sitemap,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.LISTED,
    needs=(Answer,),
    summary="Sitemap lists redirects",
    terms=(
        "sitemap 301",
        "sitemap errors",
    ),
    why="A sitemap should name pages, not the way to them. Search engines rely less on one that sends them elsewhere.",
    fix="List the address at the end of the redirect. Generate the sitemap from the addresses that pages have now.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"listed": "{url} is listed and redirects to {to}"},
    cause="target",
    cause_line="{url} redirects to {to}",
    across=True,
    examples=(
        fails("listed")(page(doc()), sitemap("/a"), moved("/a", "/b"), page(doc(), "/b")),
        passes(page(doc()), sitemap("/b"), page(doc(), "/b")),
        passes(page(doc()), sitemap("/a"), moved("/a", "/b")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.listed and (target := page.target(page.url)).hops and target.examined and not target.broken:
        yield Fail("listed", "", {"url": page.url, "to": target.final_url})
