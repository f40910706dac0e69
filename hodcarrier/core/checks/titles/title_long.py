"""The title of an indexable page has more characters than the limit."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Limit, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="medium",
    subject="page",
    needs="document",
    summary="Titles that will be cut off",
    why="Search results show about sixty characters. What stands behind is cut off, often in the middle of a word.",
    fix="Put what matters first and cut the rest. The name of the site may go last, or go.",
    effort="small",
    standard="Good practice",
    messages={"long": "{chars} characters, up to {limit} are in order: “{title}”"},
    cause="alone",
    cause_line="“{title}”",
    limits={"title_chars_max": Limit(60, "characters", "longest title that is still in order")},
    examples=(
        fails("long")(page(doc(head="<title>" + "a" * 61 + "</title>"))),
        passes(page(doc(head="<title>" + "a" * 60 + "</title>"))),
        passes(page(doc(head="<title>" + "a" * 61 + "</title>")), plan={"thresholds": {"title_chars_max": 70}}),
    ),
)


def find(page: PageView, limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    title = page.document.title
    if len(title) > limits["title_chars_max"] and page.indexable:
        yield Fail(
            "long", "", {"title": title, "chars": len(title), "limit": int(limits["title_chars_max"]), "selector": "title"}
        )
