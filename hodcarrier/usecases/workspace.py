"""What every use case works on: the register, the folder of run files, a clock and a mailer."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Protocol, TypeVar

from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker

from hodcarrier.core.errors import NotFound
from hodcarrier.register.models import Base, LogEntry, Run, Site
from hodcarrier.register.vault import Vault
from hodcarrier.runfile.reader import RunFile

Record = TypeVar("Record", bound=Base)


class Mailer(Protocol):
    """Sends one mail. Raises :class:`OSError` when it cannot."""

    def send(self, to: str, subject: str, text: str) -> None:
        """Send a plain-text mail."""
        ...


@dataclass(frozen=True)
class Workspace:
    """The surroundings of a use case. ``address`` is where the console answers, for links in mails."""

    register: sessionmaker[Session]
    folder: Path
    now: Callable[[], datetime]
    mailer: Mailer
    address: str = ""

    @contextmanager
    def session(self) -> Iterator[Session]:
        """One transaction: committed at the end, rolled back when anything is raised."""
        with self.register.begin() as session:
            yield session

    @property
    def vault(self) -> Vault:
        """Seals secrets; its key lies beside the register."""
        return Vault(self.folder.parent / "access.key")

    def run_path(self, run_id: str) -> Path:
        """Where the file of a finished run is."""
        return self.folder / f"{run_id}.sqlite"

    def open_run(self, run_id: str) -> RunFile:
        """The file of a finished run. Raises :class:`~hodcarrier.core.errors.DamagedRun`."""
        return RunFile.open(self.run_path(run_id))


def fetch(session: Session, kind: type[Record], key: int | str, noun: str) -> Record:
    """A record by its id. Raises :class:`NotFound` in words."""
    found = session.get(kind, key)
    if found is None:
        raise NotFound(f"There is no {noun} {key}.", f"List them with `hodcarrier {noun} list`.")
    return found


def log(session: Session, now: datetime, member_id: int | None, action: str, subject: str) -> None:
    """Write a line into the log of changes."""
    session.add(LogEntry(at=now, member_id=member_id, action=action, subject=subject[:300]))


def latest_run(session: Session, site: Site) -> Run | None:
    """The latest done run of a site: an audit, or for a competitor one of a benchmark."""
    chosen = select(Run).where(Run.site_id == site.id, Run.state == "done").order_by(Run.requested_at.desc()).limit(1)
    if site.kind == "own":
        chosen = chosen.where(Run.purpose == "audit")
    return session.scalar(chosen)


def latest_run_id(session: Session, site_id: int) -> str:
    """The id of the latest done run of a site. Raises :class:`NotFound` when there is none."""
    site = fetch(session, Site, site_id, "site")
    found = latest_run(session, site)
    if found is None:
        raise NotFound(f"{site.host} has no finished run yet.", "Start one with `hodcarrier run start SITE`.")
    return found.id
