"""The OpenAPI document: nothing in it goes without saying, and its examples are good ones."""

from __future__ import annotations

import asyncio
from pathlib import Path
from typing import Any

import httpx
import pytest
from pydantic import BaseModel

from hodcarrier.core.permissions import PERMISSIONS
from hodcarrier.service.app import make_app, make_workspace
from hodcarrier.service.settings import Settings
from hodcarrier.wire.examples import BODIES, PARAMETERS
from hodcarrier.wire.fields import FIELDS
from hodcarrier.wire.glossary import OF
from hodcarrier.wire.operations import OPERATIONS

MODELS: dict[str, type[BaseModel]] = {o.body.__name__: o.body for o in OPERATIONS.values() if o.body is not None}


@pytest.fixture(scope="module")
def document(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Any]:
    settings = Settings(data=tmp_path_factory.mktemp("document"))
    return make_app(settings, make_workspace(settings)).openapi()


def fields(document: dict[str, Any]) -> list[tuple[str, str, dict[str, Any]]]:
    models = [
        (model, name, kind)
        for model, s in document["components"]["schemas"].items()
        for name, kind in s.get("properties", {}).items()
    ]
    operations = [o for path in document["paths"].values() for o in path.values()]
    return models + [(o["operationId"], p["name"], p) for o in operations for p in o.get("parameters", ())]


def test_every_field_and_parameter_is_described(document: dict[str, Any]) -> None:
    assert [(owner, name) for owner, name, kind in fields(document) if not kind.get("description")] == []


def test_nothing_is_described_that_there_is_not(document: dict[str, Any]) -> None:
    there = {name for _, name, _ in fields(document)}
    exact = {f"{owner}.{name}" for owner, name, _ in fields(document)}
    assert set(FIELDS) - there == set()
    assert set(OF) - exact == set()


def test_one_signs_in_by_token_or_session_where_that_is_needed(document: dict[str, Any]) -> None:
    assert {s["type"] for s in document["components"]["securitySchemes"].values()} == {"http", "apiKey"}
    assert {name for scheme in document["security"] for name in scheme} == set(document["components"]["securitySchemes"])
    for path in document["paths"].values():
        for operation in path.values():
            assert (operation.get("security") == []) == PERMISSIONS[operation["operationId"]].public


def test_every_request_has_an_example(document: dict[str, Any]) -> None:
    assert set(BODIES) == set(MODELS)
    for name in MODELS:
        assert document["components"]["schemas"][name]["examples"] == [BODIES[name]]


@pytest.mark.parametrize("name", sorted(BODIES))
def test_examples_are_accepted(name: str) -> None:
    MODELS[name].model_validate(BODIES[name])


def test_examples_of_parameters_are_in_use(document: dict[str, Any]) -> None:
    assert set(PARAMETERS) <= {name for _, name, kind in fields(document) if "in" in kind}


def test_readiness(tmp_path: Path) -> None:
    settings = Settings(data=tmp_path)
    app = make_app(settings, make_workspace(settings))

    async def ask() -> list[httpx.Response]:
        async with httpx.AsyncClient(transport=httpx.ASGITransport(app), base_url="http://desk.example") as http:
            async with app.router.lifespan_context(app):
                ready = await http.get("/readyz")
            return [ready, await http.get("/readyz"), await http.get("/healthz")]

    ready, ended, alive = asyncio.run(ask())
    assert (ready.status_code, ready.json()["status"]) == (200, "ready")
    assert ended.status_code == 503 and "not supervised" in ended.json()["detail"]
    assert alive.status_code == 200


def test_every_refusal_is_a_problem_document(document: dict[str, Any]) -> None:
    """As RFC 9457 has it: in its own media type."""
    for operations in document["paths"].values():
        for operation in operations.values():
            for status, answer in operation["responses"].items():
                if status >= "400":
                    (media,) = answer["content"]
                    assert media == "application/problem+json"
                    assert answer["content"][media]["schema"]["$ref"].endswith("/Problem")
