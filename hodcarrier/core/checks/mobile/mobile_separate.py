"""A page names a version for small screens (rel=alternate with a media query) that was read, and that does not name the page as its
canonical."""

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
    doc,
    fails,
    gone,
    page,
    passes,
    without_return,
)
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.links import LinkFacts

SMALL = "<link rel=alternate media='only screen and (max-width: 640px)' href=/m/>"

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(LinkFacts, HeadFacts),
    summary="Mobile version does not return",
    terms=("separate mobile site", "alternate", "m-dot", "canonical"),
    why="Without the way back search engines take the mobile version for a page of its own, and the two compete.",
    fix="Let the canonical of the mobile version name this page. Better still, serve one page that fits all screens.",
    effort=Effort.MEDIUM,
    standard="RFC 6596; CSS Media Queries 4",
    messages={"return": "{target} does not name this page as its canonical"},
    cause="target",
    cause_line="{target}; named by {pages:page}",
    examples=(
        fails("return")(page(doc(head=SMALL)), page(doc(), "/m/")),
        passes(page(doc(head=SMALL)), page(doc(head="<link rel=canonical href=/>"), "/m/")),
        passes(page(doc(head="<link rel=alternate media=print href=/m/>")), page(doc(), "/m/")),
        passes(page(doc(head=SMALL)), gone("/m/")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, _facts in without_return(page, page.distinct_links("mobile"), page.canonical):
        yield Fail("return", link.url, {"target": link.url, "selector": 'link[rel~="alternate" i][media]'})
