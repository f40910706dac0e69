"""Was indexable in an earlier run and now asks not to be indexed."""

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
from hodcarrier.core.facts.indexable import is_noindex

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    when=When.KNOWN_BEFORE,
    needs=(HeadFacts,),
    summary="Newly set to noindex",
    terms=(
        "deindexed",
        "robots meta",
        "X-Robots-Tag",
    ),
    why="The page was indexable until recently. With noindex, search engines remove it from their results the next time they crawl it.",
    fix="Ask who added it. Remove noindex if it was not intended; waive the finding if it was.",
    effort=Effort.SMALL,
    standard="robots meta directives",
    messages={"lost": "Was indexable before and now has: {directives}"},
    cause="template",
    examples=(
        fails("lost")(page(doc(head="<meta name=robots content=noindex>")), before=(page(doc()),)),
        passes(page(doc(head="<meta name=robots content=noindex>"))),
        passes(page(doc()), before=(page(doc()),)),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.was_indexable and is_noindex(page.directives):
        yield Fail("lost", "", {"directives": ", ".join(sorted(page.directives))})
