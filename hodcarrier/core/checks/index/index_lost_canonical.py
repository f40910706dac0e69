"""A page that was indexable in an earlier run names another page as its canonical now."""

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
    WhyNot,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.KNOWN_BEFORE,
    needs=(HeadFacts,),
    summary="Canonical now points elsewhere",
    terms=(
        "rel=canonical",
        "deindexed",
        "change",
    ),
    why="The page was in the index and now asks to be replaced by another one. If that is a mistake of a template, its visits go.",
    fix="Let the page name itself again. If the move is meant, redirect the page permanently instead, which leaves no doubt.",
    effort=Effort.SMALL,
    standard="RFC 6596",
    messages={"lost": "Was indexable before; its canonical is now {target}"},
    cause="template",
    cause_line="{pages:page} name another page as canonical now, such as {target}",
    examples=(
        fails("lost")(page(doc(head="<link rel=canonical href=/b>")), page(doc(), "/b"), before=(page(doc()),)),
        passes(page(doc(head="<link rel=canonical href=/b>")), before=(page(doc(head="<link rel=canonical href=/b>")),)),
        passes(page(doc()), before=(page(doc()),)),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.was_indexable and page.why_not == WhyNot.CANONICAL_ELSEWHERE:
        yield Fail("lost", "", {"target": page.canonical, "selector": 'link[rel~="canonical" i]'})
