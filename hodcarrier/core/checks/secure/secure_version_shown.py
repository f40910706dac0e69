"""A header of the answer names the software of the server with its version."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.page import PageFacts

VERSION = re.compile(r"\d\.\d")

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(
        Answer,
        PageFacts,
    ),
    summary="Server version shown",
    terms=(
        "Server header",
        "X-Powered-By",
        "fingerprinting",
    ),
    why="Attackers search for versions with known holes. The header saves them the work and helps nobody else.",
    fix="Switch the version off in the server's settings, and remove X-Powered-By.",
    effort=Effort.SMALL,
    standard="OWASP Web Security Testing Guide; RFC 9110, 10.2.4",
    messages={"version": "{header}: {value}"},
    cause="site",
    cause_line="“{value}” on {pages:page}",
    examples=(
        fails("version")(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("server", "Tidewater/2.4.1"),
                ),
            )
        ),
        fails("version")(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("x-powered-by", "Ropewalk 8.1"),
                ),
            )
        ),
        passes(
            page(
                doc(),
                headers=(
                    ("content-type", "text/html; charset=utf-8"),
                    ("server", "Tidewater"),
                ),
            )
        ),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if (
        answer is not None
        and page.is_secure
        and (
            named := next(
                ((name, answer.header(name)) for name in ("server", "x-powered-by") if VERSION.search(answer.header(name))), None
            )
        )
    ):
        yield Fail("version", "", {"header": named[0].title(), "value": named[1][:100]}, cause="server")
