"""Writing a run file while the crawl goes on: batches, each one transaction."""

from __future__ import annotations

import json
import sqlite3
import time
import zlib
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from hodcarrier.core.errors import DamagedRun
from hodcarrier.core.facts.answer import Answer
from hodcarrier.core.facts.files import FileFacts
from hodcarrier.core.facts.page import PageFacts
from hodcarrier.runfile import schema
from hodcarrier.runfile.packing import pack_facts, pack_ids, pack_links, pack_small, pack_source

LEAVE_WAL_TRIES = 20
# A page's row takes 2 to 3 KB: in pages of 4 KB, the usual size, half of the file would be empty.
PAGE_BYTES = 16_384


@dataclass(slots=True)
class Waiting:
    """An address that waits to be fetched."""

    id: int
    url: str
    role: int
    depth: int | None


class RunWriter:
    """The one writer of a run file.

    Changes gather until :meth:`commit`; what was not committed when the process dies was never there. ``ids`` maps
    every known URL to its address id, ``found`` the ids to how they were found.
    """

    VERSION = schema.VERSION

    def __init__(self, db: sqlite3.Connection) -> None:
        self.db = db
        self.ids: dict[str, int] = {}
        self.found: dict[int, int] = {}
        self._new: list[tuple[int, str, int, int, int | None, int, str]] = []
        self._flags: set[int] = set()
        self._states: dict[int, tuple[int, str]] = {}
        self._roles: dict[int, tuple[int, int | None]] = {}
        self._answers: list[tuple[Any, ...]] = []
        self._pages: list[tuple[Any, ...]] = []
        self._listed: list[tuple[int, int, str]] = []
        self._marks: dict[str, int] = {}
        self._new_marks: list[tuple[int, str]] = []
        self._page_marks: list[tuple[int, bytes]] = []
        self._fragments: list[tuple[int, bytes]] = []
        self._sources: list[tuple[int, bytes]] = []
        self._file_facts: list[tuple[int, bytes]] = []

    @classmethod
    def create(cls, path: Path | str, meta: dict[str, Any]) -> RunWriter:
        """Begin a new run file at ``path`` (or ``":memory:"``)."""
        db = _connect(path)
        # All or nothing: a file that is begun by half could not go on.
        versions = f"PRAGMA application_id={schema.APPLICATION_ID}; PRAGMA user_version={schema.VERSION};"
        db.executescript(f"BEGIN; {versions} {schema.FACTS}")
        writer = cls(db)
        for key, value in meta.items():
            writer.put_meta(key, value)
        db.commit()
        return writer

    @staticmethod
    def is_empty(path: Path) -> bool:
        """Whether a file holds nothing: it was begun, and its first transaction never ended."""
        db = sqlite3.connect(path)
        try:
            return not db.execute("SELECT 1 FROM sqlite_master LIMIT 1").fetchone()
        except sqlite3.DatabaseError:
            return False
        finally:
            db.close()

    @staticmethod
    def version_of(path: Path) -> int | None:
        """The version of a run file; ``None`` when it is none or cannot be read."""
        db = sqlite3.connect(path)
        try:
            application, version = (
                int(db.execute(f"PRAGMA {name}").fetchone()[0]) for name in ("application_id", "user_version")
            )
        except sqlite3.DatabaseError:
            return None
        finally:
            db.close()
        return version if application == schema.APPLICATION_ID else None

    @classmethod
    def resume(cls, path: Path) -> RunWriter:
        """Go on with an unfinished run file. Raises :class:`DamagedRun` if it is not one."""
        db = sqlite3.connect(path)
        try:
            _prepare(db)
            if db.execute("PRAGMA application_id").fetchone()[0] != schema.APPLICATION_ID:
                raise DamagedRun(f"{path.name} is not a run file.", "Start the run again.")
            version = db.execute("PRAGMA user_version").fetchone()[0]
            if version != schema.VERSION:
                raise DamagedRun(
                    f"{path.name} was begun by another release (version {version}).", "Start the run again; it cannot go on."
                )
            writer = cls(db)
            for row_id, url, found in db.execute("SELECT id, url, found_by FROM address"):
                writer.ids[url] = row_id
                writer.found[row_id] = found
            writer._marks = {name: number for number, name in db.execute("SELECT id, name FROM mark")}
        except DamagedRun:
            db.close()
            raise
        except sqlite3.DatabaseError as error:
            db.close()
            raise DamagedRun(f"{path.name} cannot be read: {error}.", "Start the run again.") from error
        return writer

    def put_meta(self, key: str, value: Any) -> None:
        """Set a meta value (stored as JSON) in the current transaction."""
        self.db.execute("INSERT OR REPLACE INTO meta VALUES (?, ?)", (key, json.dumps(value)))

    def meta(self, key: str, default: Any = None) -> Any:
        """A meta value."""
        row = self.db.execute("SELECT value FROM meta WHERE key = ?", (key,)).fetchone()
        return json.loads(row[0]) if row else default

    def know(
        self, url: str, role: str, found_by: int, depth: int | None = None, state: int = schema.QUEUED, rule: str = ""
    ) -> tuple[int, bool]:
        """The id of an address and whether it is new to the run."""
        known = self.ids.get(url)
        if known is not None:
            if self.found[known] | found_by != self.found[known]:
                self.found[known] |= found_by
                self._flags.add(known)
            return known, False
        new = len(self.ids) + 1
        self.ids[url] = new
        self.found[new] = found_by
        self._new.append((new, url, schema.ROLES.index(role), state, depth, found_by, rule))
        return new, True

    def mark_linked(self, address_id: int) -> None:
        """Note that a link leads to an address that is known already."""
        self.found[address_id] |= schema.FOUND_LINK
        self._flags.add(address_id)

    def set_state(self, address_id: int, state: int, rule: str = "") -> None:
        """Change the state of an address at the next commit."""
        self._states[address_id] = (state, rule)

    def set_role(self, address_id: int, role: int, depth: int | None) -> None:
        """Change the role of an address, which waits to be fetched in it, at the next commit."""
        self._roles[address_id] = (role, depth)
        self.set_state(address_id, schema.QUEUED)

    def add_answer(
        self,
        address_id: int,
        answer: Answer,
        redirect_id: int | None,
        fetched_at: str,
        facts: PageFacts | None,
        rule: str = "",
        source: bytes = b"",
    ) -> None:
        """Record the outcome of a fetch, with the facts and the source when it brought an HTML document. ``rule`` is a robots.txt rule that
        the plan says not to obey."""
        self.set_state(address_id, schema.DONE, rule)
        self._answers.append(
            (
                address_id,
                answer.status,
                answer.failure,
                answer.detail[:500],
                answer.content_type,
                answer.http_version,
                answer.wire_bytes,
                answer.decoded_bytes,
                None if answer.first_byte_ms is None else round(answer.first_byte_ms, 2),
                round(answer.total_ms, 2),
                redirect_id,
                fetched_at,
                pack_small(answer.headers),
                answer.remote,
            )
        )
        if facts is not None:
            self._sources.append((address_id, pack_source(source)))
            robots = ", ".join(sorted(facts.head.directives()))
            self._pages.append(
                (
                    address_id,
                    facts.head.title,
                    facts.head.description,
                    facts.text.h1,
                    facts.head.canonical,
                    robots,
                    facts.language.lang,
                    facts.text.words,
                    facts.text.text_hash,
                    facts.template.key,
                    pack_facts(facts),
                    pack_links(facts.links.all, self.ids.__getitem__),
                )
            )

            self._page_marks.append((address_id, pack_ids(sorted(map(self._mark_id, facts.template.marks)))))
            if facts.markup.fragments:
                self._fragments.append((address_id, facts.markup.fragments))

    def add_file_facts(self, address_id: int, facts: FileFacts) -> None:
        """Record what was read of a file."""
        self._file_facts.append((address_id, pack_small(facts)))

    def _mark_id(self, name: str) -> int:
        """The number of a mark of templates in this run."""
        number = self._marks.get(name)
        if number is None:
            number = self._marks[name] = len(self._marks) + 1
            self._new_marks.append((number, name))
        return number

    def add_site_file(self, kind: str, url: str, found: str, answer: Answer, hops: int, body: bytes) -> int:
        """Record robots.txt or a sitemap; returns its id."""
        row = (kind, url, found, answer.status, answer.failure, answer.content_type, hops, zlib.compress(body, 6))
        cursor = self.db.execute(
            "INSERT INTO site_file (kind, url, found, status, failure, content_type, hops, body) VALUES (?,?,?,?,?,?,?,?)", row
        )
        return int(cursor.lastrowid or 0)

    def forget_site_files(self) -> None:
        """Give up what a preparation that was broken off has read: it is made anew."""
        self.db.execute("DELETE FROM listed")
        self.db.execute("DELETE FROM site_file")
        self.db.execute("DELETE FROM meta WHERE key IN ('sitemaps', 'sitemaps_cut')")

    def add_probe(self, name: str, facts: dict[str, Any] | None) -> None:
        """Record what a probe learnt (stored as JSON; ``None``: it does not apply) in the current transaction."""
        self.db.execute("INSERT OR REPLACE INTO probe VALUES (?, ?)", (name, json.dumps(facts)))

    def add_listed(self, address_id: int, sitemap_id: int, lastmod: str) -> None:
        """Record that a sitemap lists an address."""
        self._listed.append((address_id, sitemap_id, lastmod[:40]))

    @property
    def pending(self) -> int:
        """Fetch outcomes that wait for the next commit."""
        return len(self._answers)

    def commit(self) -> None:
        """Write everything gathered since the last commit in one transaction."""
        db = self.db
        db.executemany("INSERT INTO address VALUES (?,?,?,?,?,?,?)", self._new)
        db.executemany("UPDATE address SET found_by = ? WHERE id = ?", [(self.found[i], i) for i in self._flags])
        db.executemany(
            "UPDATE address SET state = ?, rule = ? WHERE id = ?", [(state, rule, i) for i, (state, rule) in self._states.items()]
        )
        if self._roles:
            changed = [(role, depth, i) for i, (role, depth) in self._roles.items()]
            db.executemany("UPDATE address SET role = ?, depth = ? WHERE id = ?", changed)
            self._roles.clear()
        db.executemany("INSERT OR REPLACE INTO answer VALUES (?,?,?,?,?,?,?,?,?,?,?,?,?,?)", self._answers)
        db.executemany("INSERT INTO page VALUES (?,?,?,?,?,?,?,?,?,?,?,?)", self._pages)
        db.executemany("INSERT INTO mark VALUES (?,?)", self._new_marks)
        db.executemany("INSERT INTO page_mark VALUES (?,?)", self._page_marks)
        db.executemany("INSERT INTO page_fragment VALUES (?,?)", self._fragments)
        db.executemany("INSERT INTO page_source VALUES (?,?)", self._sources)
        db.executemany("INSERT OR REPLACE INTO file_fact VALUES (?,?)", self._file_facts)
        db.executemany("INSERT INTO listed VALUES (?,?,?)", self._listed)
        db.commit()
        for gathered in (self._new, self._answers, self._pages, self._listed, self._new_marks, self._page_marks):
            gathered.clear()
        self._fragments.clear()
        self._sources.clear()
        self._file_facts.clear()
        self._flags.clear()
        self._states.clear()

    def waiting(self) -> list[Waiting]:
        """Addresses still queued, nearest to the start first."""
        rows = self.db.execute("SELECT id, url, role, depth FROM address WHERE state = 0 ORDER BY role, depth IS NULL, depth, id")
        return [Waiting(*row) for row in rows]

    def counts(self) -> dict[str, int]:
        """Committed addresses by state and role, such as ``page-done``."""
        rows = self.db.execute("SELECT role, state, count(*) FROM address GROUP BY role, state")
        return {f"{schema.ROLES[role]}-{schema.STATES[state]}": count for role, state, count in rows}

    def finish(self) -> None:
        """Build the indexes and leave one plain file behind."""
        self.db.executescript(schema.INDEXES)
        self.db.commit()
        self._leave_wal()

    def _leave_wal(self) -> None:
        """Back to one plain file. SQLite refuses this at once, without waiting, while anybody reads the file."""
        for attempt in range(LEAVE_WAL_TRIES):
            try:
                self.db.execute("PRAGMA journal_mode=DELETE")
                return
            except sqlite3.OperationalError:
                if attempt == LEAVE_WAL_TRIES - 1:
                    raise
                time.sleep(0.05 * (attempt + 1))

    def close(self) -> None:
        """Close the file."""
        self.db.close()


def _connect(path: Path | str) -> sqlite3.Connection:
    db = sqlite3.connect(path)
    _prepare(db)
    return db


def _prepare(db: sqlite3.Connection) -> None:
    db.execute(f"PRAGMA page_size={PAGE_BYTES}")  # of a new file; only before the mode is set
    db.execute("PRAGMA journal_mode=WAL")
    db.execute("PRAGMA synchronous=NORMAL")
    db.execute("PRAGMA cache_size=-16000")
