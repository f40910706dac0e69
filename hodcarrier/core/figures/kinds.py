"""What the rows of each kind of figures consist of, and the words by which their columns are known in tables."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from hodcarrier.core.states import FigureKind


class FieldType(StrEnum):
    """What a cell holds: a day, the address of a page, the host of a site, a text, a whole number that is not negative, any number, or a rank
    (empty: not found)."""

    DAY = "day"
    PAGE = "page"
    HOST = "host"
    TEXT = "text"
    COUNT = "count"
    NUMBER = "number"
    RANK = "rank"


@dataclass(frozen=True)
class Field:
    """A column. ``key``: rows that agree in all of these are of the same thing; ``needed``: a table without it says nothing; ``words``: headings that mean it, in
    lower case, the most exact first."""

    name: str
    head: str
    type: FieldType
    words: tuple[str, ...]
    key: bool = False
    needed: bool = False


_DAY = Field(
    "day", "Day", FieldType.DAY, ("day", "date", "tag", "datum", "jour", "fecha", "fetched", "checked on", "stand"), key=True, needed=True
)  # fmt: skip
_PAGE_WORDS = ("page", "url", "address", "landing page", "page url", "seite", "seiten-url", "adresse", "zielseite")
_DEVICE = Field("device", "Device", FieldType.TEXT, ("device", "device type", "gerät", "endgerät", "gerätetyp"), key=True)
_COUNTRY = Field("country", "Country", FieldType.TEXT, ("country", "land", "pays", "market", "markt"), key=True)

FIELDS: Mapping[FigureKind, tuple[Field, ...]] = {
    FigureKind.SEARCH: (
        _DAY,
        Field("page", "Page", FieldType.PAGE, _PAGE_WORDS, key=True),
        Field(
            "query", "Query", FieldType.TEXT,
            ("query", "search query", "search term", "keyword", "queries", "suchanfrage", "suchbegriff", "suchbegriffe", "term", "requête", "requêtes"), key=True,
        ),
        _DEVICE,
        _COUNTRY,
        Field("clicks", "Clicks", FieldType.COUNT, ("clicks", "klicks", "clics", "click"), needed=True),
        Field("impressions", "Impressions", FieldType.COUNT, ("impressions", "impressionen", "impr."), needed=True),
        Field(
            "position", "Position", FieldType.NUMBER,
            ("position", "average position", "avg. position", "avg position", "mean position", "durchschnittliche position", "pos."),
        ),
    ),
    FigureKind.VISITS: (
        _DAY,
        Field("page", "Page", FieldType.PAGE, _PAGE_WORDS, key=True),
        Field("channel", "Channel", FieldType.TEXT, ("channel", "medium", "source", "kanal", "herkunft"), key=True),
        Field("sessions", "Visits", FieldType.COUNT, ("sessions", "visits", "sitzungen", "besuche", "visites"), needed=True),
        Field(
            "engaged", "Engaged visits", FieldType.COUNT,
            ("engaged sessions", "engaged visits", "engaged", "sitzungen mit interaktionen", "interaktionen"),
        ),
        Field(
            "conversions", "Conversions", FieldType.NUMBER,
            ("conversions", "goals", "orders", "abschlüsse", "ziele", "bestellungen"),
        ),
    ),
    FigureKind.POSITIONS: (
        _DAY,
        Field("keyword", "Keyword", FieldType.TEXT, ("keyword", "query", "search term", "suchbegriff", "phrase"), key=True, needed=True),
        _DEVICE,
        Field("place", "Place", FieldType.TEXT, ("place", "location", "region", "city", "ort", "standort"), key=True),
        Field("host", "Site", FieldType.HOST, ("site", "domain", "host", "competitor", "website", "wettbewerber"), key=True),
        Field("rank", "Position", FieldType.RANK, ("rank", "position", "ranking", "pos.", "rang", "platz"), needed=True),
        Field("page", "Page", FieldType.PAGE, ("page", "url", "landing page", "ranking url", "address", "seite")),
        Field("features", "Features shown", FieldType.TEXT, ("features", "features shown", "result features", "serp features")),
    ),
    FigureKind.LINKS: (
        Field("source_page", "Linking page", FieldType.PAGE,
              ("linking page", "source url", "source page", "referring page", "from", "from url", "source", "link von", "quelle"), key=True, needed=True),
        Field("page", "Page", FieldType.PAGE,
              ("target page", "target url", "target", "to", "to url", "linked page", "ziel", "ziel-url", "page"), key=True, needed=True),
        Field("anchor", "Anchor text", FieldType.TEXT, ("anchor text", "anchor", "link text", "ankertext", "linktext")),
        Field("rel", "rel", FieldType.TEXT, ("rel", "link type", "nofollow", "attributes")),
        Field("first_seen", "First seen", FieldType.DAY, ("first seen", "discovered", "first found", "erstmals gesehen", "gefunden am")),
        Field("last_seen", "Last seen", FieldType.DAY, ("last seen", "last checked", "zuletzt gesehen", "day", "date", "datum")),
        Field("lost_on", "Lost on", FieldType.DAY, ("lost on", "lost", "lost date", "date lost", "verloren am")),
    ),
    FigureKind.SITE: (
        _DAY,
        Field("name", "Figure", FieldType.TEXT, ("name", "figure", "metric", "kennzahl", "bezeichnung"), key=True, needed=True),
        Field("value", "Value", FieldType.NUMBER, ("value", "wert", "number", "zahl", "amount"), needed=True),
        Field("source", "Source", FieldType.TEXT, ("source", "quelle", "from")),
    ),
}  # fmt: skip


def field_of(kind: FigureKind, name: str) -> Field | None:
    """The field of that name; ``None`` when rows of the kind have none."""
    return next((field for field in FIELDS[kind] if field.name == name), None)
