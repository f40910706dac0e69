"""Browsers draw the document in quirks mode (WHATWG HTML, 13.2.6.4.1): its doctype is missing or one of those that cause it.

White space, comments and what is taken for one, such as an XML declaration, may stand before it."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import ahead
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Doctype missing or outdated",
    terms=(
        "quirks mode",
        "HTML doctype",
    ),
    why="Without a doctype, or with an outdated one, browsers use quirks mode with the layout rules of the nineties, so the page may look broken.",
    fix="Start the template with <!doctype html>.",
    mend=ahead("<!doctype html>"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 13.1.1 and 13.2.6.4.1",
    revision=2,
    messages={"missing": "No HTML doctype", "quirks": "The doctype is one for which browsers use quirks mode"},
    cause="template",
    examples=(
        fails("missing")(page("<html lang=en><title>Rope</title>")),
        passes(page(doc())),
        fails("quirks")(page('<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 3.2 Final//EN"><title>Rope</title>')),
        passes(page('<?xml version="1.0" encoding="utf-8"?>\n<!DOCTYPE html><title>Rope</title>')),
        passes(page('<!-- note --> <!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01//EN"><title>Rope</title>')),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.markup.doctype:
        yield Fail("missing", "", {"selector": "html"})
    elif page.markup.quirks:
        yield Fail("quirks", "", {"selector": "html"})
