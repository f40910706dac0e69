"""Text that only stands in for one to come: the usual Latin filler or “your text here”. A page about such texts is told too; waive it."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    about="indexable",
    needs=(TextFacts,),
    summary="Filler text left in",
    terms=("lorem ipsum", "placeholder", "dummy text"),
    why="Visitors see that the page is unfinished, and search engines index words that mean nothing.",
    fix="Write the text, or take the block out. Search the templates for other places where the filler may stand.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"filler": "“{text}” stands on the page"},
    cause="template",
    examples=(
        fails("filler")(page(doc("<p>Lorem ipsum dolor sit amet, consectetur adipiscing elit."))),
        fails("filler")(page(doc("<h2>Your text here</h2>"))),
        passes(page(doc("<p>Rope for small boats."))),
        passes(page(doc("<p>Lorem", "<meta name=robots content=noindex>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.text.fillers:
        yield Fail("filler", "", {"text": page.text.fillers[0], "all": list(page.text.fillers)})
