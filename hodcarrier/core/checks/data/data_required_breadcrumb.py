"""A thing of the kind BreadcrumbList lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
part of another one, pass."""

from collections.abc import Iterator

from hodcarrier.core.catalogue import (
    Check,
    Effort,
    Limits,
    Outcome,
    PageView,
    Severity,
    Subject,
    When,
    doc,
    fails,
    lack,
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.things import of_kind, parts_of

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Breadcrumb data incomplete",
    terms=("BreadcrumbList", "rich results", "navigation"),
    why="The path above a result is made of these entries. One without a position or a name breaks the whole path.",
    fix="Give every entry a position and a name, and all but the last one the page it stands for.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org BreadcrumbList",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "BreadcrumbList", "itemListElement": [{"@type": "ListItem", "name": "Ropes"}]}'
                )
            )
        ),
        passes(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "BreadcrumbList", "itemListElement": [{"@type": "ListItem", "position": 1, "name": "Ropes", "item": "https://shop.example/"}, {"@type": "ListItem", "position": 2, "name": "Thin"}]}'
                )
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "BreadcrumbList", "@id": "/#x"}'))),
        passes(page(doc())),
        fails("lacks")(page(ld('{"@context": "https://schema.org", "@type": "BreadcrumbList", "name": "Path"}'))),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for thing in of_kind(page.data.things, "BreadcrumbList", parts=True):
        entries = list(parts_of(page.data.things, thing, "itemListElement"))
        missing = "itemListElement" if not entries else ""
        for at, entry in enumerate(entries, 1):
            items = list(parts_of(page.data.things, entry, "item"))
            named = entry.has("name") or any(item.has("name") for item in items)
            lacks = [*([] if entry.has("position") else ["position"]), *([] if named else ["name"])]
            if at < len(entries) and not entry.has("item", "url"):
                lacks.append("item")
            if lacks and not missing:
                missing = f"{', '.join(lacks)} in entry {at}"
        if missing:
            yield lack(thing, missing)
