"""Opening the register and bringing it up to date."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from functools import cache
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session, configure_mappers, sessionmaker

from hodcarrier.core.errors import Unavailable

# One for each thread that serves requests: to open one takes as long as to read the desk.
CONNECTIONS = 40
MAPPED_BYTES = 256 * 1024 * 1024


def open_register(path: Path) -> sessionmaker[Session]:
    """The register at ``path``, made or upgraded as needed. Raises :class:`Unavailable` when it cannot be."""
    from alembic.util.exc import CommandError  # workers never need it, and it takes a while to load

    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        engine = make_engine(path)
        now, head = _revisions(engine)
        if now != head:
            if now is not None:
                _keep_copy(path, head)
            upgrade(engine)
    except CommandError:
        raise Unavailable(
            f"The register {path} was written by a later release than this one.", "Start that release, or restore a backup."
        ) from None
    except (OSError, DatabaseError) as error:
        reason = getattr(error, "strerror", None) or str(getattr(error, "orig", error))
        raise Unavailable(
            f"The register {path} cannot be opened: {reason}.",
            "Check that the folder can be written to, or name another with --data.",
        ) from error
    return sessionmaker(engine, expire_on_commit=False)


def connect_register(path: Path) -> sessionmaker[Session]:
    """The register at ``path`` as it is, for a process that the service has started."""
    return sessionmaker(make_engine(path), expire_on_commit=False)


def settle_models() -> None:
    """Find out how the models hang together, which the first question would do otherwise."""
    configure_mappers()


class ChangeWatch:
    """Whether anybody has written to a register since the last look. A look takes microseconds, where a question takes a transaction."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._db: sqlite3.Connection | None = None
        self._seen = -1

    def has_changed(self) -> bool:
        """Look; the first time, and when nobody can tell, it has."""
        try:
            if self._db is None:
                self._db = sqlite3.connect(f"file:{self._path}?mode=ro", uri=True, check_same_thread=False)
            version = int(self._db.execute("PRAGMA data_version").fetchone()[0])
        except sqlite3.Error:
            return True
        changed, self._seen = version != self._seen, version
        return changed

    def close(self) -> None:
        """Look no more."""
        if self._db is not None:
            self._db.close()
            self._db = None


def make_engine(path: Path) -> Engine:
    """An engine with write-ahead logging and foreign keys on.

    A transaction takes the lock for writing when it begins, so that what it has read is still true when it writes; one with the
    execution option ``reads`` never does, and sees the register as it was when it began.
    """
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 30}, pool_size=CONNECTIONS, max_overflow=10)

    @event.listens_for(engine, "connect")
    def _prepare(connection: sqlite3.Connection, _record: Any) -> None:
        connection.execute("PRAGMA journal_mode=WAL")
        connection.execute("PRAGMA foreign_keys=ON")
        connection.execute("PRAGMA synchronous=NORMAL")
        connection.execute(f"PRAGMA mmap_size={MAPPED_BYTES}")
        # The driver would begin transactions by itself, before the first write only; SQLAlchemy says when.
        connection.isolation_level = None

    @event.listens_for(engine, "begin")
    def _begin(connection: Connection) -> None:
        connection.exec_driver_sql("BEGIN" if connection.get_execution_options().get("reads") else "BEGIN IMMEDIATE")

    return engine


def upgrade(engine: Engine) -> None:
    """Run the migrations that are missing, all of them or none: a start that is killed here is followed by one that does it again.

    Raises :class:`~alembic.util.CommandError` when the register is of a later release.
    """
    from alembic import command

    config = _config()
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def _config() -> Any:
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    return config


def _revisions(engine: Engine) -> tuple[str | None, str | None]:
    """Of which revision a register is, ``None`` where it is new, and of which it would be once upgraded."""
    from alembic.migration import MigrationContext

    with engine.connect().execution_options(reads=True) as connection:
        now = MigrationContext.configure(connection).get_current_revision()
    return now, _head()


@cache
def _head() -> str | None:
    from alembic.script import ScriptDirectory

    return ScriptDirectory.from_config(_config()).get_current_head()


def _keep_copy(path: Path, head: str | None) -> None:
    """Copy a register that is about to be upgraded beside it, with the revision that it will be of in its name."""
    copy = path.with_name(f"{path.stem}-before-{head}{path.suffix}")
    part = copy.with_suffix(".unfinished")
    copy_live(path, part)
    part.rename(copy)


def copy_live(source: Path, target: Path) -> None:
    """Copy a register that may be written meanwhile, as it is at one moment, to a file that is made anew."""
    target.unlink(missing_ok=True)
    with closing(sqlite3.connect(source, timeout=30)) as live, closing(sqlite3.connect(target)) as copy:
        live.backup(copy)
