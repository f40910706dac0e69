"""The canonical names a page that is noindex or blocked by robots.txt."""

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
    Unsure,
    When,
    WhyNot,
    doc,
    fails,
    page,
    passes,
    text_file,
)
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.indexable import REASONS

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Canonical points to a page that cannot be indexed",
    terms=(
        "rel=canonical",
        "noindex",
        "blocked",
    ),
    why="The page asks to be replaced by one that must not be indexed. Search engines may then show neither.",
    fix="Name a page that may be indexed, usually the page itself, or make the named page indexable.",
    element='link[rel~="canonical" i]',
    effort=Effort.SMALL,
    standard="RFC 6596, 3",
    messages={"shut": "The canonical {target} is {why}"},
    cause="target",
    cause_line="{target} is {why}",
    examples=(
        fails("shut")(page(doc(head="<link rel=canonical href=/b>")), page(doc(head="<meta name=robots content=noindex>"), "/b")),
        fails("shut")(page(doc(head="<link rel=canonical href=/b>")), text_file("/robots.txt", "User-agent: *\nDisallow: /b")),
        passes(page(doc(head="<link rel=canonical href=/b>")), page(doc(), "/b")),
        passes(page(doc(head="<link rel=canonical href=/>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.canonical_target
    if target is None:
        return
    if not target.settled:
        yield Unsure(page.canonical, "the target was not reached")
    elif page.why_not_of(page.canonical) in (WhyNot.NOINDEX, WhyNot.DISALLOWED):
        yield Fail("shut", page.canonical, {"target": page.canonical, "why": REASONS[page.why_not_of(page.canonical)]})
