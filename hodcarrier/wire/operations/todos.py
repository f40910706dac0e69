"""Operations on to-dos: those there are, those that come back, tables, attachments, share links."""

from datetime import date
from typing import Literal

from hodcarrier.core.states import DueSpan, Priority, Severity, TodoState
from hodcarrier.wire.approvals import AnswerBody, ApprovalOut
from hodcarrier.wire.base import Listed
from hodcarrier.wire.operations.operation import Operation, Parameter
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

FILTERS = (
    Parameter("site", int | None, None),
    Parameter("client", int | None, None),
    Parameter("assignee", int | None, None),
    Parameter("state", TodoState | Literal["live", ""], ""),
    Parameter("due", DueSpan | None, None),
    Parameter("label", str, ""),
    Parameter("severity", Severity | None, None),
    Parameter("priority", Priority | None, None),
    Parameter("text", str, ""),
    Parameter("due_from", date | None, None),
    Parameter("due_to", date | None, None),
    Parameter("sort", str, "due"),
)
OPERATIONS = (
    Operation(
        "list_todos",
        "GET",
        "/todos",
        "To-dos, live ones first; by due date unless another order is asked for.",
        Listed[TodoOut],
        query=(*FILTERS, Parameter("limit", int, 200), Parameter("after", int, 0)),
    ),
    Operation(
        "add_todo", "POST", "/todos", "Create a to-do from a check, a cause, findings, or by hand.", TodoOut, TodoBody, status=201
    ),
    Operation(
        "plan_todos",
        "POST",
        "/todos/plan",
        "The to-dos that would be made, one for each check, cause, page or template. Nothing is changed.",
        list[TodoDraft],
        TodosBody,
    ),
    Operation(
        "add_todos",
        "POST",
        "/todos/all",
        "Create several to-dos, one for each check, cause, page or template, spread over people.",
        list[TodoOut],
        TodosBody,
        status=201,
    ),
    Operation(
        "change_todos",
        "PATCH",
        "/todos",
        "Change several to-dos, all of them or none, with the way back.",
        TodosChanged,
        TodosChange,
    ),
    Operation(
        "get_load", "GET", "/todos/load", "Who has what to do by when.", LoadOut, query=(Parameter("client", int | None, None),)
    ),
    Operation("list_labels", "GET", "/todos/labels", "The labels that to-dos have.", list[str]),
    Operation(
        "list_approvals",
        "GET",
        "/approvals",
        "To-dos that wait for the client to agree, as they are put to it.",
        list[ApprovalOut],
    ),
    Operation(
        "answer_approval",
        "POST",
        "/todos/{todo_id}/approval",
        "Agree to a to-do for the client, or ask back.",
        ApprovalOut,
        AnswerBody,
    ),
    Operation(
        "export_todos", "GET", "/todos/export", "To-dos as CSV, filtered like the list.", bytes, query=FILTERS, console_only=True
    ),
    Operation(
        "import_todos",
        "POST",
        "/todos/import",
        "Make to-dos of a CSV table, one of each row: all of them or none.",
        TodosImported,
        TodoTable,
        status=201,
    ),
    Operation(
        "list_recurring",
        "GET",
        "/recurring-todos",
        "To-dos that come back, by when the next one is made.",
        list[RecurringOut],
        query=(Parameter("client", int | None, None),),
    ),
    Operation(
        "add_recurring",
        "POST",
        "/recurring-todos",
        "Let a to-do come back on the days of a rule.",
        RecurringOut,
        RecurringBody,
        status=201,
    ),
    Operation(
        "remove_recurring",
        "DELETE",
        "/recurring-todos/{recurring_id}",
        "Let a to-do come back no more; those that were made stay.",
    ),
    Operation(
        "check_todo",
        "POST",
        "/todos/{todo_id}/check",
        "Fetch and examine the places of a to-do now, without waiting for the next audit.",
        TodoOut,
    ),
    Operation("get_todo", "GET", "/todos/{todo_id}", "One to-do with its story.", TodoOut),
    Operation(
        "get_todo_sheet",
        "GET",
        "/todos/{todo_id}/sheet",
        "A to-do on one page, to read and to print: places with their source, why they matter, how to fix and how to check them.",
        bytes,
    ),
    Operation("list_todo_files", "GET", "/todos/{todo_id}/files", "The attachments of a to-do.", list[TodoFileOut]),
    Operation(
        "add_todo_file", "POST", "/todos/{todo_id}/files", "Attach a file to a to-do.", TodoFileOut, TodoFileBody, status=201
    ),
    Operation("get_todo_file", "GET", "/todos/{todo_id}/files/{file_id}", "An attachment itself.", bytes),
    Operation("remove_todo_file", "DELETE", "/todos/{todo_id}/files/{file_id}", "Take an attachment away."),
    Operation("list_todo_links", "GET", "/todos/{todo_id}/links", "Whom a to-do was shared with.", list[TodoLinkOut]),
    Operation(
        "add_todo_link",
        "POST",
        "/todos/{todo_id}/links",
        "Share a to-do with somebody who has no account; the address is shown in this answer only.",
        TodoLinkOut,
        TodoLinkBody,
        status=201,
    ),
    Operation("revoke_todo_link", "DELETE", "/todos/{todo_id}/links/{link_id}", "End a share link of a to-do."),
    Operation(
        "change_todo", "PATCH", "/todos/{todo_id}", "Change a to-do or comment on it.", TodoOut, TodoChange, versioned=True
    ),
)
