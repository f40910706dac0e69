"""Two or more hops before the final answer."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
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
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.REDIRECT,
    needs=(Answer,),
    summary="Redirect chains",
    terms=(
        "301",
        "302",
        "multiple redirects",
        "hops",
    ),
    why="Every hop adds a round trip, which is slow on mobile connections, and search engines stop following after a few.",
    fix="Redirect the first URL straight to the final one. Then update internal links so that they need no redirect.",
    effort=Effort.SMALL,
    standard="WHATWG Fetch, HTTP-redirect fetch",
    messages={"chain": "{url} takes {hops:hop} to its final URL: {path}"},
    cause="target",
    cause_line="{path}",
    limits={"hops_max": Limit(1, "hops", "hops that are still in order")},
    revision=2,
    examples=(
        fails("chain")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), moved("/b", "/c"), page(doc(), "/c")),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), page(doc(), "/b")),
        passes(
            page(doc('<a href="/a">Anchors</a>')),
            moved("/a", "/b"),
            moved("/b", "/c"),
            page(doc(), "/c"),
            plan={"thresholds": {"hops_max": 2}},
        ),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.target(page.url)
    if target.hops and not target.loop and len(target.hops) > limits["hops_max"]:
        path = " → ".join([*(hop.url for hop in target.hops), target.final_url])
        yield Fail("chain", "", {"url": page.url, "hops": len(target.hops), "limit": int(limits["hops_max"]), "path": path})
    elif target.hops and not target.examined:
        yield Unsure("", "the end of the redirects was not reached")
