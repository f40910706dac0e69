"""Calls about work, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from collections.abc import AsyncIterator, Iterator
from datetime import date
from typing import Literal

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import Priority, Severity, TodoState
from hodcarrier.wire.benchmarks import BenchmarkBody, BenchmarkBrief, BenchmarkOut
from hodcarrier.wire.desk import DeskOut
from hodcarrier.wire.reports import ReportBody, ReportOut
from hodcarrier.wire.todos import (
    LoadOut,
    TodoBody,
    TodoChange,
    TodoDraft,
    TodoLinkBody,
    TodoLinkOut,
    TodoOut,
    TodosBody,
    TodosChange,
    TodosChanged,
)


class Work(SyncCalls):
    """Calls about work."""

    def get_desk(self) -> DeskOut:
        """What needs attention today."""
        found: DeskOut = self._call("get_desk", {})
        return found

    def acknowledge_alert(self, alert_id: int) -> None:
        """Take what a run changed for the worse off the desk, until further findings come."""
        self._call("acknowledge_alert", {"alert_id": alert_id})

    def list_todos(
        self,
        site: int | None = None,
        client: int | None = None,
        assignee: int | None = None,
        state: TodoState | Literal["live", ""] = "",
        overdue: bool = False,
        label: str = "",
        severity: Severity | None = None,
        priority: Priority | None = None,
        text: str = "",
        due_from: date | None = None,
        due_to: date | None = None,
        sort: str = "due",
    ) -> Iterator[TodoOut]:
        """To-dos, live ones first; by due date unless another order is asked for."""
        yield from self._parts(
            "list_todos",
            {},
            query={
                "site": site,
                "client": client,
                "assignee": assignee,
                "state": state,
                "overdue": overdue,
                "label": label,
                "severity": severity,
                "priority": priority,
                "text": text,
                "due_from": due_from,
                "due_to": due_to,
                "sort": sort,
            },
        )

    def add_todo(self, body: TodoBody) -> TodoOut:
        """Create a to-do from a check, a cause, findings, or by hand."""
        found: TodoOut = self._call("add_todo", {}, body=body)
        return found

    def plan_todos(self, body: TodosBody) -> list[TodoDraft]:
        """The to-dos that would be made, one for each check, cause, page or template. Nothing is changed."""
        found: list[TodoDraft] = self._call("plan_todos", {}, body=body)
        return found

    def add_todos(self, body: TodosBody) -> list[TodoOut]:
        """Create several to-dos, one for each check, cause, page or template, spread over people."""
        found: list[TodoOut] = self._call("add_todos", {}, body=body)
        return found

    def change_todos(self, body: TodosChange) -> TodosChanged:
        """Change several to-dos, all of them or none, with the way back."""
        found: TodosChanged = self._call("change_todos", {}, body=body)
        return found

    def get_load(self, client: int | None = None) -> LoadOut:
        """Who has what to do by when."""
        found: LoadOut = self._call("get_load", {}, query={"client": client})
        return found

    def list_labels(self) -> list[str]:
        """The labels that to-dos have."""
        found: list[str] = self._call("list_labels", {})
        return found

    def check_todo(self, todo_id: int) -> TodoOut:
        """Fetch and examine the places of a to-do now, without waiting for the next audit."""
        found: TodoOut = self._call("check_todo", {"todo_id": todo_id})
        return found

    def get_todo(self, todo_id: int) -> TodoOut:
        """One to-do with its story."""
        found: TodoOut = self._call("get_todo", {"todo_id": todo_id})
        return found

    def get_todo_sheet(self, todo_id: int) -> bytes:
        """A to-do on one page, to read and to print: places with their source, why they matter, how to fix and how to check them."""
        found: bytes = self._call("get_todo_sheet", {"todo_id": todo_id})
        return found

    def list_todo_links(self, todo_id: int) -> list[TodoLinkOut]:
        """Whom a to-do was shared with."""
        found: list[TodoLinkOut] = self._call("list_todo_links", {"todo_id": todo_id})
        return found

    def add_todo_link(self, todo_id: int, body: TodoLinkBody) -> TodoLinkOut:
        """Share a to-do with somebody who has no account; the address is shown in this answer only."""
        found: TodoLinkOut = self._call("add_todo_link", {"todo_id": todo_id}, body=body)
        return found

    def revoke_todo_link(self, todo_id: int, link_id: int) -> None:
        """End a share link of a to-do."""
        self._call("revoke_todo_link", {"todo_id": todo_id, "link_id": link_id})

    def change_todo(self, todo_id: int, body: TodoChange, version: int | None = None) -> TodoOut:
        """Change a to-do or comment on it."""
        found: TodoOut = self._call("change_todo", {"todo_id": todo_id}, version=version, body=body)
        return found

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

    def start_round(self, benchmark_id: int) -> BenchmarkOut:
        """Run all sites of a benchmark now."""
        found: BenchmarkOut = self._call("start_round", {"benchmark_id": benchmark_id})
        return found

    def list_reports(self) -> list[ReportOut]:
        """Reports, the latest first."""
        found: list[ReportOut] = self._call("list_reports", {})
        return found

    def add_report(self, body: ReportBody) -> ReportOut:
        """Make a report over a span of days."""
        found: ReportOut = self._call("add_report", {}, body=body)
        return found

    def get_report(self, report_id: int) -> ReportOut:
        """One report."""
        found: ReportOut = self._call("get_report", {"report_id": report_id})
        return found

    def get_report_page(self, report_id: int) -> bytes:
        """A report as a web page."""
        found: bytes = self._call("get_report_page", {"report_id": report_id})
        return found

    def get_report_pdf(self, report_id: int) -> bytes:
        """A report as a PDF."""
        found: bytes = self._call("get_report_pdf", {"report_id": report_id})
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

    async def list_todos(
        self,
        site: int | None = None,
        client: int | None = None,
        assignee: int | None = None,
        state: TodoState | Literal["live", ""] = "",
        overdue: bool = False,
        label: str = "",
        severity: Severity | None = None,
        priority: Priority | None = None,
        text: str = "",
        due_from: date | None = None,
        due_to: date | None = None,
        sort: str = "due",
    ) -> AsyncIterator[TodoOut]:
        """To-dos, live ones first; by due date unless another order is asked for."""
        async for item in self._parts(
            "list_todos",
            {},
            query={
                "site": site,
                "client": client,
                "assignee": assignee,
                "state": state,
                "overdue": overdue,
                "label": label,
                "severity": severity,
                "priority": priority,
                "text": text,
                "due_from": due_from,
                "due_to": due_to,
                "sort": sort,
            },
        ):
            yield item

    async def add_todo(self, body: TodoBody) -> TodoOut:
        """Create a to-do from a check, a cause, findings, or by hand."""
        found: TodoOut = await self._call("add_todo", {}, body=body)
        return found

    async def plan_todos(self, body: TodosBody) -> list[TodoDraft]:
        """The to-dos that would be made, one for each check, cause, page or template. Nothing is changed."""
        found: list[TodoDraft] = await self._call("plan_todos", {}, body=body)
        return found

    async def add_todos(self, body: TodosBody) -> list[TodoOut]:
        """Create several to-dos, one for each check, cause, page or template, spread over people."""
        found: list[TodoOut] = await self._call("add_todos", {}, body=body)
        return found

    async def change_todos(self, body: TodosChange) -> TodosChanged:
        """Change several to-dos, all of them or none, with the way back."""
        found: TodosChanged = await self._call("change_todos", {}, body=body)
        return found

    async def get_load(self, client: int | None = None) -> LoadOut:
        """Who has what to do by when."""
        found: LoadOut = await self._call("get_load", {}, query={"client": client})
        return found

    async def list_labels(self) -> list[str]:
        """The labels that to-dos have."""
        found: list[str] = await self._call("list_labels", {})
        return found

    async def check_todo(self, todo_id: int) -> TodoOut:
        """Fetch and examine the places of a to-do now, without waiting for the next audit."""
        found: TodoOut = await self._call("check_todo", {"todo_id": todo_id})
        return found

    async def get_todo(self, todo_id: int) -> TodoOut:
        """One to-do with its story."""
        found: TodoOut = await self._call("get_todo", {"todo_id": todo_id})
        return found

    async def get_todo_sheet(self, todo_id: int) -> bytes:
        """A to-do on one page, to read and to print: places with their source, why they matter, how to fix and how to check them."""
        found: bytes = await self._call("get_todo_sheet", {"todo_id": todo_id})
        return found

    async def list_todo_links(self, todo_id: int) -> list[TodoLinkOut]:
        """Whom a to-do was shared with."""
        found: list[TodoLinkOut] = await self._call("list_todo_links", {"todo_id": todo_id})
        return found

    async def add_todo_link(self, todo_id: int, body: TodoLinkBody) -> TodoLinkOut:
        """Share a to-do with somebody who has no account; the address is shown in this answer only."""
        found: TodoLinkOut = await self._call("add_todo_link", {"todo_id": todo_id}, body=body)
        return found

    async def revoke_todo_link(self, todo_id: int, link_id: int) -> None:
        """End a share link of a to-do."""
        await self._call("revoke_todo_link", {"todo_id": todo_id, "link_id": link_id})

    async def change_todo(self, todo_id: int, body: TodoChange, version: int | None = None) -> TodoOut:
        """Change a to-do or comment on it."""
        found: TodoOut = await self._call("change_todo", {"todo_id": todo_id}, version=version, body=body)
        return found

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

    async def start_round(self, benchmark_id: int) -> BenchmarkOut:
        """Run all sites of a benchmark now."""
        found: BenchmarkOut = await self._call("start_round", {"benchmark_id": benchmark_id})
        return found

    async def list_reports(self) -> list[ReportOut]:
        """Reports, the latest first."""
        found: list[ReportOut] = await self._call("list_reports", {})
        return found

    async def add_report(self, body: ReportBody) -> ReportOut:
        """Make a report over a span of days."""
        found: ReportOut = await self._call("add_report", {}, body=body)
        return found

    async def get_report(self, report_id: int) -> ReportOut:
        """One report."""
        found: ReportOut = await self._call("get_report", {"report_id": report_id})
        return found

    async def get_report_page(self, report_id: int) -> bytes:
        """A report as a web page."""
        found: bytes = await self._call("get_report_page", {"report_id": report_id})
        return found

    async def get_report_pdf(self, report_id: int) -> bytes:
        """A report as a PDF."""
        found: bytes = await self._call("get_report_pdf", {"report_id": report_id})
        return found
