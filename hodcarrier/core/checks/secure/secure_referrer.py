"""The answer sets no Referrer-Policy, so that the browser's own holds; or it sets one that sends whole addresses to every site."""

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
    summary="Missing or open Referrer-Policy",
    terms=(
        "Referrer-Policy",
        "security headers",
        "privacy",
    ),
    why="Addresses can hold names, searches or keys. Without a policy older browsers tell them to every site that a visitor goes to.",
    fix="Send Referrer-Policy: strict-origin-when-cross-origin.",
    mend=line("Referrer-Policy: strict-origin-when-cross-origin"),
    effort=Effort.SMALL,
    standard="W3C Referrer Policy",
    messages={"missing": "No Referrer-Policy", "open": "Referrer-Policy: {value}"},
    cause="site",
    cause_line="{pages:page}: Referrer-Policy {cause}",
    examples=(
        fails("missing")(page(doc())),
        fails("open")(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("referrer-policy", "unsafe-url"),
                ),
            )
        ),
        passes(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("referrer-policy", "strict-origin-when-cross-origin"),
                ),
            )
        ),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is None or not page.is_secure:
        return
    value = answer.header("referrer-policy").rpartition(",")[2].strip().lower()
    if not value:
        yield Fail("missing", "", {}, cause="missing")
    elif value in ("unsafe-url", "no-referrer-when-downgrade"):
        yield Fail("open", "", {"value": value}, cause=value)
