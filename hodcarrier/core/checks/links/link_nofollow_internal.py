"""A link to an indexable page of the site carries nofollow."""

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
from hodcarrier.core.catalogue.mending import without_word
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Internal links with nofollow",
    terms=(
        "rel=nofollow",
        "internal linking",
    ),
    why="The link gives no weight to your own page, and search engines may not follow it.",
    fix="Remove nofollow from links within the site. To keep a page out of the index, use noindex on that page.",
    mend=without_word("rel", "nofollow"),
    effort=Effort.SMALL,
    standard="HTML Living Standard, link type nofollow",
    messages={"nofollow": "The link to {target} is nofollow"},
    cause="target",
    cause_line="{target}; on {pages:page}",
    examples=(
        fails("nofollow")(page(doc("<a rel=nofollow href=/a>a</a>")), page(doc(), "/a"), plan={"obey_nofollow": False}),
        passes(page(doc("<a href=/a>a</a>")), page(doc(), "/a")),
        passes(page(doc("<a rel=nofollow href=https://other.example/>o</a>"))),
        passes(
            page(doc("<a rel=nofollow href=/a>a</a>")),
            page(doc(head="<meta name=robots content=noindex>"), "/a"),
            plan={"obey_nofollow": False},
        ),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, target in page.outlinks:
        if "nofollow" in link.rel and target.internal and target.state == "done" and page.why_not_of(link.url) == "":
            yield Fail("nofollow", link.url, {"target": link.url, "text": link.text, "selector": f'a[href="{link.raw}"]'})
