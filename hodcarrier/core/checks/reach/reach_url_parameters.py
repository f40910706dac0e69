"""The URL has more query parameters than the limit."""

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
from hodcarrier.core.web.urls import split

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.QUERY,
    about="indexable",
    summary="Too many query parameters",
    terms=(
        "query string",
        "faceted navigation",
        "dynamic URL",
    ),
    why="Each combination of parameters is a URL of its own. Search engines spend their visits on combinations instead of on pages.",
    fix="Leave out parameters that change nothing, and name the plain page as canonical of the others.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"many": "{count} parameters; up to {limit} is fine"},
    cause="template",
    limits={"params_max": Limit(3, "parameters", "most query parameters that are still in order")},
    examples=(
        fails("many")(page(doc(), "/?a=1&b=2&c=3&d=4"), plan={"start": ["https://shop.example/?a=1&b=2&c=3&d=4"]}),
        passes(page(doc(), "/?a=1&b=2&c=3"), plan={"start": ["https://shop.example/?a=1&b=2&c=3"]}),
        passes(page(doc(), "/?a=1&&b=2&c=3&"), plan={"start": ["https://shop.example/?a=1&&b=2&c=3&"]}),
        passes(page(doc())),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    count = sum(1 for pair in split(page.url).query.split("&") if pair)
    if count > limits["params_max"]:
        yield Fail("many", "", {"count": count, "limit": int(limits["params_max"])})
