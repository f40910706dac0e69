"""The document does not begin with an HTML doctype (WHATWG HTML, 13.1.1); white space and comments may stand before it."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Doctype missing",
    terms=(
        "quirks mode",
        "HTML doctype",
    ),
    why="Without a doctype, browsers use quirks mode with outdated layout rules, so the page may look broken.",
    fix="Start the template with <!doctype html>.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 13.1.1",
    messages={"missing": "No HTML doctype"},
    cause="template",
    examples=(
        fails("missing")(page("<html lang=en><title>Rope</title>")),
        passes(page(doc())),
        passes(page('<!-- note --> <!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01//EN"><title>Rope</title>')),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.markup.doctype:
        yield Fail("missing", "", {"selector": "html"})
