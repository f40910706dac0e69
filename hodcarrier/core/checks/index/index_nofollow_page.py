"""A page that may be indexed carries nofollow for all of its links, by meta or by header."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import without_word
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    about="indexable",
    needs=(HeadFacts,),
    summary="Page-level nofollow",
    terms=(
        "robots meta",
        "X-Robots-Tag",
        "internal links",
    ),
    why="Search engines do not follow any link of this page. Pages that are linked only from here are not found, and the others get less weight.",
    fix="Remove nofollow from the robots meta tag or the header. If single links should not be followed, mark those.",
    mend=without_word("content", "nofollow"),
    effort=Effort.SMALL,
    standard="Robots meta directives",
    messages={"nofollow": "No link of the page is followed: {directives}"},
    cause="template",
    examples=(
        fails("nofollow")(page(doc(head="<meta name=robots content=nofollow>"))),
        passes(page(doc(head='<meta name=robots content="index, follow">'))),
        passes(page(doc(head='<meta name=robots content="noindex, nofollow">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if "nofollow" in page.directives:
        yield Fail("nofollow", "", {"directives": ", ".join(sorted(page.directives)), "selector": 'meta[name="robots" i]'})
