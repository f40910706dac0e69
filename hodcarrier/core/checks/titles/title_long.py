"""The title of an indexable page has more characters than the limit."""

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
    summary="Title too long",
    terms=(
        "title tag",
        "page title",
        "truncated",
        "pixel width",
    ),
    why="Search results show about sixty characters of a title. The rest is cut off, often in mid-word.",
    fix="Put the most important words first and shorten the rest. The site name can go last or be left out.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"long": "{chars} characters; up to {limit} are shown: “{title}”"},
    cause="alone",
    revision=2,
    cause_line="“{title}”",
    limits={"title_chars_max": Limit(60, "characters", "longest title that is still in order")},
    examples=(
        fails("long")(page(doc(head="<title>" + "a" * 61 + "</title>"))),
        fails("long")(page(doc(head="<title>" + "綱" * 31 + "</title>", lang="ja"))),
        passes(page(doc(head="<title>" + "綱" * 30 + "</title>", lang="ja"))),
        passes(page(doc(head="<title>" + "a" * 60 + "</title>"))),
        passes(page(doc(head="<title>" + "a" * 61 + "</title>")), plan={"thresholds": {"title_chars_max": 70}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    title = page.head.title
    if columns(title) > limits["title_chars_max"]:
        yield Fail(
            "long", "", {"title": title, "chars": columns(title), "limit": int(limits["title_chars_max"]), "selector": "title"}
        )
