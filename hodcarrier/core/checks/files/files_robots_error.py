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
    why="A crawler that cannot read robots.txt has to stay away from the whole site until it can.",
    fix="Let /robots.txt answer 200 with text, or 404 if there is none. Serve it as a plain file that needs no program.",
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
