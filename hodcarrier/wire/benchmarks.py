"""Benchmarks."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from hodcarrier.core.benchmark.ranking import Missing, RoundState, Standing
from hodcarrier.core.states import InventoryKind, Lead, MeasureGroup, Severity
from hodcarrier.wire.base import Wire, Words
from hodcarrier.wire.remarks import LineRemark


class BenchmarkBody(Wire):
    """A new benchmark. Every site is audited with the default plan, ``pages_max`` pages at ``rate_per_s`` requests a second."""

    name: Words = Field(min_length=1, max_length=200)
    site_id: int
    competitor_ids: list[int] = Field(min_length=1, max_length=10)
    pages_max: int = Field(default=500, ge=1, le=100_000)
    rate_per_s: float = Field(default=5.0, ge=0.01, le=1000)


class BenchmarkChange(Wire):
    """Changes to a benchmark; what is left out stays. Rounds that have ended stay as they were."""

    name: Words | None = Field(default=None, min_length=1, max_length=200)
    competitor_ids: list[int] | None = Field(default=None, min_length=1, max_length=10)
    pages_max: int | None = Field(default=None, ge=1, le=100_000)
    rate_per_s: float | None = Field(default=None, ge=0.01, le=1000)


class RoundScheduleBody(Wire):
    """When rounds begin by themselves."""

    rule: str = Field(examples=["monthly:1"], description="daily, weekly:TU, monthly:1 or an RRULE (RFC 5545)")
    at: str = Field(default="03:00", examples=["03:00"])
    zone: str = Field(default="UTC", examples=["Europe/London"])


class RoundSchedule(RoundScheduleBody):
    """When rounds begin, as it is kept."""

    next_due_at: datetime | None
    words: str


class BenchmarkBrief(Wire):
    """A benchmark in a list."""

    id: int
    name: str
    site_id: int
    site_host: str
    competitors: list[str]
    competitor_ids: list[int]
    rounds: int
    rank: int | None = None


class BenchmarkRow(Wire):
    """One measure over the sites. A difference below ``resolution`` is none, and sites that no difference sets apart share a rank; ``intervals`` are given where
    a site was examined in part (95 %), ``sizes`` of how many pages, files or links a figure is. ``behind`` filters the list ``of`` for what keeps
    the own site from the best figure."""

    id: str
    name: str
    group: MeasureGroup
    unit: str
    high_is_good: bool
    resolution: float
    values: list[float | None]
    intervals: list[tuple[float, float] | None]
    sizes: list[int | None]
    ranks: list[int | None]
    gap_to_best: float | None
    gap_to_median: float | None
    lead: Lead | None
    of: InventoryKind
    behind: str


class ShareRow(Wire):
    """The share of pages with one failing check on every site, with its 95 % interval (Wilson) where its pages are a sample."""

    check: str
    summary: str
    severity: Severity
    shares: list[tuple[float, float, float] | None]


class MetricLine(Wire):
    """The latest imported figure of one name, for every site."""

    name: str
    values: list[float | None]
    day: date
    source: str


class RoundRow(Wire):
    """A measure in a finished round: rank and figure of every site."""

    at: datetime
    ranks: list[int | None]
    values: list[float | None]


class BenchmarkOut(BenchmarkBrief):
    """A benchmark's latest finished round.

    Its health is under catalogue defaults and the benchmark's own plan; ``audit_health`` is what the site's latest audit gives.
    ``remarks`` are those of each site since the first round; ``unranked`` says in sentences which sites take no rank, because too little of them could be examined. ``runs`` are those of the round,
    ``sampled`` which of them ended before the whole site was reached; ``missing`` is what competitors have and the own site has not.
    """

    hosts: list[str]
    at: datetime | None
    pages_max: int
    rate_per_s: float
    state: RoundState
    pages: list[int | None]
    unranked: list[str] = []
    audit_health: float | None = None
    audit_at: datetime | None = None
    schedule: RoundSchedule | None = None
    site_ids: list[int] = []
    runs: list[str] = []
    sampled: list[bool] = []
    rows: list[BenchmarkRow]
    shares: list[ShareRow]
    sentences: Standing
    missing: list[Missing] = []
    metrics: list[MetricLine]
    rank_history: list[RoundRow]
    remarks: list[list[LineRemark]] = []
