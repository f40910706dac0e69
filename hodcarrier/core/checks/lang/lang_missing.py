"""The html element has no lang attribute, or an empty one."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(LanguageFacts,),
    summary="Language not declared",
    terms=(
        "html lang",
        "lang attribute",
    ),
    why="Screen readers do not know how to pronounce the text, and browsers offer translations nobody needs.",
    fix='Add the language to the html element in the template, e.g. lang="en".',
    mend=attribute("lang", "{spoken}"),
    effort=Effort.SMALL,
    standard="WCAG 2.2, 3.1.1; WHATWG HTML, 3.2.6.2",
    messages={"missing": "The html element has no lang attribute"},
    cause="template",
    examples=(
        fails("missing")(page("<!doctype html><title>Rope</title>")),
        fails("missing")(page(doc(lang=""))),
        passes(page(doc(lang="cy"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.language.lang:
        yield Fail("missing", "", {"snippet": "<html>", "selector": "html"})
