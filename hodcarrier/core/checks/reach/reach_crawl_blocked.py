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
    why="The site refused our agent, so this run has seen only a part. Whatever else it says is to be read with that in mind, and other crawlers may fare alike.",
    fix="Let the agent of the audit through in the firewall or robots.txt, or lower the pace of the plan, and run again.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.1; RFC 6585, 4",
    messages={
        "robots": "robots.txt shuts out {agent} ({rule}) but lets others in",
        "answers": "{refused} of {answered} pages answered 403, 429 or 503",
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
