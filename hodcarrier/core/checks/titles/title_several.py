"""More than one title element in the head (WHATWG HTML, 4.2.1 permits one)."""

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
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.TITLE,
    needs=(HeadFacts,),
    summary="Multiple titles",
    terms=(
        "title tag",
        "duplicate title element",
    ),
    why="Search engines use only one of several titles, and it may not be the one you intended.",
    fix="Keep one title element. A second one often comes from a plug-in or a template that is included twice.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.1",
    messages={"several": "{count} titles: {titles}"},
    cause="template",
    examples=(
        fails("several")(page(doc(head="<title>Rope</title><title>Rope again</title>"))),
        passes(page(doc(head="<title>Rope</title>"))),
        passes(page(doc("<svg><title>Icon</title></svg>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    inside = [title for title in page.head.titles if title.in_head]
    if len(inside) > 1:
        yield Fail(
            "several",
            "",
            {"count": len(inside), "titles": " | ".join(title.text for title in inside[:4]), "selector": "head > title"},
        )
