"""Redirect hops repeat, or exceed the twenty that browsers follow."""

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
    When,
    doc,
    fails,
    moved,
    page,
    passes,
)
from hodcarrier.core.facts.answer import REDIRECTS_MAX, Answer

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    when=When.REDIRECT,
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
    messages={
        "loop": "{url} redirects in a loop: {path} → …",
        "endless": "{url} redirects more than {limit} times, where browsers give up: {path} → …",
    },
    cause="target",
    cause_line="{path} → …",
    revision=3,
    examples=(
        fails("loop", "loop")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), moved("/b", "/a")),
        fails("loop")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/a")),
        fails("endless")(
            page(doc('<a href="/r0">Anchors</a>')), *(moved(f"/r{n}", f"/r{n + 1}") for n in range(21)), page(doc(), "/r21")
        ),
        passes(page(doc('<a href="/r0">Anchors</a>')), *(moved(f"/r{n}", f"/r{n + 1}") for n in range(20)), page(doc(), "/r20")),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), page(doc(), "/b")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.target(page.url)
    if target.loop:
        path = " → ".join(hop.url for hop in target.hops[:4])
        repeats = any(hop.url == target.final_url for hop in target.hops)
        yield Fail("loop" if repeats else "endless", "", {"url": page.url, "path": path, "limit": REDIRECTS_MAX})
    elif target.hops and not target.examined:
        yield Unsure("", "the end of the redirects was not reached")
