"""The first H1 is longer than the limit, in columns of Latin letters."""

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
from hodcarrier.core.facts.length import columns
from hodcarrier.core.facts.text import TextFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.MAIN_HEADING,
    about="indexable",
    needs=(TextFacts,),
    summary="H1 too long",
    terms=(
        "heading",
        "H1 length",
    ),
    why="A heading of several lines is a paragraph. People look for one line that says where they are.",
    fix="Say in the heading what the page is about, and put the rest into the first sentence.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"long": "{chars} characters; up to {limit} is fine: “{heading}”"},
    cause="alone",
    cause_line="“{heading}”",
    limits={"h1_chars_max": Limit(70, "characters", "longest H1 that is still in order")},
    examples=(
        fails("long")(page(doc("<h1>" + "a" * 71))),
        passes(page(doc("<h1>" + "a" * 70))),
        passes(page(doc("<h1>" + "綱" * 35))),
        passes(page(doc("<h1>" + "a" * 71)), plan={"thresholds": {"h1_chars_max": 80}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    heading = page.text.h1
    if columns(heading) > limits["h1_chars_max"]:
        yield Fail(
            "long", "", {"heading": heading, "chars": columns(heading), "limit": int(limits["h1_chars_max"]), "selector": "h1"}
        )
