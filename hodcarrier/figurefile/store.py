"""Where files of figures are kept, one for each site. Only this module builds their paths."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from pathlib import Path

from hodcarrier.core.errors import Unavailable
from hodcarrier.figurefile.schema import APPLICATION_ID, VERSION, statements

_WAIT_S = 60
_CACHE_KIB = 64 * 1024


@dataclass(frozen=True)
class FigureStore:
    """The files of figures in one folder of this machine, and the tables that wait for being imported."""

    folder: Path

    def path(self, site_id: int) -> Path:
        """Where the figures of a site are, or would be."""
        return self.folder / f"{site_id}.sqlite"

    def table_path(self, file_id: int) -> Path:
        """Where a table waits, or would."""
        return self.folder / "waiting" / str(file_id)

    def sites(self) -> list[int]:
        """The sites that have figures."""
        return sorted(int(path.stem) for path in self.folder.glob("*.sqlite") if path.stem.isdecimal())

    def waiting(self) -> list[int]:
        """The tables that wait."""
        return sorted(int(path.name) for path in (self.folder / "waiting").glob("*") if path.name.isdecimal())

    @contextmanager
    def read(self, site_id: int) -> Iterator[sqlite3.Connection | None]:
        """The figures of a site as they are at one moment; ``None`` where there are none. Raises :class:`Unavailable` for a file that is none of ours."""
        path = self.path(site_id)
        if not path.is_file():
            yield None
            return
        with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True, timeout=_WAIT_S, isolation_level=None)) as db:
            db.execute("BEGIN")
            yield db if _is_begun(db, path) else None

    @contextmanager
    def write(self, site_id: int) -> Iterator[sqlite3.Connection]:
        """The figures of a site, to be added to: all that is done or, when anything is raised, nothing of it. One writes at a time; who reads meanwhile is
        not disturbed. Raises :class:`Unavailable`."""
        path = self.path(site_id)
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
            with closing(sqlite3.connect(path, timeout=_WAIT_S, isolation_level=None)) as db:
                db.execute("PRAGMA journal_mode=WAL")
                db.execute("PRAGMA synchronous=NORMAL")
                db.execute(f"PRAGMA cache_size=-{_CACHE_KIB}")
                db.execute("PRAGMA temp_store=FILE")
                db.execute("BEGIN IMMEDIATE")
                if not _is_begun(db, path):
                    for statement in statements().split(";\n"):
                        db.execute(statement)
                yield db
                db.execute("COMMIT")
        except (sqlite3.DatabaseError, OSError) as error:
            reason = getattr(error, "strerror", None) or str(error)
            raise Unavailable(f"The figures cannot be written: {reason}.", "Make room, or try again in a minute.") from error

    def remove(self, site_id: int) -> None:
        """Remove all figures of a site."""
        for end in ("", "-wal", "-shm"):
            path = self.path(site_id)
            path.with_name(path.name + end).unlink(missing_ok=True)


def _is_begun(db: sqlite3.Connection, path: Path) -> bool:
    """Whether a file has anything in it: where the first import broke off, there is one without. Raises :class:`Unavailable` for a file that is none of ours."""
    try:
        found = (db.execute("PRAGMA application_id").fetchone()[0], db.execute("PRAGMA user_version").fetchone()[0])
        tables = db.execute("SELECT count(*) FROM sqlite_master").fetchone()[0]
    except sqlite3.DatabaseError:
        raise Unavailable(f"{path.name} in the folder of figures is damaged.", "Restore it from a backup.") from None
    if found == (0, 0) and not tables:
        return False
    if found[0] != APPLICATION_ID:
        raise Unavailable(f"{path.name} in the folder of figures is no file of figures.", "Restore it from a backup.")
    if found[1] > VERSION:
        raise Unavailable(
            f"{path.name} was written by a later release than this one.", "Start that release, or restore a backup."
        )
    return True
