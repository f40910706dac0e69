"""Links in the main text of an indexable page to other sites are marked nofollow, though neither as paid for (sponsored) nor as written by
users (ugc). They are listed for review: one finding a page."""

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
    page,
    passes,
)
from hodcarrier.core.facts.links import LinkFacts

MARKED = frozenset({"ugc", "sponsored"})

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.OUTWARD,
    about="indexable",
    needs=(LinkFacts,),
    summary="External links with nofollow",
    terms=("nofollow", "outbound links", "rel"),
    why="nofollow tells search engines that you do not vouch for the target. On sources that you quote yourself this takes away a sign of quality.",
    fix="Remove nofollow from links that the editors chose. Mark paid ones sponsored and those of users ugc.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.6.6.13",
    messages={"nofollow": "{number:link} to other sites, such as {target}"},
    cause="template",
    examples=(
        fails("nofollow")(page(doc("<a rel=nofollow href=https://other.example/>Source</a>"))),
        passes(page(doc("<a rel='nofollow ugc' href=https://other.example/>Source</a>"))),
        passes(page(doc("<a rel='nofollow sponsored' href=https://other.example/>Source</a>"))),
        passes(page(doc("<footer><a rel=nofollow href=https://other.example/>Source</a></footer>"))),
        passes(page(doc("<a rel=nofollow href=/a>Inside</a>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    found = [
        link
        for link, target in page.outlinks
        if "nofollow" in link.rel and link.landmark == "main" and not target.internal and not MARKED.intersection(link.rel)
    ]
    if found:
        data = {
            "number": len(found),
            "target": found[0].url,
            "targets": [link.url for link in found[:20]],
            "selector": 'a[rel~="nofollow"]',
        }
        yield Fail("nofollow", "", data)
