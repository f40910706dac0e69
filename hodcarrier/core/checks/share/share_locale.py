"""The language in og:locale is another than the page's own."""

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
from hodcarrier.core.facts.preview import PreviewFacts
from hodcarrier.core.web.languages import is_tag

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    when=When.PREVIEW,
    about="indexable",
    needs=(
        PreviewFacts,
        LanguageFacts,
    ),
    summary="og:locale does not match the language",
    terms=(
        "og:locale",
        "lang attribute",
    ),
    why="Services show the preview to people of another language.",
    fix="Write the language and country of the page, such as en_GB.",
    effort=Effort.SMALL,
    standard="The Open Graph protocol",
    messages={"locale": "og:locale is {value}, lang {lang}"},
    revision=2,
    cause="template",
    examples=(
        fails("locale")(page(doc(head='<meta property=og:locale content="de_DE">'))),
        passes(page(doc(head='<meta property=og:locale content="en_GB">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    lang = page.language.lang.lower().partition("-")[0]
    for name, value in page.preview.social:
        if (
            name == "og:locale"
            and is_tag(page.language.lang)
            and value
            and value.lower().replace("_", "-").partition("-")[0] != lang
        ):
            yield Fail("locale", "", {"value": value, "lang": page.language.lang, "selector": 'meta[property="og:locale"]'})
            return
