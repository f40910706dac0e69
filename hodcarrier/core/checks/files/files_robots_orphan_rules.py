"""Allow or Disallow lines stand before any User-agent line, where they belong to nobody."""

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
    text_file,
)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="robots.txt rules without a user agent",
    terms=(
        "user-agent",
        "group",
        "syntax",
    ),
    why="Crawlers ignore rules that come before the first User-agent line. What they were meant to block is not blocked.",
    fix="Put “User-agent: *” above these rules.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2",
    messages={"orphan": "Line {line} comes before any User-agent line: {rule}"},
    cause="site",
    cause_line="{findings} rules come before any User-agent line",
    examples=(
        fails("orphan")(page(doc()), text_file("/robots.txt", "Disallow: /x")),
        fails("orphan", "orphan")(page(doc()), text_file("/robots.txt", "Disallow: /x\nAllow: /y\nUser-agent: *\nDisallow: /z")),
        passes(page(doc()), text_file("/robots.txt", "Sitemap: https://shop.example/s.xml\nUser-agent: *\nDisallow: /x")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for rule in site.robots.robots.orphans:
        yield Fail("orphan", str(rule), {"line": rule.line, "rule": str(rule)})
