"""A version in another language names another page as its canonical."""

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
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="hreflang points to a non-canonical page",
    terms=(
        "hreflang",
        "rel=canonical",
    ),
    why="The version says itself that another page should be indexed, so search engines do not show it to people of that language.",
    fix="Name the canonical page of that language, or let the version name itself as canonical.",
    element='link[hreflang="{code}" i]',
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"canonical": "The {code} version {target} names another page as its canonical"},
    cause="target",
    cause_line="{target} names another page as its canonical",
    examples=(
        fails("canonical")(
            page(doc(head="<link rel=alternate hreflang=cy href=/cy>")), page(doc(head="<link rel=canonical href=/>"), "/cy")
        ),
        passes(page(doc(head="<link rel=alternate hreflang=cy href=/cy>")), page(doc(), "/cy")),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for alternate, target in page.version_targets:
        if not target.settled:
            yield Unsure(alternate.url, "the target was not reached")
        elif page.why_not_of(alternate.url) == WhyNot.CANONICAL_ELSEWHERE:
            yield Fail("canonical", alternate.url, {"target": alternate.url, "code": alternate.code})
