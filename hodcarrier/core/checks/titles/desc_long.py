"""The description of an indexable page has more characters than the limit, or is wider than two lines of search results in the reference face."""

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
from hodcarrier.core.facts.length import DESCRIPTION_PX, columns, pixels

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.DESCRIPTION,
    about="indexable",
    needs=(HeadFacts,),
    summary="Meta description too long",
    terms=(
        "description",
        "snippet",
        "truncated",
        "pixel width",
    ),
    why="Search results show about 160 characters and cut off the rest, often in mid-sentence.",
    fix="Shorten it to one or two sentences, with what matters first.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={
        "long": "{chars} characters; up to {limit} are shown",
        "wide": "{chars} characters, {px} pixels wide; up to {limit} pixels are shown",
    },
    cause="alone",
    revision=3,
    cause_line="{chars} characters",
    limits={
        "desc_chars_max": Limit(160, "characters", "longest description that is still in order"),
        "desc_px_max": Limit(990, "pixels", "widest description that is still in order, set in 14 pixels"),
    },
    examples=(
        fails("long")(page(doc(head='<meta name=description content="' + "i" * 161 + '">'))),
        fails("wide")(page(doc(head='<meta name=description content="WWW' + "a" * 123 + '">'))),
        passes(page(doc(head='<meta name=description content="' + "i" * 160 + '">'))),
        passes(page(doc(head='<meta name=description content="WWW' + "a" * 122 + '">'))),
        passes(
            page(doc(head='<meta name=description content="' + "i" * 161 + '">')), plan={"thresholds": {"desc_chars_max": 170}}
        ),
        passes(page(doc(head='<meta name=description content="' + "a" * 160 + '">')), plan={"thresholds": {"desc_px_max": 1246}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    text = page.head.description
    if columns(text) > limits["desc_chars_max"]:
        yield Fail(
            "long",
            "",
            {
                "description": text[:400],
                "chars": columns(text),
                "limit": int(limits["desc_chars_max"]),
                "selector": "meta[name=description]",
            },
        )
    elif (px := ceil(pixels(text, DESCRIPTION_PX))) > limits["desc_px_max"]:
        data = {"description": text[:400], "chars": columns(text), "px": px, "limit": int(limits["desc_px_max"])}
        yield Fail("wide", "", {**data, "selector": "meta[name=description]"})
