"""The page loads more style sheets than the limit."""

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
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.FILES,
    needs=(LinkFacts,),
    summary="Too many style sheets",
    terms=(
        "CSS files",
        "render-blocking",
    ),
    why="The browser draws nothing before all style sheets of the head are there. Each is a request of its own.",
    fix="Join them into one or two files in the build, and load what only some pages need on those.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"many": "{count} style sheets; up to {limit} is fine"},
    cause="template",
    limits={"styles_max": Limit(8, "style sheets", "most style sheets of a page that are still in order")},
    examples=(
        fails("many")(page(doc(head="".join(f"<link rel=stylesheet href=/{n}.css>" for n in range(9))))),
        passes(page(doc(head="".join(f"<link rel=stylesheet href=/{n}.css>" for n in range(8))))),
        passes(page(doc(head="<link rel=stylesheet href=/a.css>" * 9))),
        passes(page(doc())),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    count = sum(1 for _ in page.distinct_links("style"))
    if count > limits["styles_max"]:
        yield Fail("many", "", {"count": count, "limit": int(limits["styles_max"])})
