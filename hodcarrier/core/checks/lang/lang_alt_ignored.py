"""An hreflang annotation stands outside the real head, where search engines do not read it."""

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
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="hreflang outside the head",
    terms=(
        "hreflang",
        "head",
    ),
    why="Search engines read link elements in the head only. Annotations in the body count as if they were not there.",
    fix="Move them into the head. If they are there in the source, an element before them has ended the head early: move that one into the body.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.4 and 13.2.6.4.4",
    messages={"ignored": "{count:annotation} outside the head, such as the one for {code}"},
    cause="template",
    cause_line="{pages:page} with annotations outside the head, such as {example}",
    examples=(
        fails("ignored")(page(doc("<link rel=alternate hreflang=cy href=/cy>"))),
        passes(page(doc(head="<link rel=alternate hreflang=cy href=/cy>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    outside = [alternate for alternate in page.alternates if not alternate.in_head]
    if outside:
        yield Fail(
            "ignored",
            "",
            {"count": len(outside), "code": outside[0].code, "example": page.url, "selector": "body link[hreflang]"},
        )
