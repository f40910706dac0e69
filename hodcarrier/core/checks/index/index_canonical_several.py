"""More than one canonical with different targets, counting document and Link header."""

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
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.head import HeadFacts
from hodcarrier.core.web.link_header import canonical_from_header

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.CANONICAL,
    needs=(Answer, HeadFacts),
    summary="Conflicting canonicals",
    terms=(
        "multiple canonicals",
        "rel=canonical",
    ),
    why="When several canonicals contradict each other, search engines ignore all of them and choose a URL themselves.",
    fix="Keep the one canonical that names the URL you want, and find out which part of the template or server adds the others.",
    element='link[rel~="canonical" i]',
    effort=Effort.SMALL,
    standard="RFC 6596, 3",
    messages={"several": "{count} different canonicals: {targets}"},
    cause="template",
    examples=(
        fails("several")(page(doc(head='<link rel=canonical href="/"><link rel=canonical href="/b">'))),
        fails("several")(
            page(
                doc(head='<link rel=canonical href="/">'),
                headers=(("content-type", "text/html"), ("link", "</b>; rel=canonical")),
            )
        ),
        passes(page(doc(head='<link rel=canonical href="/"><link rel=canonical href="https://shop.example/">'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    named = {item.url for item in page.head.canonicals if item.in_head and item.url}
    header = canonical_from_header(page.answer.header_values("link"), page.url) if page.answer else ""
    targets = sorted(named | ({header} if header else set()))
    if len(targets) > 1:
        yield Fail("several", "", {"count": len(targets), "targets": ", ".join(targets[:5])})
