"""More clicks from the start page than the limit; a redirect costs no click."""

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
from hodcarrier.core.facts.page import PageFacts

CHAIN = tuple(page(doc(f'<a href="/{n + 1}">On</a>' if n < 4 else ""), f"/{n}" if n else "/") for n in range(5))

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(PageFacts,),
    summary="Click depth too high",
    terms=(
        "crawl depth",
        "deep pages",
        "clicks from the home page",
    ),
    why="The farther a page lies from the start, the fewer visitors reach it and the rarer search engines call.",
    fix="Link to it from a page nearer to the start: an overview, a menu or a related page.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"deep": "{depth:click} from the start page; up to {limit} is in order"},
    cause="template",
    limits={"clicks_max": Limit(3, "clicks", "clicks from the start page that are still in order")},
    examples=(fails("deep")(*CHAIN), passes(*CHAIN[:4]), passes(*CHAIN, plan={"thresholds": {"clicks_max": 4}})),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.depth is not None and page.depth > limits["clicks_max"]:
        yield Fail("deep", "", {"depth": page.depth, "limit": int(limits["clicks_max"])})
