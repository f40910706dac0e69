"""The document is in an encoding other than UTF-8 (WHATWG Encoding, 4.2: new documents use UTF-8)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(LanguageFacts,),
    summary="Encoding is not UTF-8",
    terms=(
        "charset",
        "windows-1252",
        "iso-8859-1",
    ),
    why="Old encodings lack most letters. Text from forms, names and other languages turns into question marks.",
    fix="Convert the pages to UTF-8 and declare it, in the Content-Type header or in the first meta element.",
    element="meta[charset]",
    mend=attribute("charset", "utf-8"),
    effort=Effort.MEDIUM,
    standard="WHATWG Encoding, 4.2",
    messages={"legacy": "The document is in {encoding}"},
    cause="template",
    cause_line="{pages:page} in {encoding}",
    examples=(
        fails("legacy")(
            page(
                "<!doctype html><html lang=en><meta charset=iso-8859-1><title>Rope</title>",
                headers=(("content-type", "text/html"),),
            )
        ),
        passes(page(doc())),
        passes(page("<!doctype html><html lang=en><title>Rope</title>", headers=(("content-type", "text/html"),))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.language.encoding != "utf-8" and page.language.encoding_source != "default":
        yield Fail("legacy", "", {"encoding": page.language.encoding})
