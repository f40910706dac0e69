"""The cover: what the report is, of what, for whom. It is drawn with the brands of the agency and the client."""

from __future__ import annotations

from hodcarrier.core.states import SectionKind
from hodcarrier.report.sections.section import Nothing, Section

SECTION = Section(
    SectionKind.COVER,
    "Cover",
    "The title, the days, and the marks of the agency and the client, on a page of their own.",
    Nothing,
    lambda _facts, _told: (),
)
