"""A link leads to a page that names another one as its canonical."""

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
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Links to non-canonical pages",
    terms=(
        "rel=canonical",
        "internal linking",
    ),
    why="The site links to one page and says that another one is the original, so the links count for less.",
    fix="Link to the page that the canonical names.",
    effort=Effort.SMALL,
    standard="RFC 6596",
    messages={"other": "{target} names another page as its canonical"},
    cause="target",
    cause_line="{target}; linked from {pages:page}",
    examples=(
        fails("other")(page(doc("<a href=/a>a</a>")), page(doc(head="<link rel=canonical href=/b>"), "/a"), page(doc(), "/b")),
        passes(page(doc("<a href=/a>a</a>")), page(doc(head="<link rel=canonical href=/a>"), "/a")),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, target in page.outlinks:
        if target.internal and link.url != page.url and page.why_not_of(link.url) == WhyNot.CANONICAL_ELSEWHERE:
            yield Fail("other", link.url, {"target": link.url, "text": link.text, "selector": f'a[href="{link.raw}"]'})
