"""An https page links to an http address of its own site."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="medium",
    subject="page",
    needs="document",
    summary="Links back to the insecure site",
    why="The visitor leaves the secure connection, if only for a redirect, and that moment can be listened to.",
    fix="Write https into the link, or leave scheme and host out.",
    effort="small",
    standard="RFC 9110, 4.2.2",
    messages={"insecure": "“{text}” leads to {target}"},
    cause="target",
    cause_line="{target}; linked from {pages:page}",
    examples=(
        fails("insecure")(page(doc('<a href="http://shop.example/a">a</a>'))),
        passes(page(doc('<a href="https://shop.example/a">a</a>'))),
        passes(page(doc('<a href="http://other.example/">o</a>'))),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.is_secure:
        for link, target in page.outlinks:
            if target.internal and link.url.startswith("http://"):
                yield Fail("insecure", link.url, {"target": link.url, "text": link.text, "selector": f'a[href="{link.raw}"]'})
