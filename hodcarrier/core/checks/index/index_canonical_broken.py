"""The target of a canonical answers 4xx, 5xx or nothing."""

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
    doc,
    fails,
    gone,
    page,
    passes,
)
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Canonical points to a broken URL",
    terms=(
        "canonical 404",
        "rel=canonical",
    ),
    why="The page names a canonical URL that does not return a page, so search engines may drop it or ignore the canonical.",
    fix="Point the canonical at a URL that returns 200, usually that of the page itself.",
    element='link[rel~="canonical" i]',
    effort=Effort.SMALL,
    standard="RFC 6596, 3",
    messages={"broken": "The canonical {target} ends with: {outcome}"},
    cause="target",
    cause_line="{target}: {outcome}",
    examples=(
        fails("broken")(page(doc(head='<link rel=canonical href="/x">')), gone("/x")),
        passes(page(doc(head='<link rel=canonical href="/x">')), page(doc(), "/x")),
        passes(page(doc(head='<link rel=canonical href="/">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.canonical_target
    if target is None:
        return
    if not target.examined:
        yield Unsure(page.canonical, "the target was not reached")
    elif target.broken:
        yield Fail("broken", page.canonical, {"target": page.canonical, "outcome": target.outcome})
