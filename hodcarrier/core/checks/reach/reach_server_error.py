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
    why="The server failed while building the page. Visitors cannot read it, and search engines crawl a site with many such errors less often.",
    fix="Look up the time of the run in the server's error log and fix what failed there. If the server was overloaded, lower the crawl rate or add capacity.",
    effort=Effort.MEDIUM,
    standard="RFC 9110, 15.6",
    messages={"error": "{url} returns {status}: server error"},
    cause="target",
    cause_line="{url} returns {status}",
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
