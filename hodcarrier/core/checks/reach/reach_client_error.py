"""An in-scope address answers a client error other than 404, 410 or 429.

429 asks us to slow down and says nothing of the page, so it is left to reach-crawl-blocked.
"""

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
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    needs=(Answer,),
    summary="Pages return 401, 403 or another 4xx",
    terms=(
        "4xx",
        "client error",
        "forbidden",
        "unauthorised",
    ),
    why="Visitors and search engines that follow a link here are refused. The page cannot rank, and the links to it are wasted.",
    fix="Let the page return 200 without a sign-in if it is public. If it is not, remove the links to it from public pages. Check with a request that sends no cookies.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.5",
    messages={"refused": "{url} returns {status}: access is refused", "error": "{url} returns {status}"},
    cause="target",
    cause_line="{url} returns {status}",
    examples=(
        fails("refused")(page(doc('<a href="/a">Anchors</a>')), gone("/a", 403)),
        fails("error")(page(doc('<a href="/a">Anchors</a>')), gone("/a", 418)),
        passes(page(doc('<a href="/a">Anchors</a>')), gone("/a", 404)),
        passes(page(doc('<a href="/a">Anchors</a>')), page(doc(), "/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    answer = page.answer
    if answer is not None and answer.status is not None and 400 <= answer.status < 500 and answer.status not in (404, 410, 429):
        yield Fail("refused" if answer.status in (401, 403, 407) else "error", "", {"url": page.url, "status": answer.status})
