"""The title of an indexable page has fewer characters than the limit."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Limit, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="medium",
    subject="page",
    needs="document",
    summary="Titles that say too little",
    why="In a list of results, a title of one or two words gives nobody a reason to click.",
    fix="Say what the page offers and for whom, the weightiest words first.",
    effort="small",
    standard="Good practice",
    messages={"short": "{chars} characters, at least {limit} are in order: “{title}”"},
    cause="alone",
    cause_line="“{title}”",
    limits={"title_chars_min": Limit(15, "characters", "shortest title that is still in order")},
    examples=(
        fails("short")(page(doc(head="<title>Fourteen chars</title>"))),
        passes(page(doc(head="<title>Fifteen letters</title>"))),
        passes(page(doc(head="<title>Rope</title><meta name=robots content=noindex>"))),
        passes(page(doc(head="<title>Rope</title>")), plan={"thresholds": {"title_chars_min": 4}}),
    ),
)


def find(page: PageView, limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    title = page.document.title
    if title and len(title) < limits["title_chars_min"] and page.indexable:
        yield Fail(
            "short", "", {"title": title, "chars": len(title), "limit": int(limits["title_chars_min"]), "selector": "title"}
        )
