"""The lang attribute of the html element is no language tag (RFC 5646, 2.1)."""

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
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.LANGUAGE,
    needs=(LanguageFacts,),
    summary="Invalid language code",
    terms=(
        "lang attribute",
        "BCP 47",
    ),
    why="Screen readers choose a voice and browsers offer a translation by this code. They do neither for one they do not know.",
    fix="Use a tag such as en, en-GB or de: the language in two or three letters, a hyphen, the region.",
    effort=Effort.SMALL,
    standard="RFC 5646, 2.1; WHATWG HTML, 3.2.6.2",
    messages={"invalid": "lang is “{code}”"},
    cause="template",
    examples=(
        fails("invalid")(page(doc(lang="english"))),
        fails("invalid")(page(doc(lang="en_GB"))),
        fails("invalid")(page(doc(lang="e"))),
        passes(page(doc(lang="en-GB"))),
        passes(page(doc(lang="zh-Hant-TW"))),
        passes(page(doc(lang=""))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    code = page.language.lang
    if code and not is_tag(code):
        yield Fail("invalid", "", {"code": code, "selector": "html"})
