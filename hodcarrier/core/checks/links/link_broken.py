"""A link of the page leads, redirects followed, to an internal target that answers 4xx, 5xx or nothing.

A target that robots.txt keeps out is not examined; one that the run did not reach is unverified.
"""

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
    gone,
    moved,
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Broken internal links",
    terms=(
        "dead link",
        "404",
        "4xx",
        "5xx",
    ),
    why="Visitors hit a dead end, and search engines waste crawls on missing pages. One broken link in a menu shows up on every page.",
    fix="Change the link to the page that replaces it, or remove it. If the page has moved, also redirect the old URL for links from other sites.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.5",
    messages={"broken": "The link “{text}” leads to {target}: {outcome}"},
    cause="target",
    cause_line="{target}: {outcome}; linked from {pages:page}",
    revision=3,
    examples=(
        fails("broken")(page(doc('<a href="/a">Anchors</a>')), gone("/a")),
        fails("broken")(page(doc('<a href="/a">x</a><a href="/a">y</a>')), gone("/a", 500)),
        fails("broken")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), gone("/b")),
        passes(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a")),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), page(doc(), "/b")),
        passes(page(doc('<a href="/a">Anchors</a>')), gone("/a"), plan={"pages_max": 1}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, target in page.outlinks:
        if not target.internal:
            continue
        if not target.examined:
            yield Unsure(link.url, "the target was not reached")
        elif target.broken:
            snippet = f'<a href="{link.raw}">{link.text}</a>'
            where = {"text": link.text, "landmark": link.landmark, "snippet": snippet, "selector": f'a[href="{link.raw}"]'}
            yield Fail("broken", link.url, {"target": link.url, "outcome": target.outcome, **where})
