"""What every use case works on: the register, the stores of run files and of figures, the vault and a clock."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from typing import Any, TypeVar

from sqlalchemy import ColumnElement, Row, select
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session, sessionmaker

from hodcarrier.core.errors import Conflict, DamagedRun, InvalidInput, NotFound
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.states import IN_LINE, FileState, RunPurpose, SiteKind
from hodcarrier.figurefile.store import FigureStore
from hodcarrier.register.models import EXAMINED, Base, LogEntry, Run, Site
from hodcarrier.register.vault import Vault
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.store import RunStore

# A row of columns that were named one by one.
AnyRow = Row[*tuple[Any, ...]]
Record = TypeVar("Record", bound=Base)


@dataclass(frozen=True)
class Workspace:
    """The surroundings of a use case. ``compare`` compares two runs by their ids and keeps what comes of it in the store; ``revise`` lets waivers
    cover findings of a run, and says whether anything differs; ``address`` is where the console answers, for links in mails; ``surroundings`` are settings of plans that every new site
    begins with, where the service runs beside the sites it audits."""

    register: sessionmaker[Session]
    store: RunStore
    figures: FigureStore
    vault: Vault
    now: Callable[[], datetime]
    compare: Callable[[str, str], None]
    revise: Callable[[str, Sequence[Waiver]], bool]
    address: str = ""
    surroundings: Mapping[str, Any] = field(default_factory=dict)

    @contextmanager
    def session(self) -> Iterator[Session]:
        """One transaction that may write: committed at the end, rolled back when anything is raised."""
        with self.register.begin() as session:
            yield session

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """One transaction that only reads, and so never waits for those that write."""
        with self.register() as session:
            session.connection(execution_options={"reads": True})
            yield session

    def open_run(self, run_id: str) -> RunFile:
        """The file of a finished run. Raises :class:`DamagedRun`, or :class:`NotFound` when the rule of retention has removed it."""
        self.check_file(run_id)
        return self.store.open(run_id)

    def check_file(self, run_id: str) -> None:
        """Raise what :meth:`open_run` raises when there is no file of a run any more."""
        if not self.store.has(run_id):
            with self.reading() as session:
                run = session.get(Run, run_id)
                state = run.file if run else FileState.KEPT
            if state == FileState.REMOVED:
                raise NotFound(
                    "The pages and findings of this run were removed, as the rule of retention says. Its figures are kept.",
                    "Choose a later run.",
                )
            if state == FileState.DAMAGED:
                raise DamagedRun(
                    "The file of this run was damaged and is set aside. Its figures are kept.",
                    "Restore the file from a backup and run `hodcarrier doctor --repair`, or run the audit again.",
                )


def fetch(session: Session, kind: type[Record], key: int | str, noun: str) -> Record:
    """A record by its id. Raises :class:`NotFound` in words."""
    found = session.get(kind, key)
    if found is None:
        raise NotFound(f"There is no {noun} {key}.", f"List them with `hodcarrier {noun} list`.")
    return found


@contextmanager
def unless_taken(session: Session, message: str, hint: str) -> Iterator[None]:
    """Write something that must be unique. Raises :class:`Conflict` with the message when the database says that it is not.

    The constraint decides, not a look beforehand: two people may do this at the same moment.
    """
    try:
        with session.begin_nested():
            yield
            session.flush()
    except IntegrityError:
        raise Conflict(message, hint) from None


def log(session: Session, now: datetime, member_id: int | None, action: str, subject: str) -> None:
    """Write a line into the log of changes."""
    session.add(LogEntry(at=now, member_id=member_id, action=action, subject=subject[:300]))


def fetched_of(site: Site) -> ColumnElement[bool]:
    """Which runs are a site's own line: audits of a client's site, for a competitor those of benchmarks too; never those that look at one moment once more."""
    return Run.purpose == RunPurpose.AUDIT if site.kind == SiteKind.OWN else Run.purpose.in_(IN_LINE)


def latest_run(session: Session, site: Site) -> Run | None:
    """The latest examined run of a site: an audit, or for a competitor one of a benchmark."""
    return session.scalar(
        select(Run).where(Run.site_id == site.id, EXAMINED, fetched_of(site)).order_by(Run.sequence.desc()).limit(1)
    )


def run_id_on(session: Session, site_id: int, day: str) -> str:
    """The id of the latest examined run of a site that was asked for on a day or before. Raises :class:`NotFound`, and :class:`InvalidInput` for
    what is no day."""
    try:
        ends = datetime.combine(date.fromisoformat(day), time(), UTC) + timedelta(days=1)
    except (ValueError, OverflowError):
        raise InvalidInput(f"“{day}” is not a day.", "Give it as YYYY-MM-DD.", "run_id") from None
    site = fetch(session, Site, site_id, "site")
    chosen = select(Run.id).where(Run.site_id == site_id, EXAMINED, fetched_of(site), Run.requested_at < ends)
    found = session.scalar(chosen.order_by(Run.sequence.desc()).limit(1))
    if found is None:
        raise NotFound(f"{site.host} had no finished run by {day}.", "Choose a later day.")
    return found


def latest_run_id(session: Session, site_id: int) -> str:
    """The id of the latest examined run of a site. Raises :class:`NotFound` when there is none."""
    site = fetch(session, Site, site_id, "site")
    found = latest_run(session, site)
    if found is None:
        raise NotFound(f"{site.host} has no finished run yet.", "Start one with `hodcarrier run start SITE`.")
    return found.id
