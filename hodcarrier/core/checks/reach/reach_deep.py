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
    why="Pages many clicks away from the home page get fewer visitors and are crawled less often, so new content on them is found late.",
    fix="Link to the page from one closer to the home page: a category, the menu or a related page. Check its click depth in the next run.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"deep": "Click depth {depth}; up to {limit} is fine"},
    cause="template",
    revision=2,
    limits={"clicks_max": Limit(3, "clicks", "clicks from the start page that are still in order")},
    examples=(fails("deep")(*CHAIN), passes(*CHAIN[:4]), passes(*CHAIN, plan={"thresholds": {"clicks_max": 4}})),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.depth is not None and page.depth > limits["clicks_max"]:
        trail = " → ".join(page.trail_of(page.url))
        yield Fail("deep", "", {"depth": page.depth, "limit": int(limits["clicks_max"]), "path": trail})
