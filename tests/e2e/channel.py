"""A worker's line to nobody, which keeps what the worker says."""

from __future__ import annotations

from dataclasses import dataclass, field

from hodcarrier.core.plan import Plan
from hodcarrier.core.progress import Progress
from hodcarrier.runfile.store import LocalRunStore
from hodcarrier.usecases.finishing import Job


@dataclass
class KeptChannel:
    """The channel of the run ``run_id``, compared with ``base_id``. ``stop``: somebody asked it to stop while no worker was there to hear it."""

    store: LocalRunStore
    plan: Plan
    stop: bool = False
    run_id: str = "r"
    base_id: str | None = None
    told: list[str] = field(default_factory=list)

    def job(self) -> Job:
        return Job(self.run_id, "127.0.0.1", self.plan, self.base_id, (), 0.0, None)

    def renew(self) -> bool:
        return True

    def stop_requested(self) -> bool:
        return self.stop

    def tell(self, progress: Progress) -> None:
        self.told.append(f"{progress.pages_done} pages")

    def examining(self) -> None:
        self.told.append("examining")

    def fail(self, reason: str) -> None:
        self.told.append(reason)

    def leave(self) -> None:
        self.told.append("left")
