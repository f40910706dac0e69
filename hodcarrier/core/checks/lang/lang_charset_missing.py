"""Neither a byte order mark, nor the Content-Type header, nor a meta element in the first 1,024 bytes declares the encoding."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, fails, page, passes
from hodcarrier.core.catalogue.mending import inside
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(LanguageFacts,),
    summary="Character encoding not declared",
    terms=(
        "charset",
        "UTF-8",
    ),
    why="The browser has to guess the encoding, and a wrong guess breaks accented letters.",
    fix="Add a meta element with charset utf-8 as the first element of the head.",
    mend=inside('<meta charset="utf-8">'),
    effort=Effort.SMALL,
    standard="WHATWG HTML, 13.2.3.2",
    messages={"missing": "No encoding is declared; {taken} was assumed"},
    cause="template",
    examples=(
        fails("missing")(page("<!doctype html><html lang=en><title>Rope</title>", headers=(("content-type", "text/html"),))),
        passes(page("<!doctype html><html lang=en><title>Rope</title>")),
        passes(page("<!doctype html><meta charset=utf-8><title>Rope</title>", headers=(("content-type", "text/html"),))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.language.encoding_source == "default":
        yield Fail("missing", "", {"taken": page.language.encoding, "selector": "head"})
