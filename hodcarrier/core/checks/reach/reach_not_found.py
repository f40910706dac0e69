"""An in-scope address that is linked or listed answers 404 or 410 (RFC 9110, 15.5.5 and 15.5.11)."""

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
    gone,
    page,
    passes,
    sitemap,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.CRITICAL,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="Pages return 404 or 410",
    terms=(
        "not found",
        "gone",
        "dead page",
        "4xx",
    ),
    why="A link or the sitemap points to this URL, but there is no page. Search engines drop it from the index, and the authority it had earned is lost.",
    fix="Restore the page, or redirect the URL permanently (301) to the page that replaces it. Then update the links and the sitemap that still point to it.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.5.5 and 15.5.11",
    messages={
        "not-found": "{url} returns 404; it is {found}",
        "gone": "{url} returns 410 (gone for good); it is {found}",
    },
    cause="target",
    revision=2,
    cause_line="{url} returns {status}",
    examples=(
        fails("not-found")(page(doc('<a href="/a">Anchors</a>')), gone("/a")),
        fails("gone")(page(doc('<a href="/a">Anchors</a>')), gone("/a", 410)),
        fails("not-found")(page(doc()), sitemap("/", "/old")),
        passes(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a")),
        passes(page(doc('<a href="/a">Anchors</a>')), gone("/a", 403)),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and answer.status in (404, 410):
        yield Fail(
            "gone" if answer.status == 410 else "not-found",
            "",
            {"url": page.url, "status": answer.status, "links": page.inlinks, "found": page.how_found},
        )
