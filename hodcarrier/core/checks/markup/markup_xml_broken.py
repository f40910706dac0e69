"""A document that is XML by its type (application/xhtml+xml) is not well-formed, so that browsers show an error instead of it."""

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

XHTML = (("content-type", "application/xhtml+xml"),)
WHOLE = '<html xmlns="http://www.w3.org/1999/xhtml"><head><title>Rope</title></head><body><p>Rope&nbsp;and tide<br/></p></body></html>'

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    when=When.XML,
    needs=(MarkupFacts,),
    summary="XHTML is not well-formed",
    terms=(
        "XML parsing error",
        "application/xhtml+xml",
    ),
    why="Browsers read this document as XML and stop at the first error. Visitors see an error message instead of the page.",
    fix="Correct the place named here. If the page is not meant to be XML, serve it as text/html.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 14; XML 1.0, 2.1",
    messages={"broken": "Not well-formed: {error}"},
    cause="template",
    examples=(
        fails("broken")(page(doc("<p>never closed"), headers=XHTML)),
        fails("broken")(page(WHOLE.replace("&nbsp;and", "& "), headers=XHTML)),
        passes(page(WHOLE, headers=XHTML)),
        passes(page(doc("<p>never closed"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.markup.xml_error:
        yield Fail("broken", "", {"error": page.markup.xml_error})
