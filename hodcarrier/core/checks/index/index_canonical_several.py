"""More than one canonical with different targets, counting document and Link header."""

from collections.abc import Iterator, Mapping

from hodcarrier.core.catalogue import Check, Fail, Outcome, doc, fails, page, passes
from hodcarrier.core.links import canonical_from_header
from hodcarrier.core.views import PageView

CHECK = Check(
    severity="high",
    subject="page",
    needs="document",
    summary="Pages with canonicals that contradict one another",
    why="Two canonicals cancel each other out: search engines then ignore both.",
    fix="Keep the one that names the address you want and find out which part of the template or of the server adds the other.",
    effort="small",
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


def find(page: PageView, _limits: Mapping[str, float]) -> Iterator[Outcome]:
    """Yield the findings."""
    named = {item.url for item in page.document.canonicals if item.in_head and item.url}
    header = canonical_from_header(page.answer.header_values("link"), page.url) if page.answer else ""
    targets = sorted(named | ({header} if header else set()))
    if len(targets) > 1:
        yield Fail("several", "", {"count": len(targets), "targets": ", ".join(targets[:5])})
