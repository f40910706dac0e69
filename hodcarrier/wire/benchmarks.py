"""Benchmarks."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from hodcarrier.core.judge.benchmark import RoundState, Standing
from hodcarrier.core.states import Severity
from hodcarrier.wire.base import Wire, Words
from hodcarrier.wire.remarks import LineRemark


class BenchmarkBody(Wire):
    """A new benchmark. Every site is audited with the default plan, ``pages_max`` pages at ``rate_per_s`` requests a second."""

    name: Words = Field(min_length=1, max_length=200)
    site_id: int
    competitor_ids: list[int] = Field(min_length=1, max_length=10)
    pages_max: int = Field(default=500, ge=1, le=100_000)
    rate_per_s: float = Field(default=5.0, ge=0.01, le=1000)


class BenchmarkBrief(Wire):
    """A benchmark in a list."""

    id: int
    name: str
    site_id: int
    site_host: str
    competitors: list[str]
    rounds: int
    rank: int | None = None


class BenchmarkRow(Wire):
    """One measure over the sites."""

    id: str
    name: str
    unit: str
    high_is_good: bool
    values: list[float | None]
    ranks: list[int | None]
    gap_to_best: float | None
    gap_to_median: float | None


class ShareRow(Wire):
    """The share of pages with one failing check on every site, with its 95 % interval (Wilson)."""

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
    """A finished round: rank by health and health of every site."""

    at: datetime
    ranks: list[int | None]
    health: list[float | None]


class BenchmarkOut(BenchmarkBrief):
    """A benchmark's latest finished round.

    Its health is under catalogue defaults and the benchmark's own plan; ``audit_health`` is what the site's latest audit gives.
    ``remarks`` are those of each site since the first round; ``unranked`` says in sentences which sites take no rank, because too little of them could be examined.
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
    rows: list[BenchmarkRow]
    shares: list[ShareRow]
    sentences: Standing
    metrics: list[MetricLine]
    rank_history: list[RoundRow]
    remarks: list[list[LineRemark]] = []
