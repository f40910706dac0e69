"""Free text: the note of the editor is all there is."""

from __future__ import annotations

from hodcarrier.core.states import SectionKind
from hodcarrier.report.sections.section import Nothing, Section

SECTION = Section(
    SectionKind.TEXT,
    "A word from us",
    "Free text: what you write as its note.",
    Nothing,
    lambda _facts, _told: (),
)
