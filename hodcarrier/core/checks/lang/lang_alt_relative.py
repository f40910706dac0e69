"""An hreflang annotation names its page without scheme and host."""

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
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    about="indexable",
    needs=(LanguageFacts,),
    summary="hreflang with relative URLs",
    terms=("hreflang", "alternate", "relative URL"),
    why="Search engines ask for whole addresses here. A relative one breaks as soon as the page is read under another host or a base element changes.",
    fix="Write every hreflang address in full, with https and the host.",
    element='link[hreflang="{code}" i]',
    mend=attribute("href", "{url}"),
    effort=Effort.SMALL,
    standard="RFC 8288; good practice of search engines",
    messages={"relative": "hreflang “{code}” names {url} without its host"},
    cause="template",
    examples=(
        fails("relative")(page(doc(head="<link rel=alternate hreflang=de href=/de>"))),
        fails("relative")(page(doc(head="<link rel=alternate hreflang=de href=//shop.example/de>"))),
        passes(page(doc(head="<link rel=alternate hreflang=de href=https://shop.example/de>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    found = [alternate for alternate in page.alternates if alternate.relative]
    if found:
        yield Fail(
            "relative", "", {"code": found[0].code, "url": found[0].url, "number": len(found), "selector": "link[hreflang]"}
        )
