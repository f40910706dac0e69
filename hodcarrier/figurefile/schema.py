"""The schema of a file of figures, version 1: a table for each kind, made from its fields, and every text once. ``docs/figure-file.md`` describes it for other readers."""

from __future__ import annotations

from collections.abc import Mapping

from hodcarrier.core.figures.kinds import FIELDS, FieldType
from hodcarrier.core.states import FigureKind

APPLICATION_ID = 0x486F6466
VERSION = 1
# Figures of the site as a whole are few: they are in the register.
KEPT = tuple(kind for kind in FigureKind if kind != FigureKind.SITE)
TEXTS = (FieldType.PAGE, FieldType.HOST, FieldType.TEXT)
# The keys that rows of a kind may have or lack; which of them a row has is its grain. Rows of one grain add up, rows of two say the same twice.
GRAINS: Mapping[FigureKind, tuple[str, ...]] = {
    FigureKind.SEARCH: ("page", "query", "device", "country"),
    FigureKind.VISITS: ("page", "channel"),
}

_MAIN = """
CREATE TABLE text (id INTEGER PRIMARY KEY, text TEXT NOT NULL UNIQUE);
INSERT INTO text VALUES (0, '');
CREATE TABLE batch (id INTEGER PRIMARY KEY, at TEXT NOT NULL, kind TEXT NOT NULL, source TEXT NOT NULL);
CREATE TABLE coverage (kind TEXT, day INTEGER, grain INTEGER, rows INTEGER NOT NULL, PRIMARY KEY (kind, day, grain)) WITHOUT ROWID;
"""
_INDEXES = """
CREATE INDEX search_page ON search (page, day);
CREATE INDEX search_query ON search (query, day);
CREATE INDEX visits_page ON visits (page, day);
CREATE INDEX positions_keyword ON positions (keyword, day);
CREATE INDEX links_page ON links (page);
"""


def grain_of(kind: FigureKind, *names: str) -> int:
    """The number of the grain of rows that have these keys and no others of those that they may lack."""
    return sum(1 << place for place, name in enumerate(GRAINS.get(kind, ())) if name in names)


def columns_of(kind: FigureKind) -> list[str]:
    """The columns of a table in their order: keys (day and grain first), values, the batch."""
    keys = [each.name for each in FIELDS[kind] if each.key]
    grain = ["grain"] if kind in GRAINS else []
    return [*keys[:1], *grain, *keys[1:], *(each.name for each in FIELDS[kind] if not each.key), "batch"]


def keys_of(kind: FigureKind) -> list[str]:
    """The columns in which no two rows agree."""
    keys = {each.name for each in FIELDS[kind] if each.key} | {"grain"}
    return [name for name in columns_of(kind) if name in keys]


def table_of(kind: FigureKind, name: str = "") -> str:
    """The statement that makes the table of a kind, or one like it under another name."""
    keys = keys_of(kind)
    columns = [f"{column} {'INTEGER NOT NULL' if column in keys else ''}" for column in columns_of(kind)]
    return f"TABLE {name or kind} ({', '.join(columns)}, PRIMARY KEY ({', '.join(keys)})) WITHOUT ROWID"


def statements() -> str:
    """All statements that make an empty file."""
    tables = "".join(f"CREATE {table_of(kind)};\n" for kind in KEPT)
    return f"{_MAIN}{tables}{_INDEXES}PRAGMA application_id = {APPLICATION_ID};\nPRAGMA user_version = {VERSION};"
