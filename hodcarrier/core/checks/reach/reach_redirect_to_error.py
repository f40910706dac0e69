"""The final answer of a redirect is 4xx, 5xx or none, or a redirect names no address that could be followed."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Fail,
    Limits,
    Outcome,
    PageView,
    Sample,
    Severity,
    Subject,
    Unsure,
    When,
    doc,
    fails,
    gone,
    moved,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.REDIRECT,
    needs=(Answer,),
    summary="Redirects to an error page",
    terms=(
        "redirect to 404",
        "broken redirect",
    ),
    why="The redirect leads to an error page. Visitors hit a dead end, and the authority of the old URL is lost.",
    fix="Point the redirect at an existing page that matches best. Check that it returns 200.",
    effort=Effort.SMALL,
    standard="RFC 9110, 15.4",
    messages={
        "dead-end": "{url} redirects to {to}, which ends with: {outcome}",
        "nowhere": "{url} answers {status}, and its Location header is {location}",
    },
    cause="target",
    cause_line="{url} ends at {to}: {outcome}",
    revision=3,
    examples=(
        fails("dead-end")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), gone("/b")),
        fails("dead-end")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), Sample("/b", failure="timeout")),
        fails("nowhere")(page(doc('<a href="/a">Anchors</a>')), Sample("/a", status=302)),
        fails("nowhere")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "https://[half")),
        fails("nowhere", "dead-end")(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), moved("/b", "mailto:a@b.example")),
        passes(page(doc('<a href="/a">Anchors</a>')), Sample("/a", status=304)),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/b"), page(doc(), "/b")),
        passes(page(doc('<a href="/a">Anchors</a>')), moved("/a", "/a")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.target(page.url)
    if target.leads_nowhere and not target.hops:
        given = page.answer.header("location") if page.answer else ""
        location = f"“{given[:200]}”, which is no web address" if given else "missing"
        outcome = {"to": page.url, "outcome": target.outcome}  # for the line of the cause
        yield Fail("nowhere", "", {"url": page.url, "status": str(target.status), "location": location, **outcome})
    elif target.hops and not target.examined:
        yield Unsure("", "the end of the redirects was not reached")
    elif target.hops and not target.loop and target.broken:
        yield Fail("dead-end", "", {"url": page.url, "to": target.final_url, "outcome": target.outcome})
