"""The title of an indexable page has more characters than the limit, or is wider than one line of search results in the reference face.

One finding a page: a title that has too many characters is not told to be too wide as well.
"""

from collections.abc import Iterator
from math import ceil

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
from hodcarrier.core.facts.length import TITLE_PX, columns, pixels

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
    messages={
        "long": "{chars} characters; up to {limit} are shown: “{title}”",
        "wide": "{px} pixels wide; up to {limit} are shown: “{title}”",
    },
    cause="alone",
    revision=3,
    cause_line="“{title}”",
    limits={
        "title_chars_max": Limit(60, "characters", "longest title that is still in order"),
        "title_px_max": Limit(580, "pixels", "widest title that is still in order, set in 20 pixels"),
    },
    examples=(
        fails("long")(page(doc(head="<title>" + "i" * 61 + "</title>"))),
        fails("wide")(page(doc(head="<title>W" + "a" * 51 + "</title>"))),
        fails("long")(page(doc(head="<title>" + "綱" * 31 + "</title>", lang="ja"))),
        passes(page(doc(head="<title>" + "綱" * 28 + "ii</title>", lang="ja"))),
        passes(page(doc(head="<title>" + "i" * 60 + "</title>"))),
        passes(page(doc(head="<title>W" + "a" * 50 + "i</title>"))),
        passes(page(doc(head="<title>" + "i" * 61 + "</title>")), plan={"thresholds": {"title_chars_max": 70}}),
        passes(page(doc(head="<title>" + "a" * 60 + "</title>")), plan={"thresholds": {"title_px_max": 668}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    title = page.head.title
    if columns(title) > limits["title_chars_max"]:
        yield Fail(
            "long", "", {"title": title, "chars": columns(title), "limit": int(limits["title_chars_max"]), "selector": "title"}
        )
    elif (px := ceil(pixels(title, TITLE_PX))) > limits["title_px_max"]:
        yield Fail("wide", "", {"title": title, "px": px, "limit": int(limits["title_px_max"]), "selector": "title"})
