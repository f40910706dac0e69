"""A version in another language redirects."""

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
    Unsure,
    When,
    doc,
    fails,
    moved,
    page,
    passes,
)
from hodcarrier.core.catalogue.mending import attribute
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="hreflang points to a redirect",
    terms=(
        "hreflang",
        "301",
    ),
    why="The version that is named is not the one that answers, so the two do not name each other, and search engines ignore the pair.",
    fix="Name the URL at the end of the redirect.",
    element='link[hreflang="{code}" i]',
    mend=attribute("href", "{to}"),
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"redirects": "The {code} version {target} redirects to {to}"},
    cause="target",
    cause_line="{target} redirects to {to}",
    examples=(
        fails("redirects")(
            page(doc(head="<link rel=alternate hreflang=cy href=/cy>")), moved("/cy", "/cy/"), page(doc(), "/cy/")
        ),
        passes(page(doc(head="<link rel=alternate hreflang=cy href=/cy>")), page(doc(), "/cy")),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for alternate, target in page.version_targets:
        if not target.settled:
            yield Unsure(alternate.url, "the target was not reached")
        elif target.hops and not target.broken:
            yield Fail("redirects", alternate.url, {"target": alternate.url, "code": alternate.code, "to": target.final_url})
