"""No HTTP answer came at all after three tries: DNS, connection, TLS, time-out."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Sample,
    Severity,
    Subject,
    doc,
    fails,
    gone,
    page,
    passes,
)
from hodcarrier.core.facts.answer import FAILURES

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    summary="Pages do not respond",
    terms=(
        "timeout",
        "DNS",
        "connection refused",
        "no response",
    ),
    why="The server does not respond, so visitors get a browser error and search engines cannot crawl the page.",
    fix="Request the page from outside the company network. Check the firewall, DNS and the certificate, in that order.",
    effort=Effort.MEDIUM,
    standard="RFC 9110, 9.2",
    messages={"none": "{url} does not respond: {reason}"},
    cause="target",
    cause_line="{url}: {reason}",
    examples=(
        fails("none")(page(doc('<a href="/a">Anchors</a>')), Sample("/a", failure="timeout")),
        fails("none")(page(doc('<a href="/a">Anchors</a>')), Sample("/a", failure="tls")),
        passes(page(doc('<a href="/a">Anchors</a>')), gone("/a", 500)),
        passes(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and answer.status is None and answer.failure != "refused-address":
        yield Fail("none", "", {"url": page.url, "reason": FAILURES.get(answer.failure, answer.failure), "detail": answer.detail})
