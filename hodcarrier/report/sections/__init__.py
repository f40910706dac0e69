"""The kinds of sections that reports are made of."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from hodcarrier.core.states import SectionKind
from hodcarrier.report.sections import (
    benchmark,
    cover,
    faults,
    glossary,
    happened,
    health,
    last,
    month,
    outside,
    review,
    speed,
    standing,
    text,
    work,
)
from hodcarrier.report.sections.section import Choice, Section, Told

SECTIONS: Mapping[SectionKind, Section[Any]] = {
    each.kind: each
    for each in (
        cover.SECTION,
        month.SECTION,
        last.SECTION,
        health.SECTION,
        work.DONE,
        work.HAND,
        happened.SECTION,
        faults.AREA_SCORES,
        faults.FINDINGS,
        benchmark.SECTION,
        outside.SEARCH,
        outside.VISITS,
        standing.POSITIONS,
        standing.LINKS,
        speed.SECTION,
        review.SECTION,
        work.NEXT,
        text.SECTION,
        glossary.SECTION,
        faults.APPENDIX,
    )
}
__all__ = ["SECTIONS", "Choice", "Section", "Told"]
