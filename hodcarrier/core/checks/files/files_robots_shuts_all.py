"""All paths are disallowed to agents that robots.txt does not name, the start page among them."""

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
from hodcarrier.core.web.urls import split


def origin(url: str) -> str:
    """Scheme and host of the site."""
    return split(url).origin


CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.SITE,
    summary="robots.txt blocks the whole site",
    terms=(
        "Disallow: /",
        "blocked site",
    ),
    why="No search engine may crawl any page, so the site disappears from the results. This is often a line from a staging site that went live.",
    fix="Remove the line, or narrow it to the folders it is meant for.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.2",
    messages={"all": "Line {line}, {rule}, blocks all user agents from all pages"},
    cause="site",
    examples=(
        fails("all")(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow: /")),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow: /private")),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow:")),
        passes(page(doc()), text_file("/robots.txt", "User-agent: HodcarrierBot\nDisallow: /")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    robots = site.robots.robots
    if (
        site.robots.usable
        and not robots.allows("some-other-agent", site.url)
        and not robots.allows("some-other-agent", origin(site.url) + "/some/page")
    ):
        rule = robots.verdict("some-other-agent", site.url).rule
        yield Fail("all", "", {"rule": str(rule), "line": rule.line if rule else 0})
