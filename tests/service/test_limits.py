"""A client that is limited to some members is not there for the others: on no list, behind no number, in no body."""

from __future__ import annotations

import json
from collections.abc import Iterator

import pytest

from hodcarrier.core.permissions import PERMISSIONS, Extent, Role
from hodcarrier.wire.examples import BODIES
from hodcarrier.wire.operations import OPERATIONS
from tests.service.agency import Agency, make_agency

OUTSIDERS = (Role.ANALYST, Role.FIXER)
HIDDEN = "twine"


@pytest.fixture(scope="module")
def agency(tmp_path_factory: pytest.TempPathFactory) -> Agency:
    """Two clients, of which one is limited to a lead, and to who has work there."""
    made = make_agency(tmp_path_factory.mktemp("agency"))
    lead = made.request("GET", "/api/v1/session", Role.LEAD).json()["id"]
    path = f"/api/v1/clients/{made.other.ids['client_id']}"
    there = made.request("GET", "/api/v1/members", Role.OWNER).json()
    colleague = next(member["id"] for member in there if member["name"] == "Other")
    limited = made.request("PATCH", path, Role.OWNER, {"member_ids": [lead, colleague]})
    assert sorted(limited.json()["member_ids"]) == sorted([lead, colleague])
    return made


def readable(*, with_things: bool) -> Iterator[tuple[str, Role]]:
    """What outsiders may read: what names something, or lists."""
    for name, operation in sorted(OPERATIONS.items()):
        named = {"client_id", "site_id", "run_id", "todo_id", "benchmark_id", "report_id"} & {
            n for n, _ in operation.path_parameters
        }
        for role in OUTSIDERS:
            may = PERMISSIONS[name].of(role) != Extent.NONE and not PERMISSIONS[name].public
            if operation.method == "GET" and may and bool(named) == with_things:
                yield name, role


@pytest.mark.parametrize(("name", "role"), list(readable(with_things=False)))
def test_no_list_holds_anything_of_it(agency: Agency, name: str, role: Role) -> None:
    query = {"search": "?text=twine", "compare_runs": None, "list_page_changes": None, "list_compared_parts": None}.get(name, "")
    if query is None or "{" in OPERATIONS[name].path:
        return
    answer = agency.request("GET", agency.own.path(name) + query, role)
    assert HIDDEN not in answer.text.lower(), answer.text[:500]


@pytest.mark.parametrize(("name", "role"), list(readable(with_things=True)))
def test_nothing_of_it_is_found_by_its_number(agency: Agency, name: str, role: Role) -> None:
    answer = agency.request("GET", agency.other.path(name), role)
    assert answer.status_code in (404, 422) and HIDDEN not in answer.text.lower(), answer.text[:300]
    assert (
        agency.request("GET", agency.own.path(name), role).status_code
        == agency.request("GET", agency.own.path(name), Role.OWNER).status_code
    )


@pytest.mark.parametrize("name", ["site_id", "client_id", "from_site", "preset_id"])
@pytest.mark.parametrize(
    "operation", sorted(o.name for o in OPERATIONS.values() if o.body is not None and not PERMISSIONS[o.name].public)
)
def test_nothing_of_it_is_reached_by_a_body(agency: Agency, operation: str, name: str) -> None:
    body = json.loads(json.dumps(BODIES[OPERATIONS[operation].body.__name__]))
    if name not in body or PERMISSIONS[operation].of(Role.ANALYST) == Extent.NONE or name not in agency.other.ids:
        return
    body[name] = agency.other.ids[name]
    answer = agency.request(OPERATIONS[operation].method, agency.own.path(operation), Role.ANALYST, body)
    assert answer.status_code >= 400 and HIDDEN not in answer.text.lower(), answer.text[:300]


@pytest.mark.parametrize(
    "query",
    ["/api/v1/todos?client={client_id}", "/api/v1/sites?client={client_id}", "/api/v1/week?client={client_id}",
     "/api/v1/todos/load?client={client_id}", "/api/v1/recurring-todos?client={client_id}", "/api/v1/todos/export?client={client_id}"],
)  # fmt: skip
def test_nothing_of_it_is_reached_by_a_filter(agency: Agency, query: str) -> None:
    path = query.format(**agency.other.ids)
    assert (
        HIDDEN in agency.request("GET", path, Role.LEAD).text.lower() or "load" in path or "recurring" in path or "week" in path
    )
    assert HIDDEN not in agency.request("GET", path, Role.ANALYST).text.lower()


def test_its_runs_are_compared_by_nobody_else(agency: Agency) -> None:
    path = f"/api/v1/comparisons?base={agency.other.ids['run_id']}&head={agency.other.ids['run_id']}"
    assert agency.request("GET", path, Role.ANALYST).status_code == 404


def test_who_is_let_in_sees_it_as_before(agency: Agency) -> None:
    for role in (Role.OWNER, Role.LEAD):
        assert HIDDEN in agency.request("GET", "/api/v1/clients", role).text.lower()
    me = agency.request("GET", "/api/v1/session", Role.FIXER).json()["id"]
    path = f"/api/v1/clients/{agency.other.ids['client_id']}"
    kept = agency.request("GET", path, Role.OWNER).json()["client"]["member_ids"]
    agency.request("PATCH", path, Role.LEAD, {"member_ids": [*kept, me]})
    assert HIDDEN in agency.request("GET", "/api/v1/clients", Role.FIXER).text.lower()
    assert HIDDEN not in agency.request("GET", "/api/v1/clients", Role.ANALYST).text.lower()
    agency.request("PATCH", path, Role.LEAD, {"member_ids": kept})


def test_an_analyst_does_not_say_who_sees_a_client(agency: Agency) -> None:
    path = f"/api/v1/clients/{agency.own.ids['client_id']}"
    assert agency.request("PATCH", path, Role.ANALYST, {"member_ids": []}).status_code == 403
    assert agency.request("PATCH", path, Role.ANALYST, {"note": "Fine"}).status_code == 200
