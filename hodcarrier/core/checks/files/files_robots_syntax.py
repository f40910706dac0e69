"""Lines that neither RFC 9309 nor the common extensions know."""

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
    summary="robots.txt has invalid lines",
    terms=(
        "syntax error",
        "unknown directive",
    ),
    why="Crawlers skip lines they do not understand. A rule that was meant to block or allow something has no effect.",
    fix="Correct the line, or turn it into a comment with a # in front.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2",
    messages={"unread": "Line {line} is not valid: {text}"},
    cause="alone",
    cause_line="{text}",
    revision=2,
    examples=(
        fails("unread")(page(doc()), text_file("/robots.txt", "User-agent: *\nDisalow: /x")),
        fails("unread", "unread")(page(doc()), text_file("/robots.txt", "hello\nUser agent: *")),
        passes(page(doc()), text_file("/robots.txt", doc("<p>Rope</p>\n<p>Tide</p>"), content_type="text/html")),
        passes(
            page(doc()),
            text_file("/robots.txt", "# note\nUser-agent: *\nDisallow: /x\nCrawl-delay: 1\nSitemap: https://shop.example/s.xml"),
        ),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.robots.is_markup:
        return  # one finding of files-robots-not-text, not one a line
    for line in site.robots.robots.unread:
        yield Fail("unread", line.text, {"line": line.number, "text": line.text})
