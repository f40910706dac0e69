"""The AMP version that a page names was read, and does not name the page, or the page's own canonical, as its canonical."""

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
    gone,
    page,
    passes,
    without_return,
)
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.AMP,
    needs=(LinkFacts, HeadFacts),
    summary="AMP version does not return",
    terms=("AMP", "amphtml", "canonical"),
    why="The two versions are tied only when each names the other. Otherwise they may be indexed as two pages with the same content.",
    fix="Let the canonical of the AMP version name this page.",
    effort=Effort.SMALL,
    standard="AMP HTML, page discovery",
    messages={"return": "{target} names {canonical} as its canonical", "none": "{target} names no canonical"},
    cause="target",
    cause_line="{target}; named by {pages:page}",
    examples=(
        fails("return")(
            page(doc(head="<link rel=amphtml href=/amp>")), page(doc(head="<link rel=canonical href=/other>"), "/amp")
        ),
        fails("none")(page(doc(head="<link rel=amphtml href=/amp>")), page(doc(), "/amp")),
        passes(page(doc(head="<link rel=amphtml href=/amp>")), page(doc(head="<link rel=canonical href=/>"), "/amp")),
        passes(page(doc(head="<link rel=amphtml href=/amp>")), gone("/amp")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, facts in without_return(page, page.distinct_links("amp"), page.canonical):
        data = {"target": link.url, "canonical": facts.head.canonical, "selector": 'link[rel~="amphtml" i]'}
        yield Fail("return" if facts.head.canonical else "none", link.url, data)
