"""The first byte of the page came later than the limit of what visitors bear."""

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
    Unsure,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.page import PageFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(
        Answer,
        PageFacts,
    ),
    summary="Very slow time to first byte",
    terms=(
        "TTFB",
        "server response time",
        "timeout",
    ),
    why="Many visitors leave before anything appears, and search engines crawl such a site less.",
    fix="Find out what the server does in that time: a query without an index, a call to another service, a machine without reserves.",
    effort=Effort.LARGE,
    standard="Good practice",
    messages={"slow": "{ms} ms to first byte; more than {limit} ms is very slow"},
    cause="template",
    limits={"first_byte_ms_worst": Limit(2500, "ms", "wait beyond which a page is very slow")},
    examples=(
        fails("slow")(page(doc(), first_byte_ms=2501)),
        passes(page(doc(), first_byte_ms=2500)),
        passes(page(doc(), first_byte_ms=2600), plan={"thresholds": {"first_byte_ms_worst": 3000}}),
        passes(page(doc())),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    slow = page.waited_longer(limits["first_byte_ms_worst"])
    if slow is None:
        yield Unsure("", "the time to first byte could not be measured")
    elif slow and page.answer is not None:
        yield Fail("slow", "", {"ms": round(page.answer.first_byte_ms or 0), "limit": int(limits["first_byte_ms_worst"])})
