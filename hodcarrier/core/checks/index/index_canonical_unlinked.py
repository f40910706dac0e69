"""The canonical names a page of the site that no page links to."""

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

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Canonical page is not linked",
    terms=(
        "rel=canonical",
        "inlinks",
        "orphan",
    ),
    why="The site links to the copy and says that another page is the original. Search engines see little reason to believe it.",
    fix="Link to the page that the canonical names, not to its copies.",
    element='link[rel~="canonical" i]',
    effort=Effort.SMALL,
    standard="RFC 6596",
    messages={"unlinked": "No page links to the canonical {target}"},
    revision=2,
    cause="target",
    cause_line="{target} is named by {pages:page} and linked by none",
    across=True,
    examples=(
        fails("unlinked")(page(doc("<a href=/a>a</a>")), page(doc(head="<link rel=canonical href=/b>"), "/a"), page(doc(), "/b")),
        passes(
            page(doc("<a href=/a>a</a><a href=/b>b</a>")), page(doc(head="<link rel=canonical href=/b>"), "/a"), page(doc(), "/b")
        ),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.canonical_target
    if target is not None and target.examined and not target.broken and not target.hops and page.inlinks_of(page.canonical) == 0:
        yield Fail("unlinked", page.canonical, {"target": page.canonical})
