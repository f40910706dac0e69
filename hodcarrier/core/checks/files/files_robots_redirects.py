"""robots.txt redirects. Crawlers follow five redirects (RFC 9309, 2.3.1.2); after that there are no rules."""

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
    moved,
    page,
    passes,
    text_file,
)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="robots.txt redirects",
    terms=(
        "301",
        "robots.txt location",
    ),
    why="Crawlers follow a few redirects of robots.txt, and not all of them to another host. If one gives up, no rule holds for it.",
    fix="Serve robots.txt under its own address on each host, with status 200.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.3.1.2",
    messages={"redirects": "{url} redirects"},
    cause="site",
    examples=(
        fails("redirects")(page(doc()), moved("/robots.txt", "/r.txt"), text_file("/r.txt", "User-agent: *\nDisallow: /x")),
        passes(page(doc()), text_file("/robots.txt", "User-agent: *")),
        passes(page(doc())),
    ),
)


def find(site: SiteView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.robots.hops and site.robots.url:
        yield Fail("redirects", "", {"url": site.robots.url, "hops": site.robots.hops})
