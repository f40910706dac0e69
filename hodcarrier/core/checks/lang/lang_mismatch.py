"""The text of a page is in another language than its lang attribute says, as far as that is certain: from some 250 letters on.

Languages that share one written form for long stretches are not told from one another."""

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
from hodcarrier.core.facts.text import TextFacts
from hodcarrier.core.web.languages import is_tag

# Codes of one language, and languages that a text may well be in at once.
KIN = (
    frozenset({"no", "nb", "nn", "da"}),
    frozenset({"sr", "hr", "bs", "sh", "me"}),
    frozenset({"id", "ms"}),
    frozenset({"iw", "he"}),
    frozenset({"cs", "sk"}),
    frozenset({"gl", "pt", "es"}),
    frozenset({"af", "nl"}),
    frozenset({"zh", "yue", "wuu"}),
    frozenset({"fil", "tl"}),
    frozenset({"hi", "mr", "ne"}),
    frozenset({"ru", "uk", "be", "bg", "mk"}),
)
GERMAN = "Das Seil für kleine Boote ist aus drei Litzen geschlagen und hält auch dann, wenn es lange im Wasser liegt. " * 4

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.LANGUAGE,
    needs=(LanguageFacts, TextFacts),
    summary="Declared language is not the text's",
    terms=("lang attribute", "language", "accessibility"),
    why="Screen readers read the text with the wrong pronunciation, browsers offer to translate it, and search engines doubt for whom it is.",
    fix="Set lang to the language of the text, or give the page the text that belongs there.",
    mend=attribute("lang", "{language}"),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 3.2.6.1; WCAG 2.2, 3.1.1",
    messages={"differs": "lang is “{lang}”; the text is in “{language}”"},
    cause="template",
    examples=(
        fails("differs")(page(doc(f"<p>{GERMAN}"))),
        passes(page(doc(f"<p>{GERMAN}", lang="de-AT"))),
        passes(page(doc("<p>Seil und Anker"))),
        passes(page(doc(f"<p>{GERMAN}", lang=""))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    declared, spoken = page.language.lang.lower().replace("_", "-").partition("-")[0], page.text.language
    if is_tag(page.language.lang) and spoken and declared != spoken and not any({declared, spoken} <= kin for kin in KIN):
        yield Fail("differs", "", {"lang": page.language.lang, "language": spoken, "selector": "html"})
