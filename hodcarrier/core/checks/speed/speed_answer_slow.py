"""The time from sending the request to the head of the answer is longer than the limit. A new connection is part of it."""

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

# From there on speed-answer-very-slow tells it.
WORST_MS = 2500.0

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(Answer, PageFacts),
    summary="Slow time to first byte",
    terms=(
        "TTFB",
        "server response time",
    ),
    why="Until the first byte arrives, visitors see a blank page and the browser cannot start loading anything.",
    fix="Find out what the server does in that time: slow database queries, calls to other services, a disabled cache.",
    effort=Effort.LARGE,
    standard="Good practice",
    messages={"slow": "{ms} ms to first byte; up to {limit} ms is fine"},
    cause="template",
    revision=3,
    limits={"first_byte_ms_max": Limit(800, "ms", "longest wait that is still in order")},
    examples=(
        fails("slow")(page(doc(), first_byte_ms=801)),
        passes(page(doc(), first_byte_ms=800)),
        passes(page(doc(), first_byte_ms=900), plan={"thresholds": {"first_byte_ms_max": 1000}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    slow = page.waited_longer(limits["first_byte_ms_max"])
    if slow is None:
        yield Unsure("", "the time to first byte could not be measured")
    elif slow and not page.waited_longer(page.plan.thresholds.get("first_byte_ms_worst", WORST_MS)) and page.answer is not None:
        yield Fail("slow", "", {"ms": round(page.answer.first_byte_ms or 0), "limit": int(limits["first_byte_ms_max"])})
