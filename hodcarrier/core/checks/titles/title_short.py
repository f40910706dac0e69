"""The title of an indexable page has fewer characters than the limit."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.facts.length import columns

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.TITLE,
    about="indexable",
    needs=(HeadFacts,),
    summary="Title too short",
    terms=(
        "title tag",
        "page title",
    ),
    why="A title of one or two words gives people no reason to click in search results.",
    fix="Say what the page offers and for whom, with the most important words first.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"short": "{chars} characters; at least {limit} are recommended: “{title}”"},
    cause="alone",
    revision=2,
    cause_line="“{title}”",
    limits={"title_chars_min": Limit(15, "characters", "shortest title that is still in order")},
    examples=(
        fails("short")(page(doc(head="<title>Fourteen chars</title>"))),
        passes(page(doc(head="<title>小舟のための綱と錨</title>", lang="ja"))),
        passes(page(doc(head="<title>Fifteen letters</title>"))),
        passes(page(doc(head="<title>Rope</title><meta name=robots content=noindex>"))),
        passes(page(doc(head="<title>Rope</title>")), plan={"thresholds": {"title_chars_min": 4}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    title = page.head.title
    if title and columns(title) < limits["title_chars_min"]:
        yield Fail(
            "short", "", {"title": title, "chars": columns(title), "limit": int(limits["title_chars_min"]), "selector": "title"}
        )
