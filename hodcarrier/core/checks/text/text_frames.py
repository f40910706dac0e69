"""The page is a frameset (WHATWG HTML, 16.2): it has no content of its own."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Frameset",
    terms=("frames", "frameset", "obsolete"),
    why="The content of a frameset has other addresses than the page. Search engines index its parts without what is around them, and links to them lose the frame.",
    fix="Build the parts into one page. Redirect the addresses of the frames to it.",
    effort=Effort.LARGE,
    standard="WHATWG HTML, 16.2",
    messages={"frames": "The page is a frameset"},
    cause="template",
    examples=(
        fails("frames")(
            page('<html><head><title>Rope</title></head><frameset cols="20%,*"><frame src="/menu"><frame src="/rope"></frameset>')
        ),
        passes(page(doc('<iframe src="/menu"></iframe>'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if any(name == "frameset" for name, _ in page.markup.obsolete):
        yield Fail("frames", "", {"selector": "frameset"})
