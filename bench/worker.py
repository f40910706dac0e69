"""A worker whose job is on its command line: ``python -m bench.worker FOLDER RUN ADDRESS``. Nobody needs to be told anything."""

from __future__ import annotations

import sys
from dataclasses import dataclass
from pathlib import Path

from hodcarrier.audit.worker import do_run
from hodcarrier.core.plan import read_plan
from hodcarrier.core.progress import Progress
from hodcarrier.runfile.store import LocalRunStore
from hodcarrier.usecases.finishing import Job


@dataclass(frozen=True)
class LoneChannel:
    """A channel to nobody."""

    store: LocalRunStore
    run_id: str
    address: str

    def job(self) -> Job:
        """An audit of the address."""
        plan = read_plan({"start": [self.address], "private_addresses": ["127.0.0.0/8"], "rate_per_s": 1000, "parallel": 8})
        return Job(self.run_id, "bench", plan, None, (), 0.0, None)

    def renew(self) -> bool:
        """Nobody else wants the run."""
        return True

    def stop_requested(self) -> bool:
        """Nobody asks."""
        return False

    def tell(self, progress: Progress) -> None:
        """Nobody listens."""

    def examining(self) -> None:
        """Nobody listens."""

    def fail(self, reason: str) -> None:
        """Say so and end."""
        raise SystemExit(reason)

    def leave(self) -> None:
        """The run is started again by the benchmark."""


if __name__ == "__main__":
    folder, name, address = sys.argv[1:]
    sys.exit(do_run(LoneChannel(LocalRunStore(Path(folder)), name, address), name, lambda: False))
