"""The path of the URL has two slashes in a row."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.web.urls import split

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    summary="Double slashes in the URL",
    terms=(
        "// in path",
        "URL structure",
    ),
    why="The same page usually answers with one slash as well, so search engines find it twice. It comes from joining two pieces of a URL that both bring a slash.",
    fix="Correct the links or the template that builds them, and redirect the URL with two slashes to the one with one.",
    effort=Effort.SMALL,
    standard="RFC 3986, 3.3",
    messages={"double": "The path has two slashes in a row: {path}"},
    cause="target",
    cause_line="{path}",
    examples=(
        fails("double")(page(doc(), "/shop//rope"), plan={"start": ["https://shop.example/shop//rope"]}),
        passes(page(doc(), "/shop/rope"), plan={"start": ["https://shop.example/shop/rope"]}),
        passes(page(doc(), "/go?to=https://a.example/"), plan={"start": ["https://shop.example/go?to=https://a.example/"]}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    path = split(page.url).path
    if "//" in path:
        yield Fail("double", "", {"path": path})
