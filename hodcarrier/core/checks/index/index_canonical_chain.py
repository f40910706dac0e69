"""The canonical names a page that names a third one as its canonical."""

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
)
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Canonical chains",
    terms=(
        "rel=canonical",
        "chain",
    ),
    why="Each page passes the question on. Search engines follow one step at best, and may choose a page you did not mean.",
    fix="Let all pages of the chain name the last one.",
    element='link[rel~="canonical" i]',
    effort=Effort.SMALL,
    standard="RFC 6596, 3",
    messages={"chain": "The canonical {target} names another page as its canonical"},
    cause="target",
    cause_line="{target} names another page as its canonical",
    examples=(
        fails("chain")(
            page(doc(head="<link rel=canonical href=/b>")),
            page(doc(head="<link rel=canonical href=/c>"), "/b"),
            page(doc(), "/c"),
        ),
        passes(page(doc(head="<link rel=canonical href=/b>")), page(doc(head="<link rel=canonical href=/b>"), "/b")),
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
    elif page.why_not_of(page.canonical) == WhyNot.CANONICAL_ELSEWHERE:
        yield Fail("chain", page.canonical, {"target": page.canonical})
