"""A thing of the kind Recipe lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
part of another one, pass."""

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
    ld,
    page,
    passes,
)
from hodcarrier.core.facts.data import DataFacts
from hodcarrier.core.facts.things import called, lacking, of_kind

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="Recipe data incomplete",
    terms=("Recipe", "rich results", "image"),
    why="Results for recipes are shown with a picture. A recipe without one, or without a name, is shown as plain text.",
    fix="Add the name and at least one image of the dish.",
    effort=Effort.SMALL,
    standard="schema.org Recipe",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(page(ld('{"@context": "https://schema.org", "@type": "Recipe", "name": "Soup"}'))),
        passes(
            page(
                ld('{"@context": "https://schema.org", "@type": "Recipe", "name": "Soup", "image": "https://shop.example/i.png"}')
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "Recipe", "@id": "/#x"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for thing in of_kind(page.data.things, "Recipe"):
        if missing := lacking(thing, "name", "image"):
            yield Fail(
                "lacks",
                f"{called(thing)} {missing}",
                {"thing": called(thing), "missing": missing, "form": thing.form, "block": thing.block},
            )
