"""A canonical stands outside the real head, as HTML5 tree construction finds it (WHATWG HTML, 13.2.6.4)."""

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
from hodcarrier.core.facts.head import HeadFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.CANONICAL,
    needs=(HeadFacts,),
    summary="Canonical outside the head",
    terms=(
        "rel=canonical",
        "body",
    ),
    why="Search engines only accept a canonical inside the head. An element that does not belong in the head can end it early, so the canonical ends up in the body and is ignored.",
    fix="Move the canonical up in the head, above any element that belongs in the body. Check in the rendered document that it is still inside the head.",
    effort=Effort.SMALL,
    standard="RFC 6596; WHATWG HTML, 4.2.4",
    messages={"outside": "The canonical {href} is in the body and is ignored"},
    cause="template",
    examples=(
        fails("outside")(page(doc(head='<title>Rope</title><div>Notice</div><link rel=canonical href="/">'))),
        fails("outside")(page(doc('<link rel=canonical href="/">'))),
        passes(page(doc(head='<link rel=canonical href="/">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for item in page.head.canonicals:
        if not item.in_head:
            yield Fail(
                "outside",
                "",
                {
                    "href": item.text,
                    "snippet": f'<link rel="canonical" href="{item.text}">',
                    "selector": 'body link[rel~="canonical"]',
                },
            )
