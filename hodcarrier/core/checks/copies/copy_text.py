"""Indexable pages whose main texts are the same, letter by letter but for case, marks and spacing. Texts of a few words are left out."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    GroupView,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.text import TextFacts

WORDS_MIN = 30
TEXT = "rope and tide " * 12

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.GROUP,
    needs=(TextFacts,),
    summary="Duplicate pages",
    terms=(
        "duplicate content",
        "same text",
    ),
    why="Search engines keep one of several equal pages and drop the others, and you do not choose which. Links to the others count for less.",
    fix="Keep one page. Redirect the others to it, or name it as their canonical.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"same": "{count} pages have the same text"},
    cause="group",
    cause_line="The same text on {findings} pages, such as {first}",
    examples=(
        fails("same", "same")(page(doc("<a href=/b>b</a><main>" + TEXT)), page(doc("<main>" + TEXT.upper()), "/b")),
        passes(page(doc("<a href=/b>b</a><main>" + TEXT)), page(doc("<main>" + TEXT + "Tide"), "/b")),
        passes(page(doc("<a href=/b>b</a><main>Rope")), page(doc("<main>Rope"), "/b")),
        passes(page(doc("<a href=/b>b</a><main>" + TEXT)), page(doc("<main>" + TEXT, "<link rel=canonical href=/>"), "/b")),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return page.text.text_hash if page.text.words >= WORDS_MIN else ""


def find(group: GroupView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    data = {"count": len(group.members), "others": list(group.members[:20]), "first": group.members[0]}
    yield Fail("same", "", data, cause=group.key)
