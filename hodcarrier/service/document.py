"""The OpenAPI document: what the routes say of themselves, with every field described, examples, and how one signs in."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from fastapi import FastAPI

from hodcarrier.core.permissions import PERMISSIONS
from hodcarrier.core.settings import SETTINGS
from hodcarrier.core.states import Topic
from hodcarrier.service.deps import COOKIE
from hodcarrier.wire.base import Problem
from hodcarrier.wire.examples import BODIES, PARAMETERS
from hodcarrier.wire.glossary import description_of
from hodcarrier.wire.webhooks import TOPICS, message_of

SCHEMES = {
    "token": {"type": "http", "scheme": "bearer", "description": "A token of a member: `hodcarrier token add NAME`."},
    "session": {"type": "apiKey", "in": "cookie", "name": COOKIE, "description": "The console's session: `sign_in` sets it."},
}
_PLAN = {setting.name: f"{setting.label}. {setting.text}" for setting in SETTINGS}
# Models that are made for one operation by the framework, and whose fields are those of problems (RFC 9457) or of a setting.
_NOT_OURS = ("HTTPValidationError", "ValidationError")


class Described(FastAPI):
    """An application whose document is complete."""

    def openapi(self) -> dict[str, Any]:
        """The document (OpenAPI 3.1). Raises :class:`KeyError` for a field that nobody described."""
        if self.openapi_schema is None:
            document = super().openapi()
            document["components"]["securitySchemes"] = SCHEMES
            document["security"] = [{name: []} for name in SCHEMES]
            # No route names its model: see `guard.PROBLEM`.
            document["components"]["schemas"]["Problem"] = Problem.model_json_schema()
            document["components"]["schemas"] = dict(sorted(document["components"]["schemas"].items()))
            for name in _NOT_OURS:
                document["components"]["schemas"].pop(name, None)  # nothing refers to them: refusals are problems
            for name, schema in document["components"]["schemas"].items():
                _describe_model(name, schema)
            for operations in document["paths"].values():
                for operation in operations.values():
                    _describe_operation(operation)
            for operations in document["webhooks"].values():
                operations["post"]["responses"] = {"2XX": {"description": "The message is taken."}}
                operations["post"]["security"] = []
        return self.openapi_schema or {}


def describe_messages(app: FastAPI) -> None:
    """Let the document say what webhooks are sent (OpenAPI 3.1, 4.8.1: ``webhooks``)."""
    for topic, words in TOPICS.items():
        app.webhooks.add_api_route(topic, _taker(topic), methods=["POST"], summary=words, operation_id=topic, status_code=204)


def _taker(topic: Topic) -> Callable[[Any], None]:
    def take(body: Any) -> None:
        raise NotImplementedError("receivers are other programs")

    take.__annotations__["body"] = message_of(topic)
    return take


def _describe_model(name: str, schema: dict[str, Any]) -> None:
    is_plan = name.startswith("Plan") and "rate_per_s" in schema.get("properties", {})
    for field, kind in schema.get("properties", {}).items():
        if "description" not in kind:
            kind["description"] = _PLAN[field] if is_plan else description_of(name, field)
    if name in BODIES:
        schema["examples"] = [BODIES[name]]


def _describe_operation(operation: dict[str, Any]) -> None:
    if PERMISSIONS[operation["operationId"]].public:
        operation["security"] = []
    for parameter in operation.get("parameters", ()):
        name = parameter["name"]
        if "description" not in parameter:
            parameter["description"] = description_of(operation["operationId"], name)
        if name in PARAMETERS:
            parameter["example"] = PARAMETERS[name]
        elif parameter["in"] == "path":
            parameter["example"] = 1
