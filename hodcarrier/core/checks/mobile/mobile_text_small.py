"""Styles of the page's own elements set more than a share of its text below 12 pixels. Style sheets are not looked at."""

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
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.markup import MarkupFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MarkupFacts,),
    summary="Small text",
    terms=("font size", "readability", "mobile"),
    why="Text this small cannot be read on a phone without zooming in.",
    fix="Set at least 16 pixels for running text, in the style sheet instead of in the elements.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"small": "{percent} % of the text is smaller than 12 pixels; up to {limit} % is fine"},
    cause="template",
    limits={"small_text_max": Limit(40, "percent", "largest share of small text that is still in order")},
    examples=(
        fails("small")(page(doc("<p style='font-size: 9px'>" + "a" * 401 + "<p>" + "b" * 599))),
        passes(page(doc("<p style='font-size: 9px'>" + "a" * 400 + "<p>" + "b" * 599))),
        passes(page(doc("<p style='font-size: 12px'>" + "a" * 401))),
        passes(page(doc("<p style='font-size: 9pt'>" + "a" * 401))),
        passes(
            page(doc("<p style='font-size: 9px'>" + "a" * 401 + "<p>" + "b" * 599)), plan={"thresholds": {"small_text_max": 41}}
        ),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    percent = 100 * page.markup.small_text_ratio
    if percent > limits["small_text_max"]:
        yield Fail(
            "small",
            "",
            {"percent": round(percent, 1), "limit": round(limits["small_text_max"], 1), "selector": '[style*="font-size"]'},
        )
