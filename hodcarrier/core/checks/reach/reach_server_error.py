"""An in-scope address answers 5xx (RFC 9110, 15.6), also when asked again after 503."""

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
    doc,
    fails,
    gone,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="Pages return 5xx",
    terms=(
        "server error",
        "500",
        "503",
    ),
    why="The server broke while it made the page. Nobody can read it, and search engines visit a site with many such answers more rarely.",
    fix="Look for the moment of the run in the error log of the server and mend what failed there. If it was an overload, slow the audit down or give the server more room.",
    effort=Effort.MEDIUM,
    standard="RFC 9110, 15.6",
    messages={"error": "{url} answers {status}: the server failed"},
    cause="target",
    cause_line="{url} answers {status}",
    examples=(
        fails("error")(page(doc('<a href="/a">Anchors</a>')), gone("/a", 500)),
        fails("error")(page(doc('<a href="/a">Anchors</a>')), gone("/a", 503)),
        passes(page(doc('<a href="/a">Anchors</a>')), gone("/a", 499)),
        passes(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and answer.status is not None and answer.status >= 500:
        yield Fail("error", "", {"url": page.url, "status": answer.status})
