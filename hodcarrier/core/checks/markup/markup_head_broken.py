"""Something that does not belong in the head ends it early, so that metadata behind it end up in the body.

The elements that the head may hold are those of WHATWG HTML, 13.2.6.4.4; metadata after the head's own end are told by other checks."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Head ends too early",
    terms=("head", "metadata in body", "parser", "noscript image"),
    why="Browsers and search engines end the head at the first element that does not belong there. Canonicals, robots directives and hreflang behind it no longer count.",
    fix="Move the element named here into the body. Tracking images and their noscript wrappers are the usual cause.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 13.2.6.4.4",
    messages={"element": "<{element}> ends the head; behind it: {lost}", "text": "Text in the head ends it; behind it: {lost}"},
    cause="template",
    examples=(
        fails("element")(page(doc(head="<title>Rope</title><img src=/t.gif><link rel=canonical href=/>"))),
        fails("element")(page(doc(head="<noscript><img src=/t.gif></noscript><meta name=robots content=noindex>"))),
        fails("text")(page(doc(head="Rope <meta name=description content=Rope>"))),
        passes(page(doc("<link rel=canonical href=/>", "<title>Rope</title>"))),
        passes(page(doc(head="<!-- <img> --><script>'<img>'</script><title><img></title><link rel=canonical href=/>"))),
        passes(page(doc("<img src=/t.gif>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    breaker, lost = page.markup.head_breaker, page.markup.head_lost
    if breaker:
        data = {
            "element": breaker,
            "lost": ", ".join(lost[:5]),
            "number": len(lost),
            "selector": "" if breaker == "text" else breaker,
        }
        yield Fail("text" if breaker == "text" else "element", "", data)
