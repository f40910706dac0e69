"""A page over http asks for a password."""

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
from hodcarrier.core.facts.forms import FormFacts

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    when=When.PLAIN,
    needs=(FormFacts,),
    summary="Password field over HTTP",
    terms=(
        "login",
        "insecure form",
    ),
    why="Whoever is on the way can read the password. Browsers warn visitors when they begin to type.",
    fix="Serve the page over HTTPS only, and redirect http to it.",
    effort=Effort.SMALL,
    standard="W3C Secure Contexts; RFC 9110, 4.2.2",
    messages={"password": "Asks for a password over HTTP"},
    cause="template",
    examples=(
        fails("password")(
            page(doc("<form><input type=password></form>"), "http://shop.example/"), plan={"start": ["http://shop.example/"]}
        ),
        passes(page(doc("<form><input type=password></form>"))),
        passes(page(doc("<form><input></form>"), "http://shop.example/"), plan={"start": ["http://shop.example/"]}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if not page.is_secure and page.forms.password_fields:
        yield Fail("password", "", {"selector": 'input[type="password" i]'})
