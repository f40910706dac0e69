"""A sitemap lists an address that robots.txt blocks."""

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
from hodcarrier.core.web.robots import UNREACHABLE

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.LISTED,
    summary="Sitemap lists blocked URLs",
    terms=(
        "disallow",
        "sitemap errors",
    ),
    why="The sitemap asks search engines to index what robots.txt forbids them to read. One of the two is wrong.",
    fix="Allow the page in robots.txt if it should be found, else take it out of the sitemap.",
    effort=Effort.SMALL,
    standard="sitemaps.org protocol 0.9",
    messages={"listed": "{url} is listed and blocked by {rule}"},
    cause="target",
    cause_line="{rule} blocks {findings:page} that sitemaps list",
    across=True,
    examples=(
        fails("listed")(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow: /a"), sitemap("/a")),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow: /a"), sitemap("/b"), page(doc(), "/b")),
        passes(page(doc("<a href=/a>a</a>")), text_file("/robots.txt", "User-agent: *\nDisallow: /a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.listed and page.robots_rule and page.robots_rule != UNREACHABLE:
        yield Fail("listed", "", {"url": page.url, "rule": page.robots_rule}, cause=page.robots_rule)
