"""What the words of the report mean."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from hodcarrier.core.states import SectionKind
from hodcarrier.report.blocks import Block, Terms
from hodcarrier.report.sections.section import Section, Told

_ALWAYS = (
    ("Audit", "a program that visits the site page by page, as a search engine does, and looks for known faults."),
    (
        "Health",
        "a figure from 0 to 100: each page starts at 100 and loses points for every kind of fault; health is the average.",
    ),
    ("Fault", "something on a page that hinders search engines or visitors, found by a check."),
    ("Confirmed", "a later audit looked at the same places and found the fault gone."),
)
_OF = {
    SectionKind.SEARCH: (
        ("Click", "a visitor who came from the results of a search engine."),
        ("Impression", "a result of yours that was shown to somebody who searched."),
    ),
    SectionKind.POSITIONS: (
        ("Keyword", "a search that matters to you, which is looked up regularly."),
        ("Position", "where a result stands among the others; 1 is the first."),
    ),
    SectionKind.BENCHMARK: (("Median", "the figure in the middle: half of the pages are above it, half below."),),
    SectionKind.VISITS: (("Conversion", "a visit that ended as you want, such as with an order or an enquiry."),),
    SectionKind.LINKS: (("Redirect", "leads whoever asks for an old address to the new one."),),
    SectionKind.FINDINGS: (
        ("Sitemap", "the list of pages that you hand to search engines."),
        ("robots.txt", "a file that tells search engines what they may read."),
    ),
}


@dataclass(frozen=True)
class GlossaryFacts:
    """The kinds of the sections that the report has."""

    sections: list[str] = field(default_factory=list)


def _draw(facts: GlossaryFacts, told: Told) -> Sequence[Block]:
    terms = [*_ALWAYS, *(term for kind, found in _OF.items() if kind in facts.sections for term in found)]
    return [Terms([(told.language.say(term), told.language.say(meaning)) for term, meaning in terms])]


SECTION = Section(
    SectionKind.GLOSSARY, "What the words mean", "The words of the report in half a sentence each.", GlossaryFacts, _draw
)
