"""A text that the plan expects in the source of every page is absent, such as a tag the client needs."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.text import TextFacts

WANTS = {"expected": ["counter.js"]}

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(TextFacts,),
    summary="Expected text missing",
    terms=(
        "required text",
        "custom check",
    ),
    why="The plan says that every page must contain this text, usually a tracking script or a consent banner. Pages without it are missing from the client's analytics.",
    fix="Add the text to the template of these pages. Waive the finding for pages that should not have it.",
    effort=Effort.SMALL,
    standard="The plan",
    messages={"missing": "“{snippet}” is not in the source of the page"},
    cause="element",
    cause_line="“{snippet}” is missing on {pages:page}",
    examples=(
        fails("missing")(page(doc()), plan=WANTS),
        passes(page(doc(head="<title>Rope</title><script src=/counter.js></script>")), plan=WANTS),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for snippet in page.text.expected_missing:
        yield Fail("missing", snippet, {"snippet": snippet})
