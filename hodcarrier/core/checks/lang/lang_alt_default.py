"""A set of at least two languages has no x-default, the page for everybody else."""

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
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="hreflang without x-default",
    terms=(
        "hreflang",
        "x-default",
    ),
    why="People whose language is not in the set get any of the versions. With x-default you say which.",
    fix="Add an entry with x-default that names the page for everybody else, such as the English one or a page to choose on.",
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"default": "{count:language} without x-default"},
    cause="template",
    cause_line="{pages:page} without x-default, such as {example}",
    examples=(
        fails("default")(page(doc(head="<link rel=alternate hreflang=cy href=/cy><link rel=alternate hreflang=en href=/>"))),
        passes(
            page(
                doc(
                    head="<link rel=alternate hreflang=cy href=/cy><link rel=alternate hreflang=en href=/><link rel=alternate hreflang=x-default href=/>"
                )
            )
        ),
        passes(page(doc(head="<link rel=alternate hreflang=en-GB href=/><link rel=alternate hreflang=en-US href=/us>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    codes = {alternate.code.lower() for alternate in page.alternates if alternate.in_head}
    languages = {code.partition("-")[0] for code in codes - {"x-default"}}
    if len(languages) > 1 and "x-default" not in codes:
        yield Fail("default", "", {"count": len(languages), "example": page.url, "selector": "link[hreflang]"})
