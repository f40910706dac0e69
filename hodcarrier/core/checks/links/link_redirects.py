"""A link of the page leads to an internal address that redirects to a working one."""

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
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Internal links to redirects",
    terms=(
        "301",
        "302",
        "redirected link",
    ),
    why="The link works, but every click costs another round trip, and search engines have to follow a redirect to reach the page.",
    fix="Link to the final URL. In a template this is one change for many pages.",
    mend=attribute("href", "{to}"),
    effort=Effort.SMALL,
    standard="RFC 9110, 15.4",
    messages={"redirects": "“{text}” links to {target}, which redirects to {to}"},
    cause="target",
    cause_line="{target} → {to}; linked from {pages:page}",
    revision=2,
    examples=(
        fails("redirects")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), page(doc(), "/b")),
        passes(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a")),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), gone("/b")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, target in page.outlinks:
        if target.internal and not target.examined:
            yield Unsure(link.url, "the target was not reached")
        elif target.internal and target.hops and not target.broken:
            data = {"target": link.url, "to": target.final_url, "text": link.text, "selector": f'a[href="{link.raw}"]'}
            yield Fail("redirects", link.url, data)
