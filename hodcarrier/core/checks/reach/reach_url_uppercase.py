"""The path of the URL has upper-case letters; those of percent-encoded bytes do not count."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.web.urls import split

ESCAPED = re.compile(r"%[0-9A-Fa-f]{2}")

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    about="indexable",
    summary="Upper-case letters in the URL",
    terms=(
        "capital letters",
        "case-sensitive URL",
    ),
    why="Servers and search engines take /Rope and /rope for two pages. Links in the wrong case lead to errors or to duplicates.",
    fix="Write URLs in lower case throughout, and redirect the others permanently.",
    effort=Effort.MEDIUM,
    standard="RFC 3986, 6.2.2.1",
    messages={"capitals": "The path has capitals: {path}"},
    cause="template",
    examples=(
        fails("capitals")(page(doc(), "/Rope"), plan={"start": ["https://shop.example/Rope"]}),
        passes(page(doc(), "/rope"), plan={"start": ["https://shop.example/rope"]}),
        passes(page(doc(), "/%C3%A9"), plan={"start": ["https://shop.example/%C3%A9"]}),
        passes(page(doc(), "/rope?Size=M"), plan={"start": ["https://shop.example/rope?Size=M"]}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    path = split(page.url).path
    plain = ESCAPED.sub("", path)
    if plain != plain.lower():
        yield Fail("capitals", "", {"path": path})
