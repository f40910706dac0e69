"""A page of a site over https answers over http, without a redirect."""

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
    moved,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.PLAIN,
    needs=(Answer,),
    summary="Pages answer over http",
    terms=(
        "HTTPS",
        "insecure pages",
        "duplicate",
    ),
    why="Visitors of this address see the insecure version, and search engines find the page twice.",
    fix="Redirect it permanently to https, and correct the links that lead here.",
    effort=Effort.SMALL,
    standard="RFC 9110, 4.2.2",
    messages={"http": "Answers {status} over http"},
    cause="template",
    examples=(
        fails("http")(page(doc("<a href=http://shop.example/a>a</a>")), page(doc(), "http://shop.example/a")),
        passes(page(doc("<a href=http://shop.example/a>a</a>")), moved("http://shop.example/a", "/a"), page(doc(), "/a")),
        passes(page(doc(), "http://shop.example/"), plan={"start": ["http://shop.example/"]}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and answer.status == 200 and not page.is_secure and page.plan.start[0].startswith("https:"):
        yield Fail("http", "", {"status": str(answer.status)})
