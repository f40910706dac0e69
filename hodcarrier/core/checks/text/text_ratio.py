"""The visible text of an indexable page, white space aside, is less than a share of its HTML, both in bytes. Files of earlier releases do not
say; pages of up to 10 KB pass: their head alone outweighs a few lines."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limit,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.markup import MarkupFacts
from hodcarrier.core.facts.text import TextFacts

HTML_BYTES_MIN = 10_240


def doc_with(letters: int) -> str:
    """A sample document of 10,250 bytes with this many letters of text."""
    body = "<p>" + "x" * letters
    return doc(body + "<!--" + "c" * (10_250 - len(doc(body)) - len("<!---->")) + "-->")


CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    needs=(TextFacts, MarkupFacts),
    summary="Little text for so much HTML",
    terms=("text to HTML ratio", "code bloat"),
    why="Most of what is loaded is markup, scripts or data that nobody reads. It slows the page and hints at a template that outgrew its content.",
    fix="Move scripts, styles and inline graphics into files, and drop wrappers that the design no longer needs.",
    effort=Effort.MEDIUM,
    standard="Good practice",
    messages={"ratio": "Text makes up {percent} % of {kib} KiB of HTML; at least {limit} % are recommended"},
    cause="template",
    limits={"text_ratio_min": Limit(10, "percent", "smallest share of text in the HTML that is in order")},
    examples=(
        fails("ratio")(page(doc("<!--" + "x" * 10_240 + "--><p>" + "rope " * 100))),
        passes(page(doc_with(1_025))),
        fails("ratio")(page(doc_with(1_024))),
        passes(page(doc("<!--" + "x" * 9_000 + "--><p>rope"))),
        passes(page(doc_with(1_024)), plan={"thresholds": {"text_ratio_min": 9.99}}),
    ),
)


def find(page: PageView, limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    visible, html = page.text.visible_bytes, page.markup.html_bytes
    if visible < 0 or html <= HTML_BYTES_MIN:
        return
    percent = 100 * visible / html
    if percent < limits["text_ratio_min"]:
        yield Fail(
            "ratio", "", {"percent": round(percent, 1), "kib": round(html / 1024), "limit": round(limits["text_ratio_min"], 2)}
        )
