"""The language that the page declares is another than that of its own hreflang entry."""

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
from hodcarrier.core.facts.language import LanguageFacts
from hodcarrier.core.web.languages import is_tag

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="lang and hreflang disagree",
    terms=(
        "hreflang",
        "lang attribute",
    ),
    why="One of the two is wrong: screen readers follow lang, search engines hreflang.",
    fix="Correct the one that is wrong. Templates often have the language of another version built in.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 3.2.6.2",
    messages={"mismatch": "lang is {lang}, and the page's own hreflang entry {code}"},
    revision=2,
    cause="template",
    cause_line="{pages:page}: lang {lang}, hreflang {code}",
    examples=(
        fails("mismatch")(page(doc(head="<link rel=alternate hreflang=cy href=/><link rel=alternate hreflang=fr href=/fr>"))),
        passes(page(doc(head="<link rel=alternate hreflang=en-GB href=/><link rel=alternate hreflang=fr href=/fr>"))),
        passes(page(doc(head="<link rel=alternate hreflang=x-default href=/><link rel=alternate hreflang=fr href=/fr>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    own = [alternate.code for alternate in page.alternates if alternate.in_head and alternate.url == page.url]
    codes = [code for code in own if code.lower() != "x-default"]
    lang = page.language.lang.lower().partition("-")[0]
    if is_tag(page.language.lang) and codes and lang not in {code.lower().partition("-")[0] for code in codes}:
        yield Fail("mismatch", "", {"lang": page.language.lang, "code": codes[0], "selector": "html"})
