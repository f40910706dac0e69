"""Writing the columns of the inventory: those that the tables of a run file hold already, and what follows from them."""

from __future__ import annotations

import sqlite3
from collections import Counter, defaultdict
from collections.abc import Container, Iterable, Iterator, Sequence
from email.utils import parsedate_to_datetime
from functools import lru_cache
from typing import Any

import numpy as np

from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.states import ColumnKind, InventoryKind, Severity
from hodcarrier.core.web.urls import split
from hodcarrier.runfile import schema
from hodcarrier.runfile.column_format import pack_figures, pack_texts
from hodcarrier.runfile.packing import unpack_small

_FOUND = {
    schema.FOUND_START: "start",
    schema.FOUND_LINK: "link",
    schema.FOUND_SITEMAP: "sitemap",
    schema.FOUND_LIST: "list",
    schema.FOUND_REDIRECT: "redirect",
    schema.FOUND_EARLIER: "earlier run",
}
# What the tables hold under the name of the column.
_STORED = ("status", "failure", "content_type", "first_byte_ms", "decoded_bytes")
_STORED_OF_PAGES = ("depth", "inlinks", "words", "why_not", "title", "description", "h1", "canonical", "robots", "template")
_OF_ANSWER = ("wire_bytes", "total_ms", "http_version", "remote")
_JUDGED = ("health", *Severity)
_COPIES = {"title_copies": "title", "description_copies": "description", "h1_copies": "h1"}


class Store:
    """Writes columns of one role."""

    def __init__(self, db: sqlite3.Connection, role: InventoryKind) -> None:
        self._db = db
        self.role = schema.ROLES.index(role)

    @property
    def ids(self) -> list[int]:
        """The ids of the addresses, which are the rows."""
        return [i for (i,) in self._db.execute("SELECT id FROM inventory WHERE role = ? ORDER BY id", (self.role,))]

    def _put(self, name: str, data: bytes) -> None:
        self._db.execute("INSERT OR REPLACE INTO column_values (role, name, data) VALUES (?, ?, ?)", (self.role, name, data))

    def figures(self, name: str, values: Any) -> None:
        """Write a column of figures."""
        self._put(name, pack_figures(values))

    def texts(self, name: str, values: Iterable[str | None]) -> None:
        """Write a column of texts."""
        self._put(name, pack_texts(values))


def write_stored(db: sqlite3.Connection, role: InventoryKind) -> None:
    """Write the columns that the tables of a run file hold already, and what follows from them."""
    store, columns = Store(db, role), COLUMNS[role]
    source = "FROM inventory v LEFT JOIN answer a ON a.address_id = v.id JOIN address d ON d.id = v.id"

    def read(expression: str) -> Iterator[Any]:
        sql = f"SELECT {expression} {source} WHERE v.role = {store.role} ORDER BY v.id"
        return (value for (value,) in db.execute(sql))

    store.figures("id", np.fromiter(read("v.id"), np.float64))
    stored = (*_STORED, *(_STORED_OF_PAGES if role == InventoryKind.PAGE else ()))
    for expression in (*(f"v.{name}" for name in stored), *(f"a.{name}" for name in _OF_ANSWER)):
        name = expression[2:]
        if name in columns:
            put = store.figures if columns[name].kind == ColumnKind.NUMBER else store.texts
            put(name, list(read(expression)))
    store.texts("state", (schema.STATES[state] for state in read("v.state")))
    store.texts("redirect_to", read("(SELECT url FROM address WHERE id = v.redirect_id)"))
    if "blocked_by" in columns:
        store.texts("blocked_by", read("d.rule"))
    if "found_by" in columns:
        store.texts("found_by", (", ".join(word for bit, word in _FOUND.items() if bit & found) for found in read("d.found_by")))
    _write_urls(store, columns, list(read("v.url")))
    _write_headers(store, columns, read("a.headers"))
    write_judged(db, role)
    if role == InventoryKind.PAGE:
        for name, of in _COPIES.items():
            store.figures(name, copies(list(read(f"v.{of}"))))


def write_judged(db: sqlite3.Connection, role: InventoryKind) -> None:
    """Write the columns that waivers change: health, and the findings of pages and of files."""
    store = Store(db, role)
    if role == InventoryKind.PAGE:
        rows = db.execute(f"SELECT {', '.join(_JUDGED)} FROM inventory WHERE role = {store.role} ORDER BY id").fetchall()
        for name, values in zip(_JUDGED, zip(*rows, strict=True) if rows else [()] * len(_JUDGED), strict=True):
            store.figures(name, values)
        store.figures("findings", [None if None in row[1:] else sum(row[1:]) for row in rows])
    elif role == InventoryKind.FILE:
        found = dict(
            db.execute("SELECT subject_id, count(*) FROM finding WHERE waived = 0 AND subject_id IS NOT NULL GROUP BY 1")
        )
        store.figures("findings", [found.get(i, 0) for i in store.ids])


def _write_urls(store: Store, columns: Container[str], urls: Sequence[str]) -> None:
    parts = [split(url) for url in urls]
    store.texts("url", urls)
    store.texts("host", (part.host for part in parts))
    if "folder" in columns:
        store.texts("folder", (part.path[: part.path.rfind("/") + 1] for part in parts))
    store.figures("levels", [len([level for level in part.path.split("/") if level]) for part in parts])
    store.figures("url_length", [len(url) for url in urls])
    store.figures("parameters", [len([each for each in part.query.split("&") if each]) for part in parts])
    store.figures("secure", [url.startswith("https:") for url in urls])


def _write_headers(store: Store, columns: Container[str], packed: Iterable[bytes | None]) -> None:
    texts: defaultdict[str, list[str]] = defaultdict(list)
    fresh: list[int | None] = []
    cookies: list[int | None] = []
    for blob in packed:
        answer = Answer(None, headers=tuple(map(tuple, unpack_small(blob)))) if blob else None
        for name, header in (("server", "server"), ("compression", "content-encoding"), ("cache_control", "cache-control")):
            texts[name].append(", ".join(answer.header_values(header)) if answer else "")
        texts["header_robots"].append(", ".join(answer.header_values("x-robots-tag")) if answer else "")
        texts["last_modified"].append(_day(answer.header("last-modified")) if answer else "")
        fresh.append(answer.fresh_s if answer else None)
        cookies.append(len(answer.header_values("set-cookie")) if answer else None)
    for name, values in texts.items():
        if name in columns:
            store.texts(name, values)
    for name, figures in (("fresh_s", fresh), ("cookies", cookies)):
        if name in columns:
            store.figures(name, figures)


@lru_cache(maxsize=10_000)
def _day(text: str) -> str:
    """The day of an HTTP date (RFC 9110, 5.6.7); empty for what is none."""
    try:
        return parsedate_to_datetime(text).date().isoformat() if text else ""
    except (ValueError, OverflowError):
        return ""


def copies(values: Sequence[str | None]) -> list[int | None]:
    """Of each value how many rows have it; nothing of rows that have none."""
    counts = Counter(value for value in values if value)
    return [counts[value] if value else None for value in values]
