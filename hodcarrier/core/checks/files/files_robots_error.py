"""robots.txt answers 5xx or not at all: a crawler must then take everything for disallowed (RFC 9309, 2.3.1.4)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    Sample,
    Severity,
    SiteView,
    Subject,
    doc,
    fails,
    gone,
    page,
    passes,
    text_file,
)

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.SITE,
    summary="robots.txt cannot be fetched",
    terms=(
        "robots.txt 5xx",
        "server error",
    ),
    why="When robots.txt returns a server error, search engines stop crawling the whole site until it works again.",
    fix="Let /robots.txt return 200 with the rules, or 404 if there are none. Serve it as a static file.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.3.1.4",
    messages={"error": "{url} {outcome}"},
    cause="site",
    examples=(
        fails("error")(page(doc()), gone("/robots.txt", 500)),
        fails("error")(page(doc()), Sample("/robots.txt", failure="reset")),
        passes(page(doc()), gone("/robots.txt", 404)),
        passes(page(doc()), text_file("/robots.txt", "")),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.robots.status is None or site.robots.status >= 500:
        outcome = f"answers {site.robots.status}" if site.robots.status else "gives no answer"
        yield Fail("error", "", {"url": site.robots.url, "outcome": outcome})
