"""robots.txt asks crawlers to wait longer between two requests than the limit."""

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
    page,
    passes,
    text_file,
)

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.SITE,
    summary="Crawl-delay too long",
    terms=(
        "crawl-delay",
        "crawl rate",
    ),
    why="A crawler that obeys needs days for a few thousand pages, so changes reach its index late. Some search engines ignore the line altogether.",
    fix="Remove the line, or set it to a second or two. A server that cannot answer more often needs help itself.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"slow": "Crawl-delay of {seconds} s for {agent}; up to {limit} s is fine"},
    cause="site",
    limits={"crawl_delay_s_max": Limit(10, "s", "longest wait between two requests that may be asked for")},
    examples=(
        fails("slow")(page(doc()), text_file("/robots.txt", "User-agent: *\nCrawl-delay: 11"), plan={"obey_crawl_delay": False}),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *\nCrawl-delay: 10"), plan={"obey_crawl_delay": False}),
        passes(
            page(doc()),
            text_file("/robots.txt", "User-agent: *\nCrawl-delay: 11"),
            plan={"obey_crawl_delay": False, "thresholds": {"crawl_delay_s_max": 20}},
        ),
        passes(page(doc())),
    ),
)


def find(site: SiteView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for agent, seconds in site.robots.robots.delays.items():
        if seconds > limits["crawl_delay_s_max"]:
            who = "all crawlers" if agent == "*" else agent
            yield Fail("slow", agent, {"seconds": seconds, "agent": who, "limit": limits["crawl_delay_s_max"]})
