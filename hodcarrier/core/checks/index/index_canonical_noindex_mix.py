"""The page is noindex and names another page as its canonical, which are two different wishes."""

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
from hodcarrier.core.facts.indexable import is_noindex

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.CANONICAL_ELSEWHERE,
    needs=(HeadFacts,),
    summary="Noindex together with a canonical to another page",
    terms=(
        "rel=canonical",
        "robots meta",
    ),
    why="Noindex says that the page should vanish, the canonical that another page is the same. Search engines may apply noindex to that page too.",
    fix="Decide for one: the canonical if the pages are alike, noindex if they are not.",
    effort=Effort.SMALL,
    standard="RFC 6596",
    messages={"mix": "Noindex, and the canonical is {target}"},
    cause="template",
    cause_line="{pages:page} are noindex and name another page, such as {target}",
    examples=(
        fails("mix")(page(doc(head="<meta name=robots content=noindex><link rel=canonical href=/b>")), page(doc(), "/b")),
        passes(page(doc(head="<meta name=robots content=noindex><link rel=canonical href=/>"))),
        passes(page(doc(head="<link rel=canonical href=/b>")), page(doc(), "/b")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if is_noindex(page.directives) and page.canonical and page.canonical != page.url:
        yield Fail("mix", "", {"target": page.canonical, "selector": 'link[rel~="canonical" i]'})
