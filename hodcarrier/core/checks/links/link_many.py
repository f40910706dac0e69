"""A page has more links than the limit, each target counted once."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(LinkFacts,),
    summary="Too many links on a page",
    terms=(
        "link count",
        "mega menu",
    ),
    why="The more links a page has, the less weight each gives, and the harder the ones that matter are to find.",
    fix="Take links that few people use out of menus and footers, and divide long lists.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"many": "{count} links; up to {limit} is fine"},
    cause="template",
    limits={"links_max": Limit(300, "links", "most links on one page that are still in order")},
    examples=(
        fails("many")(page(doc("".join(f"<a href=/{n}>{n}</a>" for n in range(301)))), plan={"pages_max": 1}),
        passes(page(doc("".join(f"<a href=/{n}>{n}</a>" for n in range(300)))), plan={"pages_max": 1}),
        passes(page(doc("<a href=/a>a</a>" * 301)), plan={"pages_max": 1}),
        passes(page(doc())),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    count = len(page.outlinks)
    if count > limits["links_max"]:
        yield Fail("many", "", {"count": count, "limit": int(limits["links_max"])})
