"""A page below the start page redirects to the start page itself."""

import re
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
    moved,
    page,
    passes,
)
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.web.urls import split

HOME = re.compile(r"/?(?:(?:index|home|default|start)(?:\.[a-z]+)?)?/?|/[a-z]{2}(?:-[a-z]{2})?/?")

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.REDIRECT,
    needs=(Answer,),
    summary="Redirects to the home page",
    terms=(
        "redirect to homepage",
        "soft 404",
    ),
    why="People who follow a link to a certain thing land on the home page and do not know why. Search engines treat such redirects as if the page were gone.",
    fix="Redirect to the page that has taken its place. If nothing has, answer 404 or 410.",
    effort=Effort.SMALL,
    standard="Good practice",
    messages={"home": "{url} redirects to the home page"},
    cause="template",
    cause_line="{pages:page} redirect to the home page, such as {url}",
    examples=(
        fails("home")(page(doc("<a href=/rope/old>old</a>")), moved("/rope/old", "/")),
        passes(page(doc("<a href=/rope/old>old</a>")), moved("/rope/old", "/rope"), page(doc(), "/rope")),
        passes(page(doc("<a href=/index.html>home</a>")), moved("/index.html", "/")),
        passes(page(doc("<a href=/?a=1>home</a>")), moved("/?a=1", "/")),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    target = page.target(page.url)
    start, path = page.plan.start[0], split(page.url).path.lower()
    if target.hops and not target.loop and target.final_url == start and not page.is_start and not HOME.fullmatch(path):
        yield Fail("home", "", {"url": page.url})
