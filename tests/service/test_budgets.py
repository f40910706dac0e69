"""Every list and screen is read in few statements, however much the register holds."""

from __future__ import annotations

from pathlib import Path

import pytest
from sqlalchemy import event

from bench.large_register import fill
from hodcarrier.core.permissions import Role
from hodcarrier.register.models import Report, ReportLink, ReportTemplate
from hodcarrier.service.app import make_app
from hodcarrier.service.settings import Settings
from hodcarrier.usecases import members, webhooks
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.members import MemberBody, TokenBody
from hodcarrier.wire.operations import OPERATIONS
from hodcarrier.wire.webhooks import WebhookBody
from tests.places import new_place
from tests.service.agency import NOWHERE, Agency, Things

# Statements of one request, the one that finds out who asks included.
BUDGETS = {
    "list_failing_checks": 4,
    "list_failing_sites": 4,
    "get_desk": 10,
    "get_plan": 6,
    "get_run": 7,
    "get_schedule": 3,
    "get_site": 7,
    "get_todo": 7,
    "list_labels": 2,
    "list_feeds": 4,
    "get_trend": 4,
    "list_all_tokens": 4,
    "list_benchmarks": 2,
    "list_clients": 5,
    "list_deliveries": 2,
    "list_log": 3,
    "list_members": 3,
    "list_messages": 3,
    "list_metrics": 3,
    "list_figures": 3,
    "list_figure_feeds": 3,
    "list_sheets": 5,
    "list_sheet_templates": 3,
    "list_trend_figures": 4,
    "list_figure_files": 3,
    "list_profiles": 4,
    "list_remarks": 3,
    "list_presets": 3,
    "list_approvals": 3,
    "list_views": 3,
    "list_recurring": 3,
    "list_todo_files": 3,
    "get_client": 14,
    "get_week": 6,
    "list_reports": 2,
    "list_report_templates": 3,
    "list_report_schedules": 3,
    "list_report_links": 3,
    "list_runs": 3,
    "list_sessions": 2,
    "list_sites": 5,
    "list_todo_links": 3,
    "list_todos": 3,
    "list_tokens": 3,
    "list_waivers": 3,
    "list_webhooks": 4,
}
SMALL, LARGE = (4, 3, 20), (40, 6, 300)


def agency_of(folder: Path, sites: int, runs: int, todos: int) -> Agency:
    """An agency that has so much of everything, and an owner."""
    work = new_place(folder, "")
    owner = members.add_member(
        work, MemberBody(name="Olive", email="olive@agency.example", role=Role.OWNER, password="long enough words")
    )
    with work.reading() as session:
        token = members.add_token(work, session.get_one(members.Member, owner.id), TokenBody(name="tests")).secret
    fill(work, sites, runs, todos)
    _tell_webhooks(work, sites, owner.id)
    _share_reports(work, sites, owner.id)
    ids = {
        "report_id": 1,
        "webhook_id": 1,
        "site_id": 1,
        "todo_id": 1,
        "run_id": "latest-1",
        "client_id": 1,
        "member_id": owner.id,
    }
    nothing = Things({})
    return Agency(make_app(Settings(data=folder), work), {"owner": token or ""}, Things(ids), nothing, nothing)


def _tell_webhooks(work: Workspace, number: int, member_id: int) -> None:
    """As many webhooks, each with a message that was tried."""
    with work.reading() as session:
        member = session.get_one(members.Member, member_id)
    for n in range(number):
        made = webhooks.add_webhook(work, WebhookBody(name=f"Chat {n}", url="https://chat.example/", client_id=1), member)
        webhooks.try_webhook(work, made.id, member)
    for parcel in webhooks.claim_due(work):
        webhooks.note_refused(work, parcel, 500, "The receiver answered 500.")


def _share_reports(work: Workspace, number: int, member_id: int) -> None:
    """As many reports, the first of them with as many share links, and as many templates."""
    now = work.now()
    shared = {"author_id": member_id, "created_at": now}
    with work.session() as session:
        for n in range(1, number + 1):
            session.add(ReportTemplate(name=f"Template {n}", created_at=now))
            session.add(Report(id=n, site_id=1, title=f"Report {n}", from_day=now.date(), to_day=now.date(), values={}, **shared))
        session.flush()
        for n in range(number):
            session.add(ReportLink(report_id=1, name=f"Reader {n}", secret_hash=f"{n:064}", expires_at=now, **shared))


@pytest.fixture(scope="module")
def agencies(tmp_path_factory: pytest.TempPathFactory) -> list[Agency]:
    return [agency_of(tmp_path_factory.mktemp(name), *size) for name, size in (("small", SMALL), ("large", LARGE))]


def statements_of(agency: Agency, path: str) -> list[str]:
    said: list[str] = []
    with agency.app.state.work.register() as session:
        engine = session.get_bind()

    def note(_connection: object, _cursor: object, statement: str, *_: object) -> None:
        if statement != "BEGIN":
            said.append(statement)

    agency.request("GET", path, "owner")
    event.listen(engine, "before_cursor_execute", note)
    try:
        answer = agency.request("GET", path, "owner")
    finally:
        event.remove(engine, "before_cursor_execute", note)
    assert answer.status_code == 200, answer.text
    return said


@pytest.mark.parametrize("operation", sorted(BUDGETS))
def test_it_takes_no_more_statements_for_more(agencies: list[Agency], operation: str) -> None:
    few, many = (statements_of(agency, agency.own.path(operation).replace(NOWHERE[str], "link-broken")) for agency in agencies)
    assert len(many) == len(few), "\n".join(many[:30])
    assert len(many) <= BUDGETS[operation], "\n".join(many)


def test_every_list_of_the_register_has_a_budget() -> None:
    """Those of one run are read from its file, those of two from their comparison, the catalogue and the settings of plans from none."""
    lists = {
        name
        for name, operation in OPERATIONS.items()
        if operation.method == "GET"
        and name.startswith("list_")
        and "run_id" not in operation.path
        and not operation.path.startswith("/comparisons")
        and name not in ("list_catalogue", "list_plan_settings", "list_columns", "list_inventory_views")
    }
    assert lists <= set(BUDGETS), lists - set(BUDGETS)


@pytest.mark.parametrize("operation", ["list_runs", "list_todos"])
def test_long_lists_come_in_parts(agencies: list[Agency], operation: str) -> None:
    path = agencies[1].own.path(operation)
    whole = agencies[1].request("GET", f"{path}?limit=1000", "owner").json()
    assert whole["after"] is None and whole["total"] == len(whole["items"]) == (240 if operation == "list_runs" else 300)
    met, after = [], "0"
    while after is not None:
        part = agencies[1].request("GET", f"{path}?limit=70&after={after}", "owner").json()
        assert part["total"] == whole["total"] and len(part["items"]) <= 70
        met += part["items"]
        after = part["after"]
    assert met == whole["items"]


@pytest.mark.parametrize("order", ["due", "severity", "title", "state", "assignee", "cleared"])
def test_to_dos_are_sorted_with_those_without_a_value_last(agencies: list[Agency], order: str) -> None:
    ranks = {"critical": 0, "high": 1, "medium": 2, "low": 3}

    def value(todo: dict[str, object]) -> object:
        found = todo[order] if order != "cleared" else int(str(todo["cleared"])) / int(str(todo["places"]))
        return ranks[str(found)] if order == "severity" else str(found).lower() if isinstance(found, str) else found

    path = agencies[1].own.path("list_todos")
    for sort, backwards in ((order, False), (f"-{order}", True)):
        items = agencies[1].request("GET", f"{path}?limit=1000&sort={sort}", "owner").json()["items"]
        live = [todo for todo in items if todo["state"] not in ("confirmed", "dropped")]
        assert items[: len(live)] == live, "live ones come first"
        values = [value(todo) for todo in live if value(todo) not in (None, "")]
        assert values == sorted(values, reverse=backwards) and len(values) > 50  # type: ignore[type-var]
        assert all(value(todo) in (None, "") for todo in live[len(values) :])


def test_an_order_that_there_is_not_is_refused(agencies: list[Agency]) -> None:
    answer = agencies[0].request("GET", f"{agencies[0].own.path('list_todos')}?sort=colour", "owner")
    assert answer.status_code == 422 and "due" in answer.json()["hint"]
