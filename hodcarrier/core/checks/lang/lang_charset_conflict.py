"""The Content-Type header and the first meta element that declares one name different encodings. The header is what counts."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.language import LanguageFacts
from hodcarrier.core.web.encodings import of_header

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(LanguageFacts, Answer),
    summary="Header and meta name different encodings",
    terms=("charset", "Content-Type", "encoding"),
    why="Browsers obey the header. Tools that keep the file without it read the meta element and garble every accent.",
    fix="Save the page as UTF-8, and say utf-8 in both places.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 13.2.3.2 and 4.2.5.4",
    messages={"conflict": "The header says {header}, the meta element {meta}"},
    cause="template",
    examples=(
        fails("conflict")(page('<!doctype html><meta charset="iso-8859-2"><title>Rope</title>')),
        passes(page(doc())),
        passes(page(doc(), headers=(("content-type", "text/html"),))),
        passes(page("<!doctype html><title>Rope</title>")),
        passes(page('<!doctype html><meta charset="UTF8"><title>Rope</title>')),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    header = of_header(page.answer.header("content-type")) if page.answer else ""
    meta = page.language.meta_encoding
    if header and meta and header != meta:
        yield Fail("conflict", "", {"header": header, "meta": meta, "selector": "meta[charset]"})
