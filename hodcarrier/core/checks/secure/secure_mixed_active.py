"""An https page loads a script, style sheet, frame or embedded object over http (W3C Mixed Content, 3.2: blockable)."""

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
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.SECURE,
    needs=(LinkFacts,),
    summary="Mixed content: scripts over HTTP",
    terms=(
        "active mixed content",
        "HTTPS",
        "stylesheet",
        "iframe",
    ),
    why="Browsers block this file, so what it does is missing from the page. Where it is loaded, an attacker could inject code.",
    fix="Change the URL to https. If the file is not available over HTTPS, remove it.",
    mend=https(),
    effort=Effort.SMALL,
    standard="W3C Mixed Content, 3.2",
    messages={"mixed": "A {kind} is loaded over HTTP: {url}"},
    cause="target",
    cause_line="{url} on {pages:page}",
    revision=2,
    examples=(
        fails("mixed")(page(doc("<script src=http://cdn.example/x.js></script>"))),
        fails("mixed")(page(doc(head="<link rel=stylesheet href=http://cdn.example/x.css>"))),
        fails("mixed", "mixed")(page(doc("<object data=http://cdn.example/x.bin></object><embed src=http://cdn.example/y.bin>"))),
        passes(page(doc("<script src=https://cdn.example/x.js></script>"))),
        passes(page(doc("<img src=http://cdn.example/x.png alt=x>"))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    if page.is_secure:
        for link in page.distinct_links("script", "style", "iframe", "object"):
            if link.url.startswith("http://"):
                yield Fail(
                    "mixed",
                    link.url,
                    {
                        "url": link.url,
                        "kind": link.kind,
                        "selector": f'[src="{link.raw}"], [href="{link.raw}"], [data="{link.raw}"]',
                    },
                )
