"""A version in another language is noindex or blocked by robots.txt."""

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
from hodcarrier.core.facts.indexable import REASONS
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="hreflang points to a page that cannot be indexed",
    terms=(
        "hreflang",
        "noindex",
    ),
    why="Search engines cannot show a version that must not be indexed, and may ignore the whole set.",
    fix="Make the version indexable, or remove the entry.",
    element='link[hreflang="{code}" i]',
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"shut": "The {code} version {target} is {why}"},
    cause="target",
    cause_line="{target} is {why}",
    examples=(
        fails("shut")(
            page(doc(head="<link rel=alternate hreflang=cy href=/cy>")),
            page(doc(head="<meta name=robots content=noindex>"), "/cy"),
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
        elif page.why_not_of(alternate.url) in (WhyNot.NOINDEX, WhyNot.DISALLOWED):
            yield Fail(
                "shut",
                alternate.url,
                {"target": alternate.url, "code": alternate.code, "why": REASONS[page.why_not_of(alternate.url)]},
            )
