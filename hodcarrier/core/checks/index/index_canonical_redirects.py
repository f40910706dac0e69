"""The canonical names a URL that redirects."""

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
    moved,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Canonical points to a redirect",
    terms=(
        "rel=canonical",
        "301",
    ),
    why="The page says that another URL is the right one, and that one says the same of a third. Search engines may ignore the canonical.",
    fix="Name the URL at the end of the redirect.",
    element='link[rel~="canonical" i]',
    mend=attribute("href", "{to}"),
    effort=Effort.SMALL,
    standard="RFC 6596, 3",
    messages={"redirects": "The canonical {target} redirects to {to}"},
    cause="target",
    cause_line="{target} redirects to {to}",
    examples=(
        fails("redirects")(page(doc(head="<link rel=canonical href=/b>")), moved("/b", "/c"), page(doc(), "/c")),
        passes(page(doc(head="<link rel=canonical href=/b>")), page(doc(), "/b")),
        passes(page(doc(head="<link rel=canonical href=/b>")), moved("/b", "/c")),
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
    elif target.hops and not target.broken:
        yield Fail("redirects", page.canonical, {"target": page.canonical, "to": target.final_url})
