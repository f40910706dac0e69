"""A page lists its versions in other languages and not itself."""

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
from hodcarrier.core.catalogue.mending import line
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    about="indexable",
    needs=(LanguageFacts,),
    summary="hreflang without the page itself",
    terms=(
        "hreflang",
        "self-referencing",
    ),
    why="Search engines expect each page of a set to be in it. Without its own entry they may ignore the others.",
    fix="Let the template add an entry for the page itself, with its own language.",
    mend=line('<link rel="alternate" hreflang="{lang}" href="{page}">'),
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"self": "Lists {count:version} in other languages, but not itself"},
    revision=2,
    cause="template",
    cause_line="{pages:page} do not list themselves, such as {example}",
    examples=(
        fails("self")(page(doc("<a href=/cy>cy</a>", "<link rel=alternate hreflang=cy href=/cy>")), page(doc(), "/cy")),
        passes(
            page(doc("<a href=/cy>cy</a>", "<link rel=alternate hreflang=cy href=/cy><link rel=alternate hreflang=en href=/>")),
            page(doc(), "/cy"),
        ),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    urls = {alternate.url for alternate in page.alternates if alternate.in_head and alternate.url}
    if urls and page.url not in urls:
        yield Fail("self", "", {"count": len(urls), "example": page.url, "selector": "link[hreflang]"})
