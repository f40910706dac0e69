"""Figures for those who watch the service, in the text format of Prometheus: runs, mails, room, readiness, and how long requests take.

They name no client and no site.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from prometheus_client import CollectorRegistry, Histogram, generate_latest
from prometheus_client.core import GaugeMetricFamily
from prometheus_client.metrics_core import Metric
from sqlalchemy import func, select

from hodcarrier import __version__
from hodcarrier.audit.supervisor import Supervisor, free_bytes
from hodcarrier.core.states import DeliveryState, RunState
from hodcarrier.register.models import Delivery, Run
from hodcarrier.service.readiness import why_not_ready
from hodcarrier.usecases.workspace import Workspace

CONTENT_TYPE = "text/plain; version=0.0.4; charset=utf-8"
SECONDS = (0.01, 0.03, 0.1, 0.3, 1.0, 3.0, 10.0)


@dataclass(eq=False)
class Metrics:
    """Collected anew whenever somebody asks; how long requests took is noted as they are answered."""

    work: Workspace
    supervisor: Supervisor
    registry: CollectorRegistry = field(default_factory=CollectorRegistry)

    def __post_init__(self) -> None:
        self._requests = Histogram(
            "hodcarrier_request_seconds",
            "Seconds until a request of the interface was answered.",
            ("method", "status"),
            buckets=SECONDS,
            registry=self.registry,
        )
        self.registry.register(self)

    def note_request(self, method: str, status: int, seconds: float) -> None:
        """A request was answered."""
        self._requests.labels(method, f"{status // 100}xx").observe(seconds)

    def text(self) -> bytes:
        """All figures as they are now."""
        return generate_latest(self.registry)

    def collect(self) -> Iterator[Metric]:
        """What the registry asks for."""
        yield _gauge("hodcarrier_info", "The release.", {__version__: 1.0}, "version")
        ready = not why_not_ready(self.work, self.supervisor)
        yield GaugeMetricFamily("hodcarrier_ready", "Whether the service can do its work (1) or not (0).", float(ready))
        free = float(free_bytes(self.supervisor.data))
        yield GaugeMetricFamily("hodcarrier_disk_free_bytes", "Room where the data folder lies.", free)
        yield GaugeMetricFamily("hodcarrier_workers", "Workers that there may be at once.", float(self.supervisor.workers))
        yield GaugeMetricFamily("hodcarrier_workers_busy", "Workers that are at work.", float(len(self.supervisor.processes)))
        with self.work.reading() as session:
            runs = dict(session.execute(select(Run.state, func.count()).group_by(Run.state)).all())
            mails = dict(session.execute(select(Delivery.state, func.count()).group_by(Delivery.state)).all())
            oldest = session.scalar(
                select(func.min(Run.requested_at)).where(Run.state == RunState.QUEUED, Run.clock_offset_s == 0)
            )
        yield _gauge("hodcarrier_runs", "Runs by state.", {s.value: float(runs.get(s, 0)) for s in RunState}, "state")
        yield _gauge("hodcarrier_mails", "Mails by state.", {s.value: float(mails.get(s, 0)) for s in DeliveryState}, "state")
        waited = max(0.0, (self.work.now() - oldest).total_seconds()) if oldest else 0.0
        yield GaugeMetricFamily("hodcarrier_queue_seconds", "Seconds that the oldest queued run has waited.", waited)


def _gauge(name: str, words: str, values: dict[str, float], label: str) -> GaugeMetricFamily:
    family = GaugeMetricFamily(name, words, labels=[label])
    for key, value in values.items():
        family.add_metric([key], value)
    return family
