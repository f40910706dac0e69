"""A register that cannot be written: reading goes on, and whoever writes is told why."""

from __future__ import annotations

import sqlite3
from pathlib import Path

import pytest
from sqlalchemy import event

from hodcarrier.core.permissions import Role
from hodcarrier.usecases import clients
from tests.service.agency import make_agency


@pytest.mark.parametrize(
    ("pragma", "said"),
    [("PRAGMA max_page_count = 1", "The disk is full"), ("PRAGMA query_only = 1", "cannot be written")],
)
def test_what_reads_goes_on_and_what_writes_is_told_why_not(tmp_path: Path, pragma: str, said: str) -> None:
    agency = make_agency(tmp_path)
    with agency.app.state.work.register() as session:
        engine = session.get_bind()
    engine.dispose()

    @event.listens_for(engine, "connect")
    def _limit(connection: sqlite3.Connection, _record: object) -> None:
        connection.execute(pragma)

    body = {"site_id": agency.own.ids["site_id"], "title": "Too much", "note": "x" * 200_000}
    refused = agency.request("POST", "/api/v1/todos", Role.OWNER, body)
    assert refused.status_code == 503
    assert said in refused.json()["detail"] and "Nothing was changed" in refused.json()["detail"]
    assert refused.headers["content-type"] == "application/problem+json"
    for path in ("/desk", "/sites", "/runs", f"/runs/{agency.own.ids['run_id']}/findings"):
        assert agency.request("GET", f"/api/v1{path}", Role.OWNER).status_code == 200
    assert clients.list_clients(agency.app.state.work)
