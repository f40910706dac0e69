"""The OpenAPI document keeps its word: requests generated from it are answered with the statuses, types and models it names."""

from __future__ import annotations

from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import content_type_conformance, response_schema_conformance, status_code_conformance

from hodcarrier.core.permissions import Role
from hodcarrier.wire.operations import NOUNS
from tests.service.agency import Agency, make_agency

CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
# These go on for ever, or take away what later requests need.
LEFT_OUT = ("watch_changes", "watch_run", "sign_out", "remove_client", "remove_site")
EXAMPLES = 8


@pytest.fixture(scope="module")
def agency(tmp_path_factory: pytest.TempPathFactory) -> Agency:
    return make_agency(tmp_path_factory.mktemp("agency"))


@pytest.fixture(scope="module")
def operations(agency: Agency) -> dict[str, Any]:
    # The document is read without a request: one that takes long on a busy machine would be given up after seconds.
    schema = schemathesis.openapi.from_dict(agency.app.openapi())
    schema.app = agency.app
    return {found.ok().definition.raw["operationId"]: found.ok() for found in schema.get_all_operations()}


@pytest.mark.parametrize("noun", NOUNS)
def test_answers_are_as_documented(agency: Agency, operations: dict[str, Any], noun: str) -> None:
    for operation in NOUNS[noun]:
        if operation.name not in LEFT_OUT:
            _try(agency, operations[operation.name])


def _try(agency: Agency, operation: Any) -> None:
    headers = {"Authorization": f"Bearer {agency.tokens[Role.OWNER]}"}

    @settings(
        max_examples=EXAMPLES,
        deadline=None,
        derandomize=True,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy())
    def holds(case: Any) -> None:
        case.call_and_validate(headers=headers, checks=CHECKS)

    holds()
