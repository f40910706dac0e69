"""What a search finds."""

from __future__ import annotations

from enum import StrEnum

from hodcarrier.wire.base import Wire


class HitKind(StrEnum):
    """What a hit is."""

    CLIENT = "client"
    SITE = "site"
    PAGE = "page"
    CHECK = "check"
    TODO = "to-do"


class SearchHit(Wire):
    """Something that a search found: its name, a line that tells it from others, and where the console shows it."""

    kind: HitKind
    name: str
    detail: str = ""
    link: str
