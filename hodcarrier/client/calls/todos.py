"""Calls about todos, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from collections.abc import AsyncIterator, Iterator
from datetime import date
from typing import Literal

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import DueSpan, Priority, Severity, TodoState
from hodcarrier.wire.approvals import AnswerBody, ApprovalOut
from hodcarrier.wire.todo_things import RecurringBody, RecurringOut, TodoFileBody, TodoFileOut, TodosImported, TodoTable
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


class Todos(SyncCalls):
    """Calls about todos."""

    def list_todos(
        self,
        site: int | None = None,
        client: int | None = None,
        assignee: int | None = None,
        state: TodoState | Literal["live", ""] = "",
        due: DueSpan | None = None,
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
                "due": due,
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

    def list_approvals(self) -> list[ApprovalOut]:
        """To-dos that wait for the client to agree, as they are put to it."""
        found: list[ApprovalOut] = self._call("list_approvals", {})
        return found

    def answer_approval(self, todo_id: int, body: AnswerBody) -> ApprovalOut:
        """Agree to a to-do for the client, or ask back."""
        found: ApprovalOut = self._call("answer_approval", {"todo_id": todo_id}, body=body)
        return found

    def export_todos(
        self,
        site: int | None = None,
        client: int | None = None,
        assignee: int | None = None,
        state: TodoState | Literal["live", ""] = "",
        due: DueSpan | None = None,
        label: str = "",
        severity: Severity | None = None,
        priority: Priority | None = None,
        text: str = "",
        due_from: date | None = None,
        due_to: date | None = None,
        sort: str = "due",
    ) -> bytes:
        """To-dos as CSV, filtered like the list."""
        found: bytes = self._call(
            "export_todos",
            {},
            query={
                "site": site,
                "client": client,
                "assignee": assignee,
                "state": state,
                "due": due,
                "label": label,
                "severity": severity,
                "priority": priority,
                "text": text,
                "due_from": due_from,
                "due_to": due_to,
                "sort": sort,
            },
        )
        return found

    def import_todos(self, body: TodoTable) -> TodosImported:
        """Make to-dos of a CSV table, one of each row: all of them or none."""
        found: TodosImported = self._call("import_todos", {}, body=body)
        return found

    def list_recurring(self, client: int | None = None) -> list[RecurringOut]:
        """To-dos that come back, by when the next one is made."""
        found: list[RecurringOut] = self._call("list_recurring", {}, query={"client": client})
        return found

    def add_recurring(self, body: RecurringBody) -> RecurringOut:
        """Let a to-do come back on the days of a rule."""
        found: RecurringOut = self._call("add_recurring", {}, body=body)
        return found

    def remove_recurring(self, recurring_id: int) -> None:
        """Let a to-do come back no more; those that were made stay."""
        self._call("remove_recurring", {"recurring_id": recurring_id})

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

    def list_todo_files(self, todo_id: int) -> list[TodoFileOut]:
        """The attachments of a to-do."""
        found: list[TodoFileOut] = self._call("list_todo_files", {"todo_id": todo_id})
        return found

    def add_todo_file(self, todo_id: int, body: TodoFileBody) -> TodoFileOut:
        """Attach a file to a to-do."""
        found: TodoFileOut = self._call("add_todo_file", {"todo_id": todo_id}, body=body)
        return found

    def get_todo_file(self, todo_id: int, file_id: int) -> bytes:
        """An attachment itself."""
        found: bytes = self._call("get_todo_file", {"todo_id": todo_id, "file_id": file_id})
        return found

    def remove_todo_file(self, todo_id: int, file_id: int) -> None:
        """Take an attachment away."""
        self._call("remove_todo_file", {"todo_id": todo_id, "file_id": file_id})

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


class AsyncTodos(AsyncCalls):
    """Calls about todos."""

    async def list_todos(
        self,
        site: int | None = None,
        client: int | None = None,
        assignee: int | None = None,
        state: TodoState | Literal["live", ""] = "",
        due: DueSpan | None = None,
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
                "due": due,
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

    async def list_approvals(self) -> list[ApprovalOut]:
        """To-dos that wait for the client to agree, as they are put to it."""
        found: list[ApprovalOut] = await self._call("list_approvals", {})
        return found

    async def answer_approval(self, todo_id: int, body: AnswerBody) -> ApprovalOut:
        """Agree to a to-do for the client, or ask back."""
        found: ApprovalOut = await self._call("answer_approval", {"todo_id": todo_id}, body=body)
        return found

    async def export_todos(
        self,
        site: int | None = None,
        client: int | None = None,
        assignee: int | None = None,
        state: TodoState | Literal["live", ""] = "",
        due: DueSpan | None = None,
        label: str = "",
        severity: Severity | None = None,
        priority: Priority | None = None,
        text: str = "",
        due_from: date | None = None,
        due_to: date | None = None,
        sort: str = "due",
    ) -> bytes:
        """To-dos as CSV, filtered like the list."""
        found: bytes = await self._call(
            "export_todos",
            {},
            query={
                "site": site,
                "client": client,
                "assignee": assignee,
                "state": state,
                "due": due,
                "label": label,
                "severity": severity,
                "priority": priority,
                "text": text,
                "due_from": due_from,
                "due_to": due_to,
                "sort": sort,
            },
        )
        return found

    async def import_todos(self, body: TodoTable) -> TodosImported:
        """Make to-dos of a CSV table, one of each row: all of them or none."""
        found: TodosImported = await self._call("import_todos", {}, body=body)
        return found

    async def list_recurring(self, client: int | None = None) -> list[RecurringOut]:
        """To-dos that come back, by when the next one is made."""
        found: list[RecurringOut] = await self._call("list_recurring", {}, query={"client": client})
        return found

    async def add_recurring(self, body: RecurringBody) -> RecurringOut:
        """Let a to-do come back on the days of a rule."""
        found: RecurringOut = await self._call("add_recurring", {}, body=body)
        return found

    async def remove_recurring(self, recurring_id: int) -> None:
        """Let a to-do come back no more; those that were made stay."""
        await self._call("remove_recurring", {"recurring_id": recurring_id})

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

    async def list_todo_files(self, todo_id: int) -> list[TodoFileOut]:
        """The attachments of a to-do."""
        found: list[TodoFileOut] = await self._call("list_todo_files", {"todo_id": todo_id})
        return found

    async def add_todo_file(self, todo_id: int, body: TodoFileBody) -> TodoFileOut:
        """Attach a file to a to-do."""
        found: TodoFileOut = await self._call("add_todo_file", {"todo_id": todo_id}, body=body)
        return found

    async def get_todo_file(self, todo_id: int, file_id: int) -> bytes:
        """An attachment itself."""
        found: bytes = await self._call("get_todo_file", {"todo_id": todo_id, "file_id": file_id})
        return found

    async def remove_todo_file(self, todo_id: int, file_id: int) -> None:
        """Take an attachment away."""
        await self._call("remove_todo_file", {"todo_id": todo_id, "file_id": file_id})

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
