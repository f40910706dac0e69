"""A report made ready for drawing: sections with their titles and blocks, the brand, the foot. What all forms share is decided here."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from hodcarrier.core.colours import DARK, contrast, ink_on, mixed
from hodcarrier.core.states import SectionKind, Typeface
from hodcarrier.report.blocks import Block, Note
from hodcarrier.report.charts import Ink
from hodcarrier.report.language import Language, language
from hodcarrier.report.sections import SECTIONS, Told
from hodcarrier.report.values import ReportValues

# The colour of reports for those who have none of their own.
ACCENT = "#0d5c5f"
# Lines and bars must stand out from the page (WCAG 2.2, 1.4.11).
CONTRAST_LEAST = 3.0


@dataclass(frozen=True)
class Logo:
    """A mark: its kind of file and its bytes."""

    media: str
    content: bytes


@dataclass(frozen=True)
class Marks:
    """The marks of the agency and of the client, where they have some."""

    agency: Logo | None = None
    client: Logo | None = None


@dataclass(frozen=True)
class DrawnSection:
    """A section as it is shown. ``key`` names it within the report."""

    key: str
    kind: SectionKind
    title: str
    blocks: Sequence[Block]


@dataclass(frozen=True)
class DrawnReport:
    """A report as it is shown, whatever the form. ``colour`` is the brand's, ``line`` the same made dark enough for lines on paper, ``on_colour`` what is read on it."""

    values: ReportValues
    language: Language
    subtitle: str
    days: str
    made: str
    foot: str
    cover: bool
    sections: Sequence[DrawnSection]
    colour: str
    line: str
    on_colour: str
    marks: Marks

    @property
    def ink(self) -> Ink:
        """What charts are drawn in."""
        return Ink(self.line)

    @property
    def family(self) -> str:
        """The typeface, as its files are called."""
        return "serif" if self.values.brand.typeface == Typeface.SERIF else "sans"


def line_colour(colour: str) -> str:
    """A colour that lines on white stand out in: the same, or darkened until they do."""
    for part in range(0, 101, 5):
        darker = mixed(colour, DARK, part / 100)
        if contrast(darker, "#ffffff") >= CONTRAST_LEAST:
            return darker
    return DARK


def drawn(values: ReportValues, marks: Marks = Marks()) -> DrawnReport:
    """A report ready for drawing. Sections with nothing to tell are left out."""
    words = language(values.language)
    first, last = date.fromisoformat(values.from_day), date.fromisoformat(values.to_day)
    told = Told(words, values.host, values.client, first, last)
    shown: dict[str, Sequence[Block]] = {}
    # What words mean is told last, of the sections that are there.
    for each in sorted(values.sections, key=lambda each: each.kind == SectionKind.GLOSSARY):
        facts = each.facts
        if each.kind == SectionKind.GLOSSARY:
            facts = {"sections": [one.kind.value for one in values.sections if shown.get(one.key)]}
        note = [Note(each.note)] if each.note.strip() else []
        shown[each.key] = [*note, *SECTIONS[each.kind].blocks(facts, told)]
    sections = [
        DrawnSection(each.key, each.kind, each.title or words.say(SECTIONS[each.kind].title), shown[each.key])
        for each in values.sections
        if shown[each.key]
    ]
    colour = values.brand.colour or ACCENT
    days = words.span(first, last)
    foot = values.brand.footer or words.say("{agency} for {client}", agency=values.agency, client=values.client)
    return DrawnReport(
        values=values,
        language=words,
        subtitle=words.say("How {host} stands, and what was done: {days}", host=values.host, days=days),
        days=days,
        made=words.day(date.fromisoformat(values.made)),
        foot=foot,
        cover=any(each.kind == SectionKind.COVER for each in values.sections),
        sections=sections,
        colour=colour,
        line=line_colour(colour),
        on_colour=ink_on(colour),
        marks=marks,
    )


def empty_sections(values: ReportValues) -> list[str]:
    """The keys of sections that have nothing to tell, and so are left out of the report."""
    shown = {each.key for each in drawn(values).sections}
    return [each.key for each in values.sections if each.key not in shown and each.kind != SectionKind.COVER]
