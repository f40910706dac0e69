"""The page asks not to be indexed, by meta or by header. It is listed for review, since it may well be meant."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.indexable import is_noindex

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(HeadFacts,),
    summary="Pages set to noindex",
    terms=(
        "robots meta",
        "X-Robots-Tag",
        "excluded from search",
    ),
    why="These pages do not appear in search results. That is right for some pages and an accident for others.",
    fix="Go through the list. Where a page should be found, remove noindex from the meta tag or the header named here.",
    effort=Effort.SMALL,
    standard="Robots meta directives",
    messages={"noindex": "Not indexable: {directives}"},
    cause="template",
    examples=(
        fails("noindex")(page(doc(head="<meta name=robots content=noindex>"))),
        fails("noindex")(page(doc(), headers=(("content-type", "text/html"), ("x-robots-tag", "none")))),
        passes(page(doc(head="<meta name=robots content=nofollow>"))),
        passes(page(doc("<meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if is_noindex(page.directives):
        yield Fail("noindex", "", {"directives": ", ".join(sorted(page.directives)), "selector": 'meta[name="robots" i]'})
