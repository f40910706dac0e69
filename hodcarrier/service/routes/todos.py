"""To-dos: made, listed, changed, and who has what to do."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query, Response

from hodcarrier.audit.check_now import check_now
from hodcarrier.report.sheet import draw_sheet
from hodcarrier.service.attached import attached
from hodcarrier.service.deps import Version, Work, version_of
from hodcarrier.service.guard import Asker, Granted, serves
from hodcarrier.usecases import (
    approvals,
    recurring_todos,
    todo_changes,
    todo_files,
    todo_links,
    todo_lists,
    todo_load,
    todo_tables,
    todos,
)
from hodcarrier.usecases.todo_sheet import todo_sheet
from hodcarrier.wire.approvals import AnswerBody, ApprovalOut
from hodcarrier.wire.base import Listed
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

router = APIRouter()
EXPORT_ROWS_MAX = 100_000
Which = Annotated[todo_lists.TodoFilter, Depends()]


@serves(router, "get_todo_sheet")
def get_todo_sheet(todo_id: int, work: Work) -> Response:
    return Response(draw_sheet(todo_sheet(work, todo_id)), media_type="text/html", headers={"X-Robots-Tag": "noindex"})


@serves(router, "list_todo_links")
def list_todo_links(todo_id: int, work: Work) -> list[TodoLinkOut]:
    return todo_links.list_todo_links(work, todo_id)


@serves(router, "add_todo_link")
def add_todo_link(todo_id: int, body: TodoLinkBody, work: Work, member: Asker) -> TodoLinkOut:
    return todo_links.add_todo_link(work, todo_id, body, member)


@serves(router, "revoke_todo_link")
def revoke_todo_link(todo_id: int, link_id: int, work: Work, member: Asker) -> None:
    todo_links.revoke_todo_link(work, todo_id, link_id, member)


@serves(router, "list_todos")
def list_todos(
    work: Work,
    which: Which,
    limit: Annotated[int, Query(ge=1, le=1000)] = 200,
    after: Annotated[int, Query(ge=0)] = 0,
) -> Listed[TodoOut]:
    return todo_lists.list_todos(work, which, limit=limit, after=after)


@serves(router, "list_approvals")
def list_approvals(work: Work, grant: Granted) -> list[ApprovalOut]:
    return approvals.list_approvals(work, grant.only_client)


@serves(router, "answer_approval")
def answer_approval(todo_id: int, body: AnswerBody, work: Work, member: Asker) -> ApprovalOut:
    return approvals.answer_approval(work, todo_id, body, member)


@serves(router, "export_todos")
def export_todos(work: Work, which: Which) -> Response:
    found = todo_lists.list_todos(work, which, limit=EXPORT_ROWS_MAX)
    headers = {"Content-Disposition": 'attachment; filename="to-dos.csv"'}
    return Response(todo_tables.export_todos(found.items), media_type="text/csv; charset=utf-8", headers=headers)


@serves(router, "import_todos")
def import_todos(body: TodoTable, work: Work, member: Asker) -> TodosImported:
    return todo_tables.import_todos(work, body, member)


@serves(router, "list_recurring")
def list_recurring(work: Work, client: int | None = None) -> list[RecurringOut]:
    return recurring_todos.list_recurring(work, client)


@serves(router, "add_recurring")
def add_recurring(body: RecurringBody, work: Work, member: Asker) -> RecurringOut:
    return recurring_todos.add_recurring(work, body, member)


@serves(router, "remove_recurring")
def remove_recurring(recurring_id: int, work: Work, member: Asker) -> None:
    recurring_todos.remove_recurring(work, recurring_id, member)


@serves(router, "list_todo_files")
def list_todo_files(todo_id: int, work: Work) -> list[TodoFileOut]:
    return todo_files.list_files(work, todo_id)


@serves(router, "add_todo_file")
def add_todo_file(todo_id: int, body: TodoFileBody, work: Work, member: Asker) -> TodoFileOut:
    return todo_files.add_file(work, todo_id, body, member)


@serves(router, "get_todo_file")
def get_todo_file(todo_id: int, file_id: int, work: Work) -> Response:
    found, content = todo_files.read_file(work, todo_id, file_id)
    return attached(found.name, found.media, content)


@serves(router, "remove_todo_file")
def remove_todo_file(todo_id: int, file_id: int, work: Work, member: Asker) -> None:
    todo_files.remove_file(work, todo_id, file_id, member)


@serves(router, "add_todo")
def add_todo(body: TodoBody, work: Work, member: Asker) -> TodoOut:
    return todos.add_todo(work, body, member)


@serves(router, "plan_todos")
def plan_todos(body: TodosBody, work: Work) -> list[TodoDraft]:
    return todos.plan_todos(work, body)


@serves(router, "add_todos")
def add_todos(body: TodosBody, work: Work, member: Asker) -> list[TodoOut]:
    return todos.add_todos(work, body, member)


@serves(router, "change_todos")
def change_todos(body: TodosChange, work: Work, member: Asker) -> TodosChanged:
    return todo_changes.change_todos(work, body, member)


@serves(router, "get_load")
def get_load(work: Work, client: int | None = None) -> LoadOut:
    return todo_load.get_load(work, client_id=client)


@serves(router, "list_labels")
def list_labels(work: Work) -> list[str]:
    return todo_lists.list_labels(work)


@serves(router, "get_todo")
def get_todo(todo_id: int, work: Work) -> TodoOut:
    return todo_lists.get_todo(work, todo_id)


@serves(router, "check_todo")
def check_todo(todo_id: int, work: Work, member: Asker) -> TodoOut:
    return check_now(work, todo_id, member)


@serves(router, "change_todo")
def change_todo(todo_id: int, body: TodoChange, work: Work, member: Asker, version: Version = None) -> TodoOut:
    return todo_changes.change_todo(work, todo_id, body, version_of(version), member)
