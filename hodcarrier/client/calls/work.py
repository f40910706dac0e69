"""Calls about work, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import TableForm, ViewPlace
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


class Work(SyncCalls):
    """Calls about work."""

    def get_desk(self) -> DeskOut:
        """What needs attention today."""
        found: DeskOut = self._call("get_desk", {})
        return found

    def acknowledge_alert(self, alert_id: int) -> None:
        """Take what a run changed for the worse off the desk, until further findings come."""
        self._call("acknowledge_alert", {"alert_id": alert_id})

    def list_views(self, place: ViewPlace | None = None) -> list[ViewOut]:
        """Saved views: one's own and those that others share."""
        found: list[ViewOut] = self._call("list_views", {}, query={"place": place})
        return found

    def add_view(self, body: ViewBody) -> ViewOut:
        """Save the filters of a screen under a name."""
        found: ViewOut = self._call("add_view", {}, body=body)
        return found

    def remove_view(self, view_id: int) -> None:
        """Remove a saved view."""
        self._call("remove_view", {"view_id": view_id})

    def list_benchmarks(self) -> list[BenchmarkBrief]:
        """All benchmarks."""
        found: list[BenchmarkBrief] = self._call("list_benchmarks", {})
        return found

    def add_benchmark(self, body: BenchmarkBody) -> BenchmarkBrief:
        """Set up a benchmark."""
        found: BenchmarkBrief = self._call("add_benchmark", {}, body=body)
        return found

    def get_benchmark(self, benchmark_id: int) -> BenchmarkOut:
        """The latest round of a benchmark."""
        found: BenchmarkOut = self._call("get_benchmark", {"benchmark_id": benchmark_id})
        return found

    def change_benchmark(self, benchmark_id: int, body: BenchmarkChange) -> BenchmarkBrief:
        """Change the name, competitors or limits of a benchmark."""
        found: BenchmarkBrief = self._call("change_benchmark", {"benchmark_id": benchmark_id}, body=body)
        return found

    def remove_benchmark(self, benchmark_id: int) -> None:
        """Remove a benchmark with its rounds."""
        self._call("remove_benchmark", {"benchmark_id": benchmark_id})

    def set_round_schedule(self, benchmark_id: int, body: RoundScheduleBody) -> RoundSchedule:
        """Set when rounds of a benchmark begin by themselves."""
        found: RoundSchedule = self._call("set_round_schedule", {"benchmark_id": benchmark_id}, body=body)
        return found

    def remove_round_schedule(self, benchmark_id: int) -> None:
        """Let rounds begin only when somebody asks."""
        self._call("remove_round_schedule", {"benchmark_id": benchmark_id})

    def get_benchmark_trend(self, benchmark_id: int, measure: str = "health") -> list[RoundRow]:
        """A measure of every site over the rounds of a benchmark."""
        found: list[RoundRow] = self._call("get_benchmark_trend", {"benchmark_id": benchmark_id}, query={"measure": measure})
        return found

    def export_benchmark(self, benchmark_id: int, form: TableForm = TableForm.XLSX) -> bytes:
        """The measures of the latest round as a table; as a workbook with failing checks and what competitors have too."""
        found: bytes = self._call("export_benchmark", {"benchmark_id": benchmark_id}, query={"form": form})
        return found

    def start_round(self, benchmark_id: int) -> BenchmarkOut:
        """Run all sites of a benchmark now."""
        found: BenchmarkOut = self._call("start_round", {"benchmark_id": benchmark_id})
        return found


class AsyncWork(AsyncCalls):
    """Calls about work."""

    async def get_desk(self) -> DeskOut:
        """What needs attention today."""
        found: DeskOut = await self._call("get_desk", {})
        return found

    async def acknowledge_alert(self, alert_id: int) -> None:
        """Take what a run changed for the worse off the desk, until further findings come."""
        await self._call("acknowledge_alert", {"alert_id": alert_id})

    async def list_views(self, place: ViewPlace | None = None) -> list[ViewOut]:
        """Saved views: one's own and those that others share."""
        found: list[ViewOut] = await self._call("list_views", {}, query={"place": place})
        return found

    async def add_view(self, body: ViewBody) -> ViewOut:
        """Save the filters of a screen under a name."""
        found: ViewOut = await self._call("add_view", {}, body=body)
        return found

    async def remove_view(self, view_id: int) -> None:
        """Remove a saved view."""
        await self._call("remove_view", {"view_id": view_id})

    async def list_benchmarks(self) -> list[BenchmarkBrief]:
        """All benchmarks."""
        found: list[BenchmarkBrief] = await self._call("list_benchmarks", {})
        return found

    async def add_benchmark(self, body: BenchmarkBody) -> BenchmarkBrief:
        """Set up a benchmark."""
        found: BenchmarkBrief = await self._call("add_benchmark", {}, body=body)
        return found

    async def get_benchmark(self, benchmark_id: int) -> BenchmarkOut:
        """The latest round of a benchmark."""
        found: BenchmarkOut = await self._call("get_benchmark", {"benchmark_id": benchmark_id})
        return found

    async def change_benchmark(self, benchmark_id: int, body: BenchmarkChange) -> BenchmarkBrief:
        """Change the name, competitors or limits of a benchmark."""
        found: BenchmarkBrief = await self._call("change_benchmark", {"benchmark_id": benchmark_id}, body=body)
        return found

    async def remove_benchmark(self, benchmark_id: int) -> None:
        """Remove a benchmark with its rounds."""
        await self._call("remove_benchmark", {"benchmark_id": benchmark_id})

    async def set_round_schedule(self, benchmark_id: int, body: RoundScheduleBody) -> RoundSchedule:
        """Set when rounds of a benchmark begin by themselves."""
        found: RoundSchedule = await self._call("set_round_schedule", {"benchmark_id": benchmark_id}, body=body)
        return found

    async def remove_round_schedule(self, benchmark_id: int) -> None:
        """Let rounds begin only when somebody asks."""
        await self._call("remove_round_schedule", {"benchmark_id": benchmark_id})

    async def get_benchmark_trend(self, benchmark_id: int, measure: str = "health") -> list[RoundRow]:
        """A measure of every site over the rounds of a benchmark."""
        found: list[RoundRow] = await self._call(
            "get_benchmark_trend", {"benchmark_id": benchmark_id}, query={"measure": measure}
        )
        return found

    async def export_benchmark(self, benchmark_id: int, form: TableForm = TableForm.XLSX) -> bytes:
        """The measures of the latest round as a table; as a workbook with failing checks and what competitors have too."""
        found: bytes = await self._call("export_benchmark", {"benchmark_id": benchmark_id}, query={"form": form})
        return found

    async def start_round(self, benchmark_id: int) -> BenchmarkOut:
        """Run all sites of a benchmark now."""
        found: BenchmarkOut = await self._call("start_round", {"benchmark_id": benchmark_id})
        return found
