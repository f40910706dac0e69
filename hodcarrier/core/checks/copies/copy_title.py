"""Indexable pages that share a title. Pages of one paged series and language alternates of one another are left out."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import GroupView, PageView

CHECK = Check(
    severity="medium",
    subject="group",
    needs="document",
    summary="Pages that share a title",
    why="Two pages with one title compete for the same search, and in a list of results they cannot be told apart.",
    fix="Give each page a title that says what sets it apart from the others named here.",
    effort="medium",
    standard="Good practice",
    messages={"same": "{count} pages share the title “{title}”"},
    cause="group",
    cause_line="“{title}” on {findings} pages",
    examples=(
        fails("same", "same")(
            page(doc('<a href="/b">b</a>', "<title>Rope for small boats</title>")),
            page(doc("", "<title>Rope for small boats</title>"), "/b"),
        ),
        passes(
            page(doc('<a href="/b">b</a>', "<title>Rope for small boats</title>")),
            page(doc("", "<title>Anchors for small boats</title>"), "/b"),
        ),
        passes(
            page(doc('<a href="/b">b</a>', "<title>Rope for small boats</title>")),
            page(doc("", "<title>Rope for small boats</title><meta name=robots content=noindex>"), "/b"),
        ),
    ),
)


def key(page: PageView) -> str:
    """What the pages of a group share."""
    return "" if page.document.alternates else page.document.title


def find(group: GroupView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    yield Fail("same", "", {"title": group.key, "count": len(group.members), "others": list(group.members[:20])}, cause=group.key)
