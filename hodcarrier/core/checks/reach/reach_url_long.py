"""The URL is longer than the limit, in characters as it is sent."""

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

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    summary="URL too long",
    terms=(
        "long URL",
        "URL length",
    ),
    why="Long URLs are cut off in search results and mails, and are hard to read, to say and to type.",
    fix="Shorten the path to a few words that name the page, and redirect the old URL permanently.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"long": "{chars} characters; up to {limit} is fine"},
    cause="alone",
    cause_line="{chars} characters",
    limits={"url_max": Limit(115, "characters", "longest URL that is still in order")},
    examples=(
        fails("long")(page(doc(), "/" + "a" * 95), plan={"start": ["https://shop.example/" + "a" * 95]}),
        passes(page(doc(), "/" + "a" * 94), plan={"start": ["https://shop.example/" + "a" * 94]}),
        passes(page(doc())),
        passes(page(doc(), "/" + "a" * 95), plan={"start": ["https://shop.example/" + "a" * 95], "thresholds": {"url_max": 116}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if len(page.url) > limits["url_max"]:
        yield Fail("long", "", {"chars": len(page.url), "limit": int(limits["url_max"])})
