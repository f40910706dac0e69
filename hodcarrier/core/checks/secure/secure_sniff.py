"""The answer does not forbid browsers to guess its type (X-Content-Type-Options: nosniff)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
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
from hodcarrier.core.catalogue.mending import line
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.page import PageFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.SECURE,
    needs=(
        Answer,
        PageFacts,
    ),
    summary="Missing X-Content-Type-Options",
    terms=(
        "nosniff",
        "security headers",
        "MIME sniffing",
    ),
    why="Browsers may take an uploaded file for a script and run it.",
    fix="Send the header X-Content-Type-Options with the value nosniff on all answers.",
    mend=line("X-Content-Type-Options: nosniff"),
    effort=Effort.SMALL,
    standard="WHATWG Fetch, 3.6",
    messages={"sniff": "No X-Content-Type-Options: nosniff"},
    cause="site",
    cause_line="{pages:page} without X-Content-Type-Options",
    examples=(
        fails("sniff")(page(doc())),
        passes(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("x-content-type-options", "nosniff"),
                ),
            )
        ),
        fails("sniff")(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("x-content-type-options", "sniff"),
                ),
            )
        ),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and page.is_secure and answer.header("x-content-type-options").strip().lower() != "nosniff":
        yield Fail("sniff", "", {}, cause="server")
