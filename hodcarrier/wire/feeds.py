"""Feeds of figures, and what registries say of domains."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated

from pydantic import AfterValidator, Field

from hodcarrier.core.states import FeedState, FigureKind
from hodcarrier.wire.base import Wire, Words


def _each_once(kinds: list[FigureKind]) -> list[FigureKind]:
    return list(dict.fromkeys(kinds))


Kinds = Annotated[list[FigureKind], AfterValidator(_each_once)]


class FigureFeedBody(Wire):
    """A new feed of figures. Without ``kinds`` all are taken that it has."""

    url: str = Field(min_length=1, max_length=2000)
    name: Words = Field(default="", max_length=100)
    token: str = Field(default="", max_length=4000, pattern=r"^[\x21-\x7e]*$")
    kinds: Kinds = Field(default_factory=list)


class FigureFeedChange(Wire):
    """Changes to a feed; what is left out stays. An empty token: it needs none."""

    url: str | None = Field(default=None, min_length=1, max_length=2000)
    name: Words | None = Field(default=None, min_length=1, max_length=100)
    token: str | None = Field(default=None, max_length=4000, pattern=r"^[\x21-\x7e]*$")
    kinds: Kinds | None = None
    active: bool | None = None


class FigureFeedKind(Wire):
    """What a feed has of a kind of figures, and how much of it was taken in."""

    kind: FigureKind
    first: date
    last: date
    until: date | None = None
    rows: int = 0
    wanted: bool = True
    stale: bool = False


class FigureFeedOut(Wire):
    """A feed of figures, and how it fares. Its token is never shown."""

    id: int
    site_id: int
    site_host: str
    name: str
    url: str
    has_token: bool
    kinds: list[FigureKind]
    active: bool
    state: FeedState
    sentence: str
    asked_at: datetime | None = None
    went_well_at: datetime | None = None
    next_at: datetime
    offers: list[FigureFeedKind] = []


class DomainOut(Wire):
    """What a registry says of a domain, from the first day that it said so to the last."""

    domain: str
    registrar: str = ""
    created: date | None = None
    expires: date | None = None
    name_servers: list[str] = []
    first_seen: date
    last_seen: date


class DomainHistory(Wire):
    """The domain of a site: what its registry says now, in a sentence, and what it said before; ``error`` is why it could not be asked last."""

    sentence: str
    now: DomainOut | None = None
    before: list[DomainOut] = []
    asked_at: datetime | None = None
    error: str = ""
