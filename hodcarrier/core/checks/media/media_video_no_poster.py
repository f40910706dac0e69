"""A video that waits to be played has no poster."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import Check, Effort, Fail, Limits, Outcome, PageView, Severity, Subject, doc, fails, page, passes
from hodcarrier.core.facts.media import MediaFacts

CHECK = Check(
    severity=Severity.LOW,
    subject=Subject.PAGE,
    needs=(MediaFacts,),
    summary="Videos without a poster",
    terms=("poster", "video", "thumbnail"),
    why="Until the video is loaded, visitors see a black box or nothing, and browsers fetch part of the video only to show its first frame.",
    fix="Add a poster image in the size the video is displayed at.",
    effort=Effort.SMALL,
    standard="WHATWG HTML, 4.8.8",
    messages={"poster": "{url} has no poster"},
    cause="element",
    cause_line="{url} on {pages:page}",
    examples=(
        fails("poster")(page(doc("<video src=/knots.mp4 controls></video>"))),
        fails("poster")(page(doc("<video controls><source src=/knots.webm></video>"))),
        passes(page(doc("<video src=/knots.mp4 poster=/knots.jpg></video>"))),
        passes(page(doc("<video src=/knots.mp4 autoplay muted></video>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for raw in dict.fromkeys(page.media.posterless):
        yield Fail("poster", raw, {"url": raw or "A video", "selector": "video:not([poster])"})
