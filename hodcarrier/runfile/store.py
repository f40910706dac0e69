"""Where run files are kept. Everything that needs one asks a :class:`RunStore`; only its implementations build paths."""

from __future__ import annotations

import fcntl
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any, Protocol

from hodcarrier.core.errors import DamagedRun, Unavailable
from hodcarrier.core.plan import Plan, plan_values
from hodcarrier.runfile.compared import ComparedRuns
from hodcarrier.runfile.compared_writer import write_comparison
from hodcarrier.runfile.moved import are_elsewhere, moved
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.writer import RunWriter


@dataclass
class Revision:
    """A copy of a whole run file that may be written into. ``wanted``: it shall take the file's place."""

    db: sqlite3.Connection
    wanted: bool = False


class RunStore(Protocol):
    """Keeps the files of runs by their ids. A file is a *part* while it is written, and whole once it is sealed."""

    def __hash__(self) -> int:
        """Stores are values: two of one place are alike."""
        ...

    def open(self, run_id: str) -> RunFile:
        """A whole file, for reading. Raises :class:`~hodcarrier.core.errors.DamagedRun`."""
        ...

    def has(self, run_id: str) -> bool:
        """Whether there is a whole file."""
        ...

    def has_part(self, run_id: str) -> bool:
        """Whether there is a part that a run can go on with."""
        ...

    def begin(self, run_id: str, plan: Plan, meta: dict[str, Any]) -> RunWriter:
        """The part of a run, begun or gone on with."""
        ...

    def begin_again(self, run_id: str, source_id: str, plan: Plan) -> RunWriter:
        """The part of a run with the facts of another one, to be judged by ``plan``."""
        ...

    def seal(self, run_id: str) -> None:
        """Make a finished part whole."""
        ...

    def open_comparison(self, base_id: str, head_id: str, base: RunFile, head: RunFile) -> ComparedRuns | None:
        """The comparison of two runs, whose files are open, for reading; ``None`` when none is kept that is up to date."""
        ...

    def keep_comparison(self, base_id: str, head_id: str, base: RunFile, head: RunFile) -> None:
        """Compare two runs and keep what comes of it."""
        ...

    @contextmanager
    def revise(self, run_id: str) -> Iterator[Revision]:
        """A copy of a whole file to write into, which takes its place at the end if it is wanted; who reads the file meanwhile reads on in the old one."""
        ...

    def drop_part(self, run_id: str) -> None:
        """Remove the part of a run, and what belongs to it."""
        ...

    def remove(self, run_id: str) -> None:
        """Remove everything that is kept of a run."""
        ...

    def set_aside(self, run_id: str) -> None:
        """Put a damaged whole file out of the way, where nothing reads it."""
        ...

    def size_bytes(self, run_id: str) -> int:
        """The size of a whole file; 0 when there is none."""
        ...

    def whole_path(self, run_id: str) -> Path:
        """A local path with the content of a whole file, to be sent to somebody."""
        ...

    @contextmanager
    def hold(self, run_id: str) -> Iterator[bool]:
        """Be the only one who writes a run's part; yields whether nobody else does already."""
        ...


@dataclass(frozen=True)
class LocalRunStore:
    """Run files in one folder of this machine."""

    folder: Path

    def make(self) -> LocalRunStore:
        """Make the folder if it is not there. Raises :class:`Unavailable`."""
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise Unavailable(f"{self.folder} cannot be made: {error.strerror}.", "Name another folder with --data.") from None
        return self

    def whole_path(self, run_id: str) -> Path:
        """Where the whole file is."""
        return self.folder / f"{run_id}.sqlite"

    def _part_path(self, run_id: str) -> Path:
        return self.folder / f"{run_id}.part"

    def open(self, run_id: str) -> RunFile:
        """A whole file, for reading. Raises :class:`~hodcarrier.core.errors.DamagedRun`."""
        if not self.has(run_id):
            raise DamagedRun(f"The file of run {run_id} is not there.", "Restore it from a backup, or run the audit again.")
        return RunFile.open(self.whole_path(run_id))

    def has(self, run_id: str) -> bool:
        """Whether there is a whole file."""
        return self.whole_path(run_id).is_file()

    def has_part(self, run_id: str) -> bool:
        """Whether there is a part that a run can go on with."""
        return self._part_path(run_id).is_file()

    def begin(self, run_id: str, plan: Plan, meta: dict[str, Any]) -> RunWriter:
        """The part of a run, begun or gone on with."""
        return open_part(self._part_path(run_id), plan, {"run_id": run_id, **meta})

    def begin_again(self, run_id: str, source_id: str, plan: Plan) -> RunWriter:
        """The part of a run with the facts of another one, to be judged by ``plan``. Raises :class:`~hodcarrier.core.errors.DamagedRun`."""
        self.drop_leftovers(run_id)
        with self.open(source_id):  # it is there, and a run file
            shutil.copyfile(self.whole_path(source_id), self._part_path(run_id))
        writer = RunWriter.resume(self._part_path(run_id))
        for key, value in {"run_id": run_id, "source_id": source_id, "plan": plan_values(plan)}.items():
            writer.put_meta(key, value)
        writer.db.commit()
        return writer

    def seal(self, run_id: str) -> None:
        """Make a finished part whole."""
        self._part_path(run_id).rename(self.whole_path(run_id))

    def _compared_path(self, base_id: str, head_id: str) -> Path:
        return self.folder / f"{head_id}.{base_id}.compared"

    def open_comparison(self, base_id: str, head_id: str, base: RunFile, head: RunFile) -> ComparedRuns | None:
        """The comparison of two runs, whose files are open, for reading; ``None`` when none is kept that is up to date."""
        return ComparedRuns.open(self._compared_path(base_id, head_id), base, head)

    def keep_comparison(self, base_id: str, head_id: str, base: RunFile, head: RunFile) -> None:
        """Compare two runs and keep what comes of it, wholly or not at all."""
        whole = self._compared_path(base_id, head_id)
        part = whole.with_name(whole.name + ".part")
        part.unlink(missing_ok=True)
        try:
            if are_elsewhere(base.plan, head.plan):
                with moved(self.whole_path(base_id), whole.with_name(whole.name + ".moved"), base, head) as there:
                    write_comparison(there, head, part)
            else:
                write_comparison(base, head, part)
            part.replace(whole)
        finally:
            part.unlink(missing_ok=True)

    def compare(self, base_id: str, head_id: str) -> None:
        """Compare two whole files and keep what comes of it. Raises :class:`DamagedRun`, and :class:`Unavailable` when it cannot be kept."""
        with self.open(base_id) as base, self.open(head_id) as head:
            try:
                self.keep_comparison(base_id, head_id, base, head)
            except (OSError, sqlite3.OperationalError) as error:
                raise Unavailable(
                    f"A comparison could not be kept: {error}.", "Make room on the disk, then try again."
                ) from error

    @contextmanager
    def revise(self, run_id: str) -> Iterator[Revision]:
        """A copy of a whole file to write into. Raises :class:`Unavailable` when it cannot be written, and :class:`DamagedRun`."""
        part = self._revised_path(run_id)
        try:
            with self.open(run_id):  # it is there, and a run file
                shutil.copyfile(self.whole_path(run_id), part)
            db = sqlite3.connect(part)
            try:
                revision = Revision(db)
                yield revision
            finally:
                db.close()
            if revision.wanted:
                part.replace(self.whole_path(run_id))
        except (OSError, sqlite3.OperationalError) as error:
            raise Unavailable(
                f"Run {run_id} could not be written anew: {error}.", "Make room on the disk, then try again."
            ) from error
        finally:
            part.unlink(missing_ok=True)

    def _revised_path(self, run_id: str) -> Path:
        return self.folder / f"{run_id}.revised.part"

    def drop_part(self, run_id: str) -> None:
        """Remove the part of a run, and what belongs to it."""
        self.drop_leftovers(run_id)
        self._lock_path(run_id).unlink(missing_ok=True)

    def drop_leftovers(self, run_id: str) -> None:
        """Remove the part of a run while its lock is held."""
        part = self._part_path(run_id)
        for path in (part, part.with_name(part.name + "-wal"), part.with_name(part.name + "-shm")):
            path.unlink(missing_ok=True)

    def remove(self, run_id: str) -> None:
        """Remove everything that is kept of a run."""
        self.drop_part(run_id)
        self.whole_path(run_id).unlink(missing_ok=True)
        self._aside_path(run_id).unlink(missing_ok=True)
        self._revised_path(run_id).unlink(missing_ok=True)
        for pattern in (f"{run_id}.*.compared*", f"*.{run_id}.compared*"):
            for path in self.folder.glob(pattern):
                path.unlink(missing_ok=True)

    def set_aside(self, run_id: str) -> None:
        """Put a damaged whole file out of the way, where nothing reads it."""
        if self.has(run_id):
            self.whole_path(run_id).replace(self._aside_path(run_id))

    def size_bytes(self, run_id: str) -> int:
        """The size of a whole file; 0 when there is none."""
        try:
            return self.whole_path(run_id).stat().st_size
        except FileNotFoundError:
            return 0

    def _aside_path(self, run_id: str) -> Path:
        return self.folder / f"{run_id}.damaged"

    def _lock_path(self, run_id: str) -> Path:
        return self.folder / f"{run_id}.lock"

    @contextmanager
    def hold(self, run_id: str) -> Iterator[bool]:
        """Be the only one who writes a run's part, by a lock that the system lets go of with the process."""
        with self._lock_path(run_id).open("w") as held:
            yield try_lock(held)


def try_lock(held: IO[str]) -> bool:
    """Lock an open file for this process, until it is closed; returns whether nobody else holds it."""
    try:
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True


def open_part(path: Path, plan: Plan, meta: dict[str, Any]) -> RunWriter:
    """The unfinished run file at ``path``, made if it is not there.

    One that died before its first commit, or was begun by another release, is made anew.
    """
    if path.exists():
        version = RunWriter.version_of(path)
        goes_on = version in (None, RunWriter.VERSION) and not RunWriter.is_empty(path)
        writer = RunWriter.resume(path) if goes_on else None
        if writer is not None and writer.meta("plan") is not None:
            return writer
        if writer is not None:
            writer.close()
        for leftover in (path, path.with_name(path.name + "-wal"), path.with_name(path.name + "-shm")):
            leftover.unlink(missing_ok=True)
    return RunWriter.create(path, {"plan": plan_values(plan), **meta})
