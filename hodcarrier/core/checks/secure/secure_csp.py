"""The answer has no Content-Security-Policy header."""

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
    summary="Missing Content-Security-Policy",
    terms=(
        "CSP",
        "security headers",
        "cross-site scripting",
    ),
    why="Where a visitor's input is shown unchecked, a foreign script runs as if it were yours. A policy limits what scripts may run.",
    fix="Send a Content-Security-Policy that names the sources of scripts, beginning with Content-Security-Policy-Report-Only.",
    mend=line("Content-Security-Policy: default-src 'self'"),
    effort=Effort.SMALL,
    standard="W3C Content Security Policy 3",
    messages={"csp": "No Content-Security-Policy"},
    cause="site",
    cause_line="{pages:page} without Content-Security-Policy",
    examples=(
        fails("csp")(page(doc())),
        passes(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("content-security-policy", "default-src 'self'"),
                ),
            )
        ),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and page.is_secure and not answer.header("content-security-policy"):
        yield Fail("csp", "", {}, cause="server")
