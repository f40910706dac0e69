"""Any site may show the page in a frame: neither frame-ancestors nor X-Frame-Options forbids it."""

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
    summary="Page can be framed by other sites",
    terms=(
        "clickjacking",
        "X-Frame-Options",
        "frame-ancestors",
    ),
    why="Another site can lay your page invisibly over its own and let visitors click on things they do not see.",
    fix="Send Content-Security-Policy with frame-ancestors 'self', or X-Frame-Options: SAMEORIGIN.",
    mend=line("Content-Security-Policy: frame-ancestors 'self'"),
    effort=Effort.SMALL,
    standard="W3C Content Security Policy 3, 6.4.2; RFC 7034",
    messages={"frame": "Other sites may show the page in a frame"},
    cause="site",
    cause_line="{pages:page} can be shown in frames of other sites",
    examples=(
        fails("frame")(page(doc())),
        passes(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("x-frame-options", "SAMEORIGIN"),
                ),
            )
        ),
        passes(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("content-security-policy", "frame-ancestors 'self'"),
                ),
            )
        ),
        fails("frame")(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("x-frame-options", "ALLOWALL"),
                ),
            )
        ),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if (
        answer is not None
        and page.is_secure
        and "frame-ancestors" not in answer.header("content-security-policy")
        and answer.header("x-frame-options").strip().upper() not in ("DENY", "SAMEORIGIN")
    ):
        yield Fail("frame", "", {}, cause="server")
