"""Reading a run file: the facts side. What checks found is read by :mod:`hodcarrier.runfile.results`."""

from __future__ import annotations

import json
import sqlite3
import ssl
import zlib
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import msgspec

from hodcarrier.core.errors import DamagedRun, InvalidUrl, NotFound
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.core.facts.probes import ProbeFacts
from hodcarrier.core.facts.site_files import RobotsFile, SitemapFile
from hodcarrier.core.facts.values import Link
from hodcarrier.core.plan import Plan, read_stored_plan
from hodcarrier.core.web.robots import parse
from hodcarrier.core.web.sitemaps import Sitemap, read
from hodcarrier.core.web.urls import normalize, split
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import link_edges, unpack_facts, unpack_links, unpack_small, unpack_source
from hodcarrier.runfile.versions import LIFTS

CACHE_KB = 16_000


class RunFile:
    """A run file opened for reading. Use it as a context manager."""

    def __init__(self, db: sqlite3.Connection, name: str = "") -> None:
        self.db = db
        self.name = name

    @classmethod
    def open(cls, path: Path) -> RunFile:
        """Open a finished run file. Raises :class:`DamagedRun` when it is missing, unfinished or no run file."""
        hint = "Give the path of a file that a run has saved (it ends in .sqlite)."
        if not path.is_file():
            raise DamagedRun(f"There is no run file at {path}.", hint)
        db = sqlite3.connect(f"file:{_quote(path)}?mode=ro", uri=True, check_same_thread=False)
        try:
            db.execute(f"PRAGMA cache_size=-{CACHE_KB}")
            application = db.execute("PRAGMA application_id").fetchone()[0]
            version = db.execute("PRAGMA user_version").fetchone()[0]
            if application != schema.APPLICATION_ID:
                raise DamagedRun(f"{path.name} is not a run file.", hint)
            if version != schema.VERSION and version not in LIFTS:
                newer = version > schema.VERSION
                raise DamagedRun(
                    f"{path.name} is of version {version}; this release reads versions {min(LIFTS)} to {schema.VERSION}.",
                    "Use a newer release." if newer else "It was written before the first release; run the audit again.",
                )
            run = cls(db, path.name)
            if run.meta("summary") is None:
                raise DamagedRun(
                    f"{path.name} is the file of a run that was not finished.", "Wait for the run, or start it again."
                )
            if version in LIFTS:
                LIFTS[version](db)
        except DamagedRun:
            db.close()
            raise
        except sqlite3.DatabaseError as error:
            db.close()
            raise DamagedRun(f"{path.name} is damaged: {error}.", "Restore it from a backup or run the audit again.") from error
        return run

    def again(self) -> RunFile:
        """The same file, opened once more."""
        return RunFile.open(Path(self.rows("PRAGMA database_list")[0][2]))

    @property
    def is_current(self) -> bool:
        """Whether it has all the facts that the checks of this release need."""
        return bool(self.rows("PRAGMA user_version")[0][0] >= schema.FACTS_VERSION)

    @property
    def has_columns(self) -> bool:
        """Whether it keeps the columns of its inventory."""
        return bool(self.rows("PRAGMA user_version")[0][0] >= schema.COLUMNS_VERSION)

    def check_whole(self) -> None:
        """Read every page of the file once. Raises :class:`DamagedRun` when one cannot be read or does not fit the others."""
        said = self.rows("PRAGMA quick_check(1)")[0][0]
        if said != "ok":
            raise DamagedRun(f"{self.name} is damaged: {said}.", "Restore it from a backup or run the audit again.")

    def __enter__(self) -> RunFile:
        return self

    def __exit__(self, *_: object) -> None:
        self.db.close()

    def rows(self, sql: str, *values: Any) -> list[tuple[Any, ...]]:
        """All rows of a query. Raises :class:`DamagedRun` when the file's pages cannot be read."""
        try:
            return self.db.execute(sql, values).fetchall()
        except sqlite3.DatabaseError as error:
            raise DamagedRun(f"{self.name} is damaged: {error}.", "Restore it from a backup or run the audit again.") from error

    def each(self, sql: str, *values: Any) -> Iterator[tuple[Any, ...]]:
        """The rows of a query one by one, for what is too much at once. Raises :class:`DamagedRun` like :meth:`rows`."""
        try:
            yield from self.db.execute(sql, values)
        except sqlite3.DatabaseError as error:
            raise DamagedRun(f"{self.name} is damaged: {error}.", "Restore it from a backup or run the audit again.") from error

    def meta(self, key: str, default: Any = None) -> Any:
        """A meta value."""
        found = self.rows("SELECT value FROM meta WHERE key = ?", key)
        return json.loads(found[0][0]) if found else default

    @property
    def plan(self) -> Plan:
        """The plan the run used."""
        return read_stored_plan(self.meta("plan"))

    def url(self, address_id: int) -> str:
        """The URL of an address."""
        return str(self.rows("SELECT url FROM address WHERE id = ?", address_id)[0][0])

    def address_id(self, url: str) -> int | None:
        """The id of a URL, or ``None`` when the run does not know it."""
        found = self.rows("SELECT id FROM address WHERE url = ?", url)
        return int(found[0][0]) if found else None

    def known_id(self, url: str) -> int:
        """The id of a URL. Raises :class:`NotFound` when the run does not know it."""
        address = self.address_id(url)
        if address is None:
            raise NotFound(f"This run does not know {url}.", "Look for it in the inventory, or in another run.")
        return address

    def answer(self, address_id: int) -> Answer | None:
        """The recorded outcome of a fetch."""
        found = self.rows(f"SELECT {ANSWER_COLUMNS} FROM answer WHERE address_id = ?", address_id)
        return make_answer(found[0]) if found else None

    def facts(self, address_id: int) -> PageFacts | None:
        """The facts of a page, with its links."""
        found = self.rows("SELECT facts, links FROM page WHERE address_id = ?", address_id)
        if not found:
            return None
        return unpack_facts(found[0][0], self.links(found[0][1]))

    def source(self, address_id: int) -> bytes | None:
        """The source of a document as it was sent; ``None`` where it was not kept."""
        found = self.rows("SELECT body FROM page_source WHERE address_id = ?", address_id)
        return unpack_source(found[0][0]) if found else None

    def links(self, blob: bytes) -> tuple[Link, ...]:
        """Links from their blob, with the targets' URLs looked up together."""
        ids = set(link_edges(blob)[0])
        if not ids:
            return ()
        marks = ",".join(str(i) for i in ids)
        urls = dict(self.rows(f"SELECT id, url FROM address WHERE id IN ({marks})"))
        return unpack_links(blob, urls.__getitem__)

    def robots_file(self) -> RobotsFile:
        """robots.txt of the start host."""
        found = self.rows(
            "SELECT url, status, failure, content_type, hops, body FROM site_file WHERE kind = 'robots' ORDER BY id LIMIT 1"
        )
        if not found:
            return RobotsFile("", None, "connect", "", 0, parse(b""))
        url, status, failure, content_type, hops, body = found[0]
        text = zlib.decompress(body)
        usable = status is not None and 200 <= status < 300
        return RobotsFile(url, status, failure, content_type, hops, parse(text if usable else b""))

    def certificate_ends(self, start_url: str) -> datetime | None:
        """Until when the certificate holds that the host of a URL has shown; ``None`` where none was seen."""
        ends = (self.meta("certificates") or {}).get(split(start_url).origin)
        return datetime.fromtimestamp(ssl.cert_time_to_seconds(ends), UTC) if ends else None

    def probes(self) -> ProbeFacts:
        """What the run's probes learnt."""
        found = {name: json.loads(facts) for name, facts in self.rows("SELECT name, facts FROM probe")}
        return msgspec.convert(found, ProbeFacts)

    def sitemap_files(self) -> tuple[SitemapFile, ...]:
        """Every sitemap that was asked for, without its entries, which are only counted: those that lead somewhere are in ``listed``."""
        noted = self.meta("sitemaps", {})
        sql = "SELECT id, url, found, status, failure FROM site_file WHERE kind = 'sitemap' ORDER BY id"
        return tuple(
            SitemapFile(url, how, status, failure, *self._sitemap(row, noted.get(str(row))))
            for row, url, how, status, failure in self.rows(sql)
        )

    def sitemap_alternates(self) -> Iterator[tuple[str, str, str]]:
        """The versions in other languages that sitemaps name: a listed URL, a code as written, and the URL of the version."""
        noted = self.meta("sitemaps", {})
        rows = [int(row) for row, found in noted.items() if found.get("alternates")]
        for row in rows:
            url, body = self.rows("SELECT url, body FROM site_file WHERE id = ?", row)[0]
            for entry in read(zlib.decompress(body)).entries:
                for code, href in entry.alternates:
                    with suppress(InvalidUrl):
                        yield normalize(entry.loc, url), code, normalize(href, url)

    def _sitemap(self, row: int, noted: dict[str, Any] | None) -> tuple[Sitemap, int]:
        """What the crawl noted of a sitemap, and how many entries it has; of an older file, read once more."""
        if noted is not None and "entries" in noted:
            return Sitemap(noted["kind"], (), tuple(noted["problems"]), noted["size_bytes"]), noted["entries"]
        body = self.rows("SELECT body FROM site_file WHERE id = ?", row)[0][0]
        found = read(zlib.decompress(body))
        return replace(found, entries=()), len(found.entries)


ANSWER_COLUMNS = (
    "status, failure, detail, content_type, headers, http_version, wire_bytes, decoded_bytes, first_byte_ms, total_ms, remote"
)


def make_answer(row: tuple[Any, ...]) -> Answer:
    """An :class:`Answer` from a row of :data:`ANSWER_COLUMNS`."""
    status, failure, detail, content_type, headers, *rest = row
    return Answer(status, failure, detail, content_type, tuple((k, v) for k, v in unpack_small(headers)), *rest)


def _quote(path: Path) -> str:
    return str(path.resolve()).replace("%", "%25").replace("?", "%3f").replace("#", "%23")
