"""robots.txt blocks more than the limit of the pages that links of the site lead to. Where it blocks the whole site, another check says so."""

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
    severity=Severity.MEDIUM,
    subject=Subject.SITE,
    summary="robots.txt blocks many linked pages",
    terms=(
        "disallow",
        "crawl budget",
        "blocked",
    ),
    why="The site sends visitors to pages that search engines may not read. They cannot rank, and what links on them lead to is not found.",
    fix="Check the rule named here: it is often wider than it was meant to be. If these pages should stay out, link to them less.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.2",
    messages={"shuts": "{percent} % of the linked pages are blocked, most by {rule}"},
    cause="site",
    across=True,
    limits={"disallowed_percent_max": Limit(5, "%", "largest part of the linked pages that may be blocked")},
    examples=(
        fails("shuts")(
            page(doc("<a href=/x/1>1</a><a href=/a>a</a>")),
            page(doc(), "/a"),
            text_file("/robots.txt", "User-agent: *\nDisallow: /x/"),
        ),
        passes(
            page(doc("<a href=/x/1>1</a>" + "".join(f"<a href=/a{n}>a</a>" for n in range(18)))),
            *(page(doc(), f"/a{n}") for n in range(18)),
            text_file("/robots.txt", "User-agent: *\nDisallow: /x/"),
        ),
        passes(
            page(doc("<a href=/x/1>1</a><a href=/a>a</a>")),
            page(doc(), "/a"),
            text_file("/robots.txt", "User-agent: *\nDisallow: /x/"),
            plan={"thresholds": {"disallowed_percent_max": 34}},
        ),
        passes(page(doc())),
    ),
)


def find(site: SiteView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if site.pages_linked and 100 * site.pages_disallowed > limits["disallowed_percent_max"] * site.pages_linked and site.answered:
        data = {"percent": round(100 * site.pages_disallowed / site.pages_linked), "rule": site.rules_hit[0][0]}
        yield Fail(
            "shuts", "", {**data, "blocked": site.pages_disallowed, "linked": site.pages_linked}, cause=site.rules_hit[0][0]
        )
