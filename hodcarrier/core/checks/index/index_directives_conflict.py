"""Robots directives of the document and its headers contradict one another, such as index and noindex."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
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
from hodcarrier.core.facts.head import HeadFacts

AGAINST = (
    ("index", "noindex"),
    ("follow", "nofollow"),
    ("all", "noindex"),
    ("all", "nofollow"),
    ("index", "none"),
    ("follow", "none"),
    ("all", "none"),
)

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DIRECTIVES,
    needs=(HeadFacts,),
    summary="Conflicting robots directives",
    terms=(
        "robots meta",
        "X-Robots-Tag",
        "index noindex",
    ),
    why="Search engines take the strictest of several directives. If the other one was meant, the page is lost.",
    fix="Find out which of the two places is right, and remove the other.",
    effort=Effort.SMALL,
    standard="Robots meta directives",
    messages={"conflict": "{one} and {other} contradict each other"},
    cause="template",
    examples=(
        fails("conflict")(page(doc(head="<meta name=robots content=index><meta name=robots content=noindex>"))),
        fails("conflict")(page(doc(head='<meta name=robots content="follow, nofollow">'))),
        fails("conflict")(
            page(doc(head="<meta name=robots content=all>"), headers=(("content-type", "text/html"), ("x-robots-tag", "noindex")))
        ),
        passes(page(doc(head='<meta name=robots content="noindex, follow">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for one, other in AGAINST:
        if one in page.directives and other in page.directives:
            yield Fail("conflict", f"{one} {other}", {"one": one, "other": other, "selector": 'meta[name="robots" i]'})
