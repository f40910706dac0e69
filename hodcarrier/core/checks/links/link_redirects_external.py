"""A link to another site leads over a permanent redirect (301 or 308), so that its author has moved for good."""

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
    When,
    doc,
    fails,
    moved,
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.OUTWARD,
    needs=(LinkFacts,),
    summary="External links that redirect",
    terms=(
        "301",
        "outbound links",
    ),
    why="The link works as long as the other site keeps the redirect. Each click takes longer until then.",
    fix="Link to the address at the end of the redirect, after a look at whether it still shows what you meant.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.4.2",
    messages={"moved": "{target} has moved to {to}"},
    cause="target",
    cause_line="{target} has moved to {to}",
    examples=(
        fails("moved")(
            page(doc("<a href=https://other.example/a>a</a>")),
            moved("https://other.example/a", "https://other.example/b"),
            page(doc(), "https://other.example/b"),
        ),
        passes(
            page(doc("<a href=https://other.example/a>a</a>")),
            moved("https://other.example/a", "https://other.example/b", 302),
            page(doc(), "https://other.example/b"),
        ),
        passes(page(doc("<a href=https://other.example/a>a</a>")), page(doc(), "https://other.example/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, target in page.outlinks:
        if (
            not target.internal
            and target.examined
            and not target.broken
            and target.hops
            and all(hop.status in (301, 308) for hop in target.hops)
        ):
            data = {"target": link.url, "to": target.final_url, "text": link.text, "selector": f'a[href="{link.raw}"]'}
            yield Fail("moved", link.url, data)
