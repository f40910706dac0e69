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
    why="The site links to the page and yet asks search engines not to fetch it. It may still turn up in results, without any text, and its own links count for nothing.",
    fix="If the page should be found, take the rule away. If not, fetching may stay forbidden; then this finding can be waived.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.2",
    messages={"kept-out": "{url} is kept out by {rule}; linked from {links:page}"},
    cause="target",
    cause_line="{cause} keeps out {findings:linked page}",
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
