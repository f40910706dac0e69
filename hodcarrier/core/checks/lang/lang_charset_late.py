"""The encoding is declared by a meta element only, and that stands after the first 1,024 bytes (WHATWG HTML, 4.2.5.4)."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(LanguageFacts,),
    summary="Encoding declared too late",
    terms=(
        "charset",
        "meta charset",
    ),
    why="Browsers begin to read in another encoding and start again when they come to the declaration, which costs time and may go wrong.",
    fix="Make it the first element of the head.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.5.4",
    messages={"late": "{encoding} is declared after the first 1,024 bytes"},
    cause="template",
    examples=(
        fails("late")(
            page(
                "<!doctype html><html lang=en><!--" + "x" * 1024 + "--><meta charset=utf-8><title>Rope</title>",
                headers=(("content-type", "text/html"),),
            )
        ),
        passes(page(doc(), headers=(("content-type", "text/html"),))),
        passes(page("<!doctype html><html lang=en><!--" + "x" * 1024 + "--><meta charset=utf-8><title>Rope</title>")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.language.encoding_source == "late":
        yield Fail("late", "", {"encoding": page.language.encoding, "selector": "meta[charset], meta[http-equiv]"})
