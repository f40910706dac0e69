"""Redirect hops repeat or exceed ten."""

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
    Unsure,
    doc,
    fails,
    moved,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="Redirect loops",
    terms=(
        "too many redirects",
        "circular redirect",
    ),
    why="The URL redirects in a circle until the browser gives up, so neither visitors nor search engines can reach the page.",
    fix="Find the two rules that redirect to each other, often one for HTTPS and one for www or the trailing slash, and keep only one.",
    effort=Effort.SMALL,
    standard="WHATWG Fetch, HTTP-redirect fetch",
    messages={"loop": "{url} redirects in a loop: {path} → …"},
    cause="target",
    cause_line="{path} → …",
    revision=2,
    examples=(
        fails("loop", "loop")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), moved("/b", "/a")),
        fails("loop")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/a")),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), page(doc(), "/b")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.target(page.url)
    if target.loop:
        path = " → ".join(hop.url for hop in target.hops[:4])
        yield Fail("loop", "", {"url": page.url, "path": path})
    elif target.hops and not target.examined:
        yield Unsure("", "the end of the redirects was not reached")
