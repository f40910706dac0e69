"""Linked in scope, but kept out by robots.txt. The cause is the rule."""

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
    Unsure,
    doc,
    fails,
    page,
    passes,
    text_file,
)
from hodcarrier.core.web.robots import UNREACHABLE

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    summary="Linked pages blocked by robots.txt",
    terms=(
        "disallow",
        "blocked pages",
    ),
    why="The site links to this page but does not let search engines crawl it. The URL can still appear in results without a title or description, and links on it pass nothing on.",
    fix="Remove the rule from robots.txt if the page should rank. If it should stay blocked, waive this finding.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.2",
    messages={"kept-out": "{url} is blocked by {rule}; linked from {links:page}"},
    cause="target",
    cause_line="{cause} blocks {findings:linked page}",
    across=True,
    examples=(
        fails("kept-out")(
            page(doc('<a href="/a">Anchors</a>')), text_file("/robots.txt", "User-agent: *\nDisallow: /a"), page(doc(), "/a")
        ),
        passes(page(doc('<a href="/a">Anchors</a>')), text_file("/robots.txt", "User-agent: *\nDisallow: /b"), page(doc(), "/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.robots_rule == UNREACHABLE:
        yield Unsure("", page.robots_rule)
    elif page.state == "disallowed" and page.inlinks:
        yield Fail("kept-out", "", {"url": page.url, "rule": page.robots_rule, "links": page.inlinks}, cause=page.robots_rule)
