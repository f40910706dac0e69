"""Neither a byte order mark, nor the Content-Type header, nor a meta element in the first 1,024 bytes declares the encoding."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="medium",
    subject="page",
    needs="document",
    summary="Pages that do not declare their encoding",
    why="The browser has to guess, and a wrong guess turns letters with accents into rubbish.",
    fix="Put a meta element with charset utf-8 first into the head.",
    effort="small",
    standard="WHATWG HTML, 13.2.3.2",
    messages={"missing": "No encoding is declared; {taken} was taken"},
    cause="template",
    examples=(
        fails("missing")(page("<!doctype html><html lang=en><title>Rope</title>", headers=(("content-type", "text/html"),))),
        passes(page("<!doctype html><html lang=en><title>Rope</title>")),
        passes(page("<!doctype html><meta charset=utf-8><title>Rope</title>", headers=(("content-type", "text/html"),))),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.document.encoding_source == "default":
        yield Fail("missing", "", {"taken": page.document.encoding, "selector": "head"})
