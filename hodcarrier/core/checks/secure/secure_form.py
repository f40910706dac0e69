"""A form of an https page sends to an http address. Sites without https are a finding of their own."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="high",
    subject="page",
    needs="document",
    summary="Forms that send in the clear",
    why="What visitors type travels readable to anybody on the way. Browsers warn before they send it.",
    fix="Send the form to the https address.",
    effort="small",
    standard="W3C Mixed Content; RFC 9110, 4.2.2",
    messages={"form": "A form sends to {url}"},
    cause="template",
    examples=(
        fails("form")(page(doc("<form action=http://shop.example/order></form>"))),
        passes(page(doc("<form action=/order></form>"))),
        passes(page(doc("<form></form>"))),
    ),
)


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.is_secure:
        return
    for url in dict.fromkeys(page.document.insecure_forms):
        yield Fail("form", url, {"url": url, "snippet": f'<form action="{url}">', "selector": "form[action]"})
