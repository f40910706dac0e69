"""The page names an AMP version (rel=amphtml) that answers an error, redirects to one, or gives no answer."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    broken_references,
    doc,
    fails,
    gone,
    moved,
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.AMP,
    needs=(LinkFacts,),
    summary="AMP version broken",
    terms=("AMP", "amphtml"),
    why="Search engines that follow the link find nothing and may drop the page from places that show AMP versions.",
    fix="Restore the AMP version, or remove the link to it from the template.",
    effort=Effort.SMALL,
    standard="AMP HTML, page discovery",
    messages={"broken": "{target}: {answer}"},
    cause="target",
    cause_line="{target}: {answer}; named by {pages:page}",
    examples=(
        fails("broken")(page(doc(head="<link rel=amphtml href=/amp>")), gone("/amp")),
        fails("broken")(page(doc(head="<link rel=amphtml href=/amp>")), moved("/amp", "/gone")),
        passes(page(doc(head="<link rel=amphtml href=/amp>")), page(doc(head="<link rel=canonical href=/>"), "/amp")),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    yield from broken_references(page, page.distinct_links("amp"), 'link[rel~="amphtml" i]')
