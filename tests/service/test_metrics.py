"""What a monitor is told, and who may ask."""

from __future__ import annotations

from pathlib import Path

import pytest
from prometheus_client.parser import text_string_to_metric_families

from hodcarrier.core.permissions import Role
from hodcarrier.usecases import runs
from tests.service.agency import Agency, make_agency


@pytest.fixture(scope="module")
def agency(tmp_path_factory: pytest.TempPathFactory) -> Agency:
    return make_agency(tmp_path_factory.mktemp("agency"))


def figures(agency: Agency) -> dict[tuple[str, str], float]:
    """Each figure by its name and the value of its label."""
    answer = agency.request("GET", "/metrics", "reading")
    assert answer.status_code == 200 and answer.headers["content-type"].startswith("text/plain; version=0.0.4")
    return {
        (sample.name, "".join(sample.labels.values())): sample.value
        for family in text_string_to_metric_families(answer.text)
        for sample in family.samples
    }


def test_runs_mails_and_room_are_told_and_no_names(agency: Agency) -> None:
    found = figures(agency)
    work = agency.app.state.work
    assert found["hodcarrier_runs", "done"] == len([r for r in runs.list_runs(work).items if r.state == "done"]) > 0
    assert (found["hodcarrier_runs", "queued"], found["hodcarrier_queue_seconds", ""]) == (0, 0)
    assert found["hodcarrier_disk_free_bytes", ""] > 0 and found["hodcarrier_workers", ""] == 2
    assert found["hodcarrier_ready", ""] == 0, "nothing supervises runs in this test"
    text = agency.request("GET", "/metrics", "reading").text
    assert "Rope" not in text and "example" not in text


def test_requests_are_counted_by_how_they_ended(agency: Agency) -> None:
    before = figures(agency).get(("hodcarrier_request_seconds_count", "GET4xx"), 0)
    agency.request("GET", "/api/v1/sites/999", Role.OWNER)
    assert figures(agency)["hodcarrier_request_seconds_count", "GET4xx"] == before + 1


@pytest.mark.parametrize(("role", "status"), [(None, 401), (Role.GUEST, 403), (Role.FIXER, 200)])
def test_they_are_for_the_agency(agency: Agency, role: Role | None, status: int) -> None:
    assert agency.request("GET", "/metrics", role).status_code == status


def test_a_run_that_waits_is_seen(tmp_path: Path) -> None:
    agency = make_agency(tmp_path)
    runs.queue_run(agency.app.state.work, int(agency.own.ids["site_id"]))
    found = figures(agency)
    assert found["hodcarrier_runs", "queued"] == 1 and found["hodcarrier_queue_seconds", ""] >= 0
