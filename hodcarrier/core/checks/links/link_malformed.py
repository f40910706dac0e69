"""A reference that the WHATWG URL parser turns down."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(LinkFacts,),
    summary="Malformed links",
    terms=(
        "invalid URL",
        "href",
    ),
    why="No browser can open this link: it contains a typing error or a placeholder that was never filled in.",
    fix="Correct the URL. Check the part before the double slash, and look for spaces in the host name.",
    effort=Effort.SMALL,
    standard="WHATWG URL, 4.4",
    messages={"malformed": "“{raw}” is not a valid URL"},
    cause="element",
    cause_line="“{cause}” on {pages:page}",
    examples=(
        fails("malformed")(page(doc('<a href="http://">x</a>'))),
        fails("malformed")(page(doc('<img src="https://ex ample.example/i.png" alt=x>'))),
        passes(page(doc('<a href="/a b">x</a><a href="mailto:post@shop.example">y</a>'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for raw in dict.fromkeys(page.links.malformed):
        yield Fail("malformed", raw, {"raw": raw, "selector": f'[href="{raw}"], [src="{raw}"]'})
