"""An element takes the focus though it or one around it is hidden from assistive technology by aria-hidden.

What is disabled, inert, hidden or not displayed by a style of its own passes, and so does what a negative tabindex takes out."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Hidden from screen readers, yet focusable",
    terms=("aria-hidden", "keyboard", "accessibility", "focus"),
    why="Who moves by keyboard reaches the element, and a screen reader says nothing there. People cannot tell where they are.",
    fix='Take aria-hidden away, or take the element out of the order of focus with tabindex="-1" or inert.',
    effort=Effort.SMALL,
    standard="WCAG 2.2, 4.1.2; WAI-ARIA 1.2, 6.6",
    messages={"focus": "{element} takes the focus inside aria-hidden"},
    cause="element",
    cause_line="{element} on {pages:page}",
    examples=(
        fails("focus")(page(doc("<div aria-hidden=true><a href=/a>Anchors</a></div>"))),
        fails("focus")(page(doc("<button aria-hidden=true>Menu</button>"))),
        passes(page(doc("<div aria-hidden=true><a href=/a tabindex=-1>Anchors</a></div>"))),
        passes(page(doc("<div aria-hidden=true hidden><a href=/a>Anchors</a></div>"))),
        passes(page(doc("<span aria-hidden=true>*</span><a href=/a>Anchors</a>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for element in page.markup.hidden_focus:
        yield Fail("focus", element, {"element": element, "selector": '[aria-hidden="true"]'})
