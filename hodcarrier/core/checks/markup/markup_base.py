"""The base element names an address on another host, or none that could be a base."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.web.urls import Resolver, is_web, split


def foreign(base: str, url: str) -> bool:
    """Whether a base lies on another host, or is no web address."""
    resolved = Resolver().resolve(base, url)
    return not is_web(resolved) or split(resolved).host != split(url).host


CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(HeadFacts,),
    summary="Unusable or foreign base URL",
    terms=(
        "base href",
        "relative links",
    ),
    why="All relative links and files of the page are resolved against it, and lead to the other host or nowhere.",
    fix="Remove the base element, or let it name the page's own site.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.3",
    messages={"foreign": "The base is “{value}”", "several": "{number} base elements; only the first counts"},
    revision=2,
    cause="template",
    examples=(
        fails("foreign")(page(doc(head="<base href=https://other.example/>"))),
        fails("foreign")(page(doc(head="<base href=data:text/html,x>"))),
        fails("several")(page(doc(head="<base href=/shop/><base href=/>"))),
        passes(page(doc(head="<base href=/shop/>"))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    base = page.head.base
    if base and foreign(base, page.url):
        yield Fail("foreign", "", {"value": base, "selector": "base"})
    elif page.head.bases > 1:
        yield Fail("several", "", {"number": page.head.bases, "selector": "base + base, base ~ base"})
