"""Opening the register and bringing it up to date."""

from __future__ import annotations

import sqlite3
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.exc import DatabaseError
from sqlalchemy.orm import Session, sessionmaker

from hodcarrier.core.errors import Unavailable


def open_register(path: Path) -> sessionmaker[Session]:
    """The register at ``path``, made or upgraded as needed. Raises :class:`Unavailable` when it cannot be."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        engine = make_engine(path)
        upgrade(engine)
    except (OSError, DatabaseError) as error:
        reason = getattr(error, "strerror", None) or str(getattr(error, "orig", error))
        raise Unavailable(
            f"The register {path} cannot be opened: {reason}.",
            "Check that the folder can be written to, or name another with --data.",
        ) from error
    return sessionmaker(engine, expire_on_commit=False)


def make_engine(path: Path) -> Engine:
    """An engine with write-ahead logging and foreign keys on."""
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 30})

    @event.listens_for(engine, "connect")
    def _prepare(connection: sqlite3.Connection, _record: Any) -> None:
        connection.execute("PRAGMA journal_mode=WAL")
        connection.execute("PRAGMA foreign_keys=ON")
        connection.execute("PRAGMA synchronous=NORMAL")

    return engine


def upgrade(engine: Engine) -> None:
    """Run the migrations that are missing."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
