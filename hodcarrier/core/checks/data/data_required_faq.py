"""A thing of the kind FAQPage lacks a property without which nothing can be made of it. Things that are only named, or told in short as a
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
from hodcarrier.core.facts.things import called, lacking, of_kind, parts_of

CHECK = Check(
    severity=Severity.MEDIUM,
    subject=Subject.PAGE,
    when=When.DATA,
    needs=(DataFacts,),
    summary="FAQ data incomplete",
    terms=("FAQPage", "rich results", "questions"),
    why="Questions and answers are shown and read aloud only in pairs. A question without its answer makes the page's data useless.",
    fix="Give every Question a name, and an acceptedAnswer with a text.",
    element='script[type^="application/ld+json" i]',
    effort=Effort.SMALL,
    standard="schema.org FAQPage",
    messages={"lacks": "{thing} lacks {missing}"},
    cause="template",
    examples=(
        fails("lacks")(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "FAQPage", "mainEntity": [{"@type": "Question", "name": "Why?"}]}'
                )
            )
        ),
        passes(
            page(
                ld(
                    '{"@context": "https://schema.org", "@type": "FAQPage", "mainEntity": [{"@type": "Question", "name": "Why?", "acceptedAnswer": {"@type": "Answer", "text": "So."}}]}'
                )
            )
        ),
        passes(page(ld('{"@context": "https://schema.org", "@type": "FAQPage", "@id": "/#x"}'))),
        passes(page(doc())),
    ),
)


def find(page: PageView, _limits: Limits) -> Iterator[Outcome]:
    """Yield the findings."""
    for thing in of_kind(page.data.things, "FAQPage"):
        questions = list(parts_of(page.data.things, thing, "mainEntity"))
        missing = "" if questions else "mainEntity"
        for question in questions:
            answers = list(parts_of(page.data.things, question, "acceptedAnswer"))
            lacks = lacking(question, "name|text", "acceptedAnswer")
            if not lacks and answers and not any(answer.has("text") for answer in answers):
                lacks = "the text of its answer"
            if lacks and not missing:
                missing = f"{lacks} in {called(question)}"
        if missing:
            yield lack(thing, missing)
