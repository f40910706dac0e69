"""A form of an https page sends to an http address. Sites without https are a finding of their own."""

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
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import https
from hodcarrier.core.facts.forms import FormFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.SECURE,
    needs=(FormFacts,),
    summary="Forms submit over HTTP",
    terms=(
        "HTTPS",
        "insecure form",
    ),
    why="What visitors enter is sent unencrypted and can be read on the way. Browsers warn before sending it.",
    fix="Change the form's action to https.",
    mend=https(),
    effort=Effort.SMALL,
    standard="W3C Mixed Content; RFC 9110, 4.2.2",
    messages={"form": "A form submits to {url}"},
    cause="template",
    revision=2,
    examples=(
        fails("form")(page(doc("<form action=http://shop.example/order></form>"))),
        fails("form")(page(doc("<form action=/order><button formaction=http://shop.example/order></button></form>"))),
        passes(page(doc("<form action=/order></form>"))),
        passes(page(doc("<form></form>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.is_secure:
        return
    for url in dict.fromkeys(page.forms.insecure):
        yield Fail("form", url, {"url": url, "selector": f'form[action="{url}"], [formaction="{url}"]'})
