"""Was indexable in an earlier run, is still linked or listed, and is now kept out by robots.txt. The cause is the rule."""

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
    text_file,
)

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    when=When.KNOWN_BEFORE,
    summary="Newly blocked by robots.txt",
    terms=(
        "disallow",
        "deindexed",
    ),
    why="These pages were indexable until recently. Search engines may no longer crawl them, and they fade from the results within weeks.",
    fix="Check the robots.txt line named here. Remove it at once if it was not intended; waive the finding if it was.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.2",
    messages={"lost": "{url} was indexable before and is now blocked by {rule}"},
    cause="target",
    cause_line="{cause} newly blocks {findings:page}",
    examples=(
        fails("lost")(
            page(doc('<a href="/a">Anchors</a>')),
            page(doc(), "/a"),
            text_file("/robots.txt", "User-agent: *\nDisallow: /a"),
            before=(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a")),
        ),
        passes(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a"), text_file("/robots.txt", "User-agent: *\nDisallow: /a")),
        passes(
            page(doc('<a href="/a">Anchors</a>')),
            page(doc(), "/a"),
            before=(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a")),
        ),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.was_indexable and page.state == "disallowed":
        yield Fail("lost", "", {"url": page.url, "rule": page.robots_rule}, cause=page.robots_rule)
