"""Places where a browser has to repair the HTML (WHATWG HTML, 13.2), of a page that somebody looks at. Runs do not read them: it takes a
hundred times as long as parsing. Errors of one kind about one element are told once, with the first place."""

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
from hodcarrier.core.facts.markup import MarkupFacts

LOOKED_AT = {"sample_inspect": True}

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.INSPECTED,
    needs=(MarkupFacts,),
    summary="HTML errors",
    terms=("validation", "parse error", "invalid HTML", "nesting"),
    why="Browsers repair such places by rules that few know, so that elements end up elsewhere than they were written. Most errors are harmless; those that move metadata or links are not.",
    fix="Mend the first error and look again: one missing end tag often makes many others.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 13.2",
    messages={"error": "Line {line}, column {column}: {problem}. {remedy}"},
    cause="template",
    examples=(
        fails("error", "error")(page(doc("<p id=a id=b>Rope</b>")), plan=LOOKED_AT),
        passes(page(doc("<p>Rope")), plan=LOOKED_AT),
        passes(page(doc("<p id=a id=b>Rope</b>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    seen = set()
    for error in page.markup.errors or ():
        place = f"{error.code} {error.problem}"
        if place not in seen:
            seen.add(place)
            data = {"line": error.line, "column": error.column, "problem": error.problem, "remedy": error.remedy}
            yield Fail("error", place, data)
