"""A sitemap lists a page that names another one as its canonical."""

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
)
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.LISTED,
    needs=(HeadFacts,),
    summary="Sitemap lists pages with another canonical",
    terms=(
        "non-canonical",
        "sitemap errors",
    ),
    why="The sitemap recommends a page that says itself that another one should be indexed.",
    fix="List the canonical pages only.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"listed": "{url} is listed and names {to} as its canonical"},
    cause="template",
    cause_line="{pages:page} are listed and name another page, such as {to}",
    across=True,
    examples=(
        fails("listed")(page(doc()), sitemap("/a"), page(doc(head="<link rel=canonical href=/b>"), "/a")),
        passes(page(doc()), sitemap("/a"), page(doc(head="<link rel=canonical href=/a>"), "/a")),
        passes(page(doc()), page(doc(head="<link rel=canonical href=/b>"), "/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.listed and page.canonical and page.canonical != page.url:
        yield Fail("listed", "", {"url": page.url, "to": page.canonical})
