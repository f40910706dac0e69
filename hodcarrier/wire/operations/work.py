"""Operations on the team's work: the desk, to-dos, benchmarks, reports."""

from datetime import date
from typing import Literal

from hodcarrier.core.states import Priority, Severity, TodoState
from hodcarrier.wire.base import Listed
from hodcarrier.wire.benchmarks import BenchmarkBody, BenchmarkBrief, BenchmarkOut
from hodcarrier.wire.changes import ChangesOut
from hodcarrier.wire.desk import DeskOut
from hodcarrier.wire.operations.operation import Operation, Parameter
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

OPERATIONS = (
    Operation(
        "watch_changes",
        "GET",
        "/changes",
        "Which lists have changed, as server-sent events: one whenever something was made, changed or removed. It ends after `seconds`.",
        bytes,
        query=(Parameter("seconds", int, 600),),
        events=ChangesOut,
    ),
    Operation("get_desk", "GET", "/desk", "What needs attention today.", DeskOut),
    Operation(
        "acknowledge_alert",
        "POST",
        "/desk/alerts/{alert_id}/acknowledge",
        "Take what a run changed for the worse off the desk, until further findings come.",
    ),
    Operation(
        "list_todos",
        "GET",
        "/todos",
        "To-dos, live ones first; by due date unless another order is asked for.",
        Listed[TodoOut],
        query=(
            Parameter("site", int | None, None),
            Parameter("client", int | None, None),
            Parameter("assignee", int | None, None),
            Parameter("state", TodoState | Literal["live", ""], ""),
            Parameter("overdue", bool, False),
            Parameter("label", str, ""),
            Parameter("severity", Severity | None, None),
            Parameter("priority", Priority | None, None),
            Parameter("text", str, ""),
            Parameter("due_from", date | None, None),
            Parameter("due_to", date | None, None),
            Parameter("sort", str, "due"),
            Parameter("limit", int, 200),
            Parameter("after", int, 0),
        ),
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
    Operation("list_benchmarks", "GET", "/benchmarks", "All benchmarks.", list[BenchmarkBrief]),
    Operation("add_benchmark", "POST", "/benchmarks", "Set up a benchmark.", BenchmarkBrief, BenchmarkBody, status=201),
    Operation("get_benchmark", "GET", "/benchmarks/{benchmark_id}", "The latest round of a benchmark.", BenchmarkOut),
    Operation(
        "start_round", "POST", "/benchmarks/{benchmark_id}/rounds", "Run all sites of a benchmark now.", BenchmarkOut, status=202
    ),
    Operation("list_reports", "GET", "/reports", "Reports, the latest first.", list[ReportOut]),
    Operation("add_report", "POST", "/reports", "Make a report over a span of days.", ReportOut, ReportBody, status=201),
    Operation("get_report", "GET", "/reports/{report_id}", "One report.", ReportOut),
    Operation("get_report_page", "GET", "/reports/{report_id}/html", "A report as a web page.", bytes),
    Operation("get_report_pdf", "GET", "/reports/{report_id}/pdf", "A report as a PDF.", bytes),
)
