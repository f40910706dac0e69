"""The URL carries a parameter with one of the usual names of session ids."""

import re
from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.web.parameters import SESSION_NAMES

PAIR = re.compile(r"[?&;]([^=&;?/#]+)=([^&;/#]*)")

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    summary="Session ids in URLs",
    terms=(
        "jsessionid",
        "PHPSESSID",
        "URL parameters",
    ),
    why="Every visit makes new URLs of the same page. Search engines index copies, and whoever gets the address may get into the visitor's session.",
    fix="Keep the session in a cookie. In the plan the parameter can be dropped, so that audits count each page once.",
    effort=Effort.MEDIUM,
    standard="RFC 6265, 8.4",
    messages={"session": "Carries the session id {name}"},
    cause="template",
    examples=(
        fails("session")(page(doc(), "/?PHPSESSID=1a2b"), plan={"start": ["https://shop.example/?PHPSESSID=1a2b"]}),
        fails("session")(page(doc(), "/a;jsessionid=1"), plan={"start": ["https://shop.example/a;jsessionid=1"]}),
        passes(page(doc(), "/?size=m"), plan={"start": ["https://shop.example/?size=m"]}),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for name, _ in PAIR.findall(page.url):
        if name.lower() in SESSION_NAMES:
            yield Fail("session", "", {"name": name})
            return
