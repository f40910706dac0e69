"""The team's work: the desk, benchmarks."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, Request

from hodcarrier.core.states import ViewPlace
from hodcarrier.service.deps import Work
from hodcarrier.service.guard import Asker, EventStream, serves
from hodcarrier.service.readiness import why_not_working
from hodcarrier.service.watching import SECONDS_MAX, changes
from hodcarrier.usecases import alerts, benchmark_setup, benchmarks, desk, views
from hodcarrier.wire.benchmarks import (
    BenchmarkBody,
    BenchmarkBrief,
    BenchmarkChange,
    BenchmarkOut,
    RoundRow,
    RoundSchedule,
    RoundScheduleBody,
)
from hodcarrier.wire.desk import DeskOut
from hodcarrier.wire.views import ViewBody, ViewOut

router = APIRouter()


@serves(router, "watch_changes")
async def watch_changes(work: Work, request: Request, seconds: Annotated[int, Query(ge=0, le=SECONDS_MAX)] = 600) -> EventStream:
    return EventStream(changes(work, request.app.state.counts, request, seconds))


@serves(router, "get_desk")
def get_desk(work: Work, member: Asker, request: Request) -> DeskOut:
    state = request.app.state
    trouble = why_not_working(state.supervisor)
    return desk.get_desk(work, member, state.building, [*([trouble] if trouble else []), *state.housekeeper.troubles.values()])


@serves(router, "acknowledge_alert")
def acknowledge_alert(alert_id: int, work: Work, member: Asker) -> None:
    alerts.acknowledge_alert(work, alert_id, member)


@serves(router, "list_views")
def list_views(work: Work, member: Asker, place: ViewPlace | None = None) -> list[ViewOut]:
    return views.list_views(work, place, member)


@serves(router, "add_view")
def add_view(body: ViewBody, work: Work, member: Asker) -> ViewOut:
    return views.add_view(work, body, member)


@serves(router, "remove_view")
def remove_view(view_id: int, work: Work, member: Asker) -> None:
    views.remove_view(work, view_id, member)


@serves(router, "list_benchmarks")
def list_benchmarks(work: Work) -> list[BenchmarkBrief]:
    return benchmarks.list_benchmarks(work)


@serves(router, "add_benchmark")
def add_benchmark(body: BenchmarkBody, work: Work, member: Asker) -> BenchmarkBrief:
    return benchmark_setup.add_benchmark(work, body, member)


@serves(router, "change_benchmark")
def change_benchmark(benchmark_id: int, body: BenchmarkChange, work: Work, member: Asker) -> BenchmarkBrief:
    return benchmark_setup.change_benchmark(work, benchmark_id, body, member)


@serves(router, "remove_benchmark")
def remove_benchmark(benchmark_id: int, work: Work, member: Asker) -> None:
    benchmark_setup.remove_benchmark(work, benchmark_id, member)


@serves(router, "set_round_schedule")
def set_round_schedule(benchmark_id: int, body: RoundScheduleBody, work: Work, member: Asker) -> RoundSchedule:
    return benchmark_setup.set_round_schedule(work, benchmark_id, body, member)


@serves(router, "remove_round_schedule")
def remove_round_schedule(benchmark_id: int, work: Work, member: Asker) -> None:
    benchmark_setup.remove_round_schedule(work, benchmark_id, member)


@serves(router, "get_benchmark")
def get_benchmark(benchmark_id: int, work: Work) -> BenchmarkOut:
    return benchmarks.get_benchmark(work, benchmark_id)


@serves(router, "get_benchmark_trend")
def get_benchmark_trend(benchmark_id: int, work: Work, measure: str = "health") -> list[RoundRow]:
    return benchmarks.get_benchmark_trend(work, benchmark_id, measure)


@serves(router, "start_round")
def start_round(benchmark_id: int, work: Work, member: Asker) -> BenchmarkOut:
    benchmarks.start_round(work, benchmark_id, member)
    return benchmarks.get_benchmark(work, benchmark_id)
