"""An https page shows a picture, video or sound over http (W3C Mixed Content, 3.1: upgradeable)."""

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
from hodcarrier.core.catalogue.mending import https
from hodcarrier.core.facts.links import LinkFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.SECURE,
    needs=(LinkFacts,),
    summary="Mixed content: images over HTTP",
    terms=(
        "passive mixed content",
        "HTTPS",
    ),
    why="Browsers ask for the file over https and show nothing if that fails. Where they load it over http, the lock in the address bar goes.",
    fix="Change the URL to https. If the file is not available over HTTPS, copy it to your own site.",
    mend=https(),
    effort=Effort.SMALL,
    standard="W3C Mixed Content, 3.1",
    messages={"mixed": "Shown over HTTP: {url}"},
    cause="target",
    cause_line="{url} on {pages:page}",
    examples=(
        fails("mixed")(page(doc("<img src=http://cdn.example/x.png alt=x>"))),
        fails("mixed")(page(doc("<video src=http://cdn.example/x.mp4></video>"))),
        passes(page(doc("<img src=https://cdn.example/x.png alt=x>"))),
        passes(page(doc("<script src=http://cdn.example/x.js></script>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.is_secure:
        for link in page.distinct_links("image", "srcset", "media"):
            if link.url.startswith("http://"):
                yield Fail("mixed", link.url, {"url": link.url, "selector": f'[src="{link.raw}"]'})
