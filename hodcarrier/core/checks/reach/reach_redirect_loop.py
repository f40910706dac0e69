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
    why="The address sends visitors in a circle until the browser gives up. The page cannot be reached in any way.",
    fix="Find the two rules that send to one another, often one for https and one for the host name or the final slash, and keep only one.",
    effort=Effort.SMALL,
    standard="WHATWG Fetch, HTTP-redirect fetch",
    messages={"loop": "{url} redirects without end: {path} → …"},
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
