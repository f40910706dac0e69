"""How a worker gets its job and tells what becomes of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

from hodcarrier.core.progress import Progress
from hodcarrier.runfile.store import RunStore
from hodcarrier.usecases import finishing, runs
from hodcarrier.usecases.finishing import Job
from hodcarrier.usecases.workspace import Workspace


class JobChannel(Protocol):
    """One worker's line to the service that claimed a run for it. All calls may come from any thread."""

    @property
    def store(self) -> RunStore:
        """Where the run file goes."""
        ...

    def job(self) -> Job:
        """What there is to do."""
        ...

    def renew(self) -> bool:
        """Say that the worker is alive. Returns whether the run still is its own."""
        ...

    def stop_requested(self) -> bool:
        """Whether a person asked the run to stop."""
        ...

    def tell(self, progress: Progress) -> None:
        """Say how far the crawl has come."""
        ...

    def examining(self) -> None:
        """Say that the crawl has ended."""
        ...

    def fail(self, reason: str) -> None:
        """Say that the run has failed, and why."""
        ...

    def leave(self) -> None:
        """Give the run back, to be gone on with."""
        ...


@dataclass(frozen=True)
class LocalJobChannel:
    """A channel over the register of this machine."""

    work: Workspace
    run_id: str
    worker_id: str

    @property
    def store(self) -> RunStore:
        """Where the run file goes."""
        return self.work.store

    def job(self) -> Job:
        """What there is to do."""
        return finishing.begin_run(self.work, self.run_id)

    def renew(self) -> bool:
        """Keep the claim."""
        return runs.renew_claim(self.work, self.run_id, self.worker_id)

    def stop_requested(self) -> bool:
        """Whether a person asked the run to stop."""
        return runs.is_stop_requested(self.work, self.run_id)

    def tell(self, progress: Progress) -> None:
        """Keep how far the crawl has come."""
        runs.tell_progress(self.work, self.run_id, progress)

    def examining(self) -> None:
        """Note that the crawl has ended."""
        runs.note_examining(self.work, self.run_id)

    def fail(self, reason: str) -> None:
        """Note that the run has failed."""
        finishing.note_failure(self.work, self.run_id, self.worker_id, reason)

    def leave(self) -> None:
        """Put the run back into the queue."""
        runs.release_run(self.work, self.run_id, self.worker_id)
