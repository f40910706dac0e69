"""What reports are made of, and how far one has come."""

from __future__ import annotations

from enum import StrEnum


class SectionKind(StrEnum):
    """What a section of a report tells. In this order they are offered."""

    COVER = "cover"
    MONTH = "month"
    LAST = "last"
    HEALTH = "health"
    DONE = "done"
    HAND = "hand"
    HAPPENED = "happened"
    AREAS = "areas"
    FINDINGS = "findings"
    BENCHMARK = "benchmark"
    SEARCH = "search"
    VISITS = "visits"
    POSITIONS = "positions"
    LINKS = "links"
    SPEED = "speed"
    REVIEW = "review"
    NEXT = "next"
    TEXT = "text"
    GLOSSARY = "glossary"
    APPENDIX = "appendix"


class ReportState(StrEnum):
    """How far a report has come: it is written on, somebody has approved it, or it was sent."""

    DRAFT = "draft"
    APPROVED = "approved"
    SENT = "sent"


# What a client may see of reports.
SEEN_BY_CLIENTS = (ReportState.APPROVED, ReportState.SENT)


class ReportForm(StrEnum):
    """What a report is drawn as."""

    HTML = "html"
    PDF = "pdf"
    DOCX = "docx"
    XLSX = "xlsx"


class ReportSpan(StrEnum):
    """The days that scheduled reports cover: the last whole week, month or quarter."""

    WEEK = "week"
    MONTH = "month"
    QUARTER = "quarter"


class Typeface(StrEnum):
    """What reports are set in."""

    SANS = "sans"
    SERIF = "serif"
