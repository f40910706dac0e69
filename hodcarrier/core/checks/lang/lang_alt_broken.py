"""A version in another language answers with an error or not at all."""

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
    gone,
    page,
    passes,
)
from hodcarrier.core.facts.language import LanguageFacts

CHECK = Check(
    severity=Severity.HIGH,
    subject=Subject.PAGE,
    when=When.VERSIONS,
    needs=(LanguageFacts,),
    summary="hreflang points to a broken URL",
    terms=(
        "hreflang",
        "404",
    ),
    why="Search engines send people of that language to an error, or drop the annotation.",
    fix="Correct the URL, or remove the entry.",
    element='link[hreflang="{code}" i]',
    effort=Effort.SMALL,
    standard="RFC 8288, 3.3; hreflang annotations",
    messages={"broken": "The {code} version {target} ends with: {outcome}"},
    cause="target",
    cause_line="{target}: {outcome}; named by {pages:page}",
    examples=(
        fails("broken")(page(doc(head="<link rel=alternate hreflang=cy href=/cy>")), gone("/cy")),
        passes(page(doc(head="<link rel=alternate hreflang=cy href=/cy>")), page(doc(), "/cy")),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for alternate, target in page.version_targets:
        if not target.settled:
            yield Unsure(alternate.url, "the target was not reached")
        elif target.broken:
            yield Fail("broken", alternate.url, {"target": alternate.url, "code": alternate.code, "outcome": target.outcome})
