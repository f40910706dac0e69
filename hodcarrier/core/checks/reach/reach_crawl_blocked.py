"""Our agent was refused (403, 429, 503) on more than a tenth of the pages, or robots.txt shuts out our agent but not others."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
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

BLOCKED = (page(doc('<a href="/a">a</a>')), gone("/a", 403))

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.SITE,
    summary="Crawl blocked by the server",
    terms=(
        "403",
        "429",
        "bot protection",
        "firewall",
    ),
    why="The server refused our user agent, so this run has seen only part of the site and its figures are incomplete. Other crawlers may be refused in the same way.",
    fix="Allow the crawl's user agent in the firewall or in robots.txt, or lower the requests per second in the plan. Then run the audit again.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.1; RFC 6585, 4",
    messages={
        "robots": "robots.txt blocks {agent} ({rule}) but allows others",
        "answers": "{refused} of {answered} pages returned 403, 429 or 503",
    },
    cause="site",
    limits={"refused_max": Limit(10, "% of pages", "share of refused pages that is still put down to the pages")},
    examples=(
        fails("robots")(text_file("/robots.txt", "User-agent: HodcarrierBot\nDisallow: /"), page(doc())),
        fails("answers")(*BLOCKED),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *\nDisallow: /")),
        passes(page(doc('<a href="/a">a</a>')), gone("/a", 404)),
        passes(*BLOCKED, plan={"thresholds": {"refused_max": 50}}),
    ),
)


def find(site: SiteView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.start is not None and site.start.state == "disallowed" and site.robots.usable:
        others = site.robots.robots.allows("some-other-agent", site.url)
        if others:
            yield Fail("robots", "", {"rule": site.start.robots_rule, "agent": site.plan.robots_token})
    if site.answered and site.refused / site.answered * 100 > limits["refused_max"]:
        yield Fail("answers", "", {"refused": site.refused, "answered": site.answered, "limit": limits["refused_max"]})
