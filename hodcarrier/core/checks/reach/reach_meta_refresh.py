"""A document sends its reader on to another page by itself (WHATWG HTML, 4.2.4.3). One that only loads itself again passes."""

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
    doc,
    fails,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="Meta refresh redirects",
    terms=(
        "http-equiv",
        "HTML redirect",
        "client-side redirect",
    ),
    why="Search engines take a meta refresh for a redirect, but a slow and uncertain one. Visitors see an empty page first, and the back button brings them straight back here.",
    fix="Let the server answer with a 301 that leads to the new page, then remove this document.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.2.4.3; WCAG 2.2, technique G110",
    messages={
        "at-once": "Redirects to {to} by meta refresh",
        "later": "Redirects to {to} by meta refresh after {seconds:second}",
    },
    cause="template",
    cause_line="{pages:page} redirect by meta refresh, such as to {to}",
    examples=(
        fails("at-once")(page(doc(head='<meta http-equiv=refresh content="0; url=/b">')), page(doc(), "/b")),
        fails("at-once")(page(doc(head='<meta http-equiv=refresh content="1,/b">')), page(doc(), "/b")),
        fails("later")(page(doc(head='<meta http-equiv=refresh content="2; url=/b">')), page(doc(), "/b")),
        passes(page(doc(head='<meta http-equiv=refresh content="30">'))),
        passes(page(doc(head='<meta http-equiv=refresh content="refreshing soon">'))),
        passes(page(doc(head='<meta http-equiv=refresh content="0; url=/">'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.refresh_to:
        yield Fail("at-once", "", {"to": page.refresh_to, "selector": 'meta[http-equiv="refresh" i]'})
    elif page.refresh_later:
        seconds, to = page.refresh_later
        yield Fail("later", "", {"to": to, "seconds": seconds, "selector": 'meta[http-equiv="refresh" i]'})
