"""A code of an hreflang annotation is neither a language with an optional script and region (ISO 639-1, ISO 15924, ISO 3166-1) nor x-default."""

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
from hodcarrier.core.web.languages import is_hreflang

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="Invalid hreflang code",
    terms=(
        "hreflang",
        "language code",
        "region code",
    ),
    why="Search engines ignore an annotation whose code they do not know, and with it the version.",
    fix="Write the language in two letters, and if need be a hyphen and the country: en, en-GB, pt-BR. The United Kingdom is GB.",
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"invalid": "“{code}” is not a language code"},
    cause="element",
    cause_line="“{code}” on {pages:page}",
    examples=(
        fails("invalid")(page(doc(head="<link rel=alternate hreflang=en-UK href=/a>"))),
        fails("invalid")(page(doc(head="<link rel=alternate hreflang=english href=/a>"))),
        fails("invalid")(page(doc(head="<link rel=alternate hreflang=en_GB href=/a>"))),
        passes(
            page(
                doc(
                    head="<link rel=alternate hreflang=en-GB href=/a><link rel=alternate hreflang=x-default href=/><link rel=alternate hreflang=zh-Hant href=/z>"
                )
            )
        ),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for code in dict.fromkeys(alternate.code for alternate in page.alternates):
        if not is_hreflang(code):
            yield Fail("invalid", code, {"code": code, "selector": f'link[hreflang="{code}"]'}, cause=code)
