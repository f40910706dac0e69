"""A link leads to a page of the site that robots.txt blocks."""

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
    text_file,
)
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.LINKS,
    needs=(LinkFacts,),
    summary="Links to blocked pages",
    terms=(
        "robots.txt",
        "disallow",
    ),
    why="The link gives weight to a page that search engines may not read.",
    fix="Allow the page in robots.txt if it should be found. If not, leave the link to people who need it and waive the finding.",
    effort=Effort.SMALL,
    standard="RFC 9309, 2.2.2",
    messages={"blocked": "The link to {target} leads to a page that robots.txt blocks"},
    cause="target",
    cause_line="{target}; linked from {pages:page}",
    examples=(
        fails("blocked")(page(doc("<a href=/a>a</a>")), text_file("/robots.txt", "User-agent: *\nDisallow: /a")),
        passes(page(doc("<a href=/b>b</a>")), page(doc(), "/b"), text_file("/robots.txt", "User-agent: *\nDisallow: /a")),
        passes(page(doc("<a rel=nofollow href=/a>a</a>")), text_file("/robots.txt", "User-agent: *\nDisallow: /a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for link, target in page.outlinks:
        if target.internal and target.state == "disallowed" and link.followed:
            yield Fail("blocked", link.url, {"target": link.url, "text": link.text, "selector": f'a[href="{link.raw}"]'})
