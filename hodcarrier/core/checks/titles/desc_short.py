"""The meta description is shorter than the limit, in columns of Latin letters."""

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
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.DESCRIPTION,
    about="indexable",
    needs=(HeadFacts,),
    summary="Meta description too short",
    terms=(
        "meta description",
        "snippet",
    ),
    why="A description of a few words leaves most of the space in search results empty, and search engines fill it with any sentence of the page.",
    fix="Say in one or two sentences what the page offers and to whom.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"short": "{chars} characters; at least {limit} are recommended: “{description}”"},
    cause="alone",
    cause_line="“{description}”",
    limits={"desc_chars_min": Limit(50, "characters", "shortest description that is still in order")},
    examples=(
        fails("short")(page(doc(head='<meta name=description content="' + "a" * 49 + '">'))),
        passes(page(doc(head='<meta name=description content="' + "a" * 50 + '">'))),
        passes(page(doc(head='<meta name=description content="' + "綱" * 25 + '">'))),
        passes(page(doc(head='<meta name=description content="">'))),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    text = page.head.description
    if text and columns(text) < limits["desc_chars_min"]:
        data = {"description": text, "chars": columns(text), "limit": int(limits["desc_chars_min"])}
        yield Fail("short", "", {**data, "selector": 'meta[name="description" i]'})
