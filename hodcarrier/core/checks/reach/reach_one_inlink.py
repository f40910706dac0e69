"""Exactly one other page links to an indexable page with a followed link."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    summary="Pages with a single internal link",
    terms=(
        "inlinks",
        "internal linking",
        "nearly orphaned",
    ),
    why="A page that one other page links to gets little weight, and disappears with that link.",
    fix="Link to it from related pages too, if it should be found. If it should not, leave it as it is and waive the finding.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"one": "Only one page of the site links here"},
    cause="alone",
    across=True,
    examples=(
        fails("one")(page(doc("<a href=/a>a</a>")), page(doc(), "/a")),
        passes(
            page(doc("<a href=/a>a</a><a href=/b>b</a>")),
            page(doc("<a href=/b>b</a>"), "/a"),
            page(doc("<a href=/a>a</a>"), "/b"),
        ),
        passes(page(doc())),
        passes(page(doc("<a href=/a>a</a>")), page(doc(head="<meta name=robots content=noindex>"), "/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.inlinks == 1 and not page.is_start and not page.linked_over_redirect:
        yield Fail("one")
