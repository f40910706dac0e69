"""Plans, their settings, and access to sites that are not public."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from pydantic import Field, TypeAdapter, WithJsonSchema

from hodcarrier.core.plan import Plan
from hodcarrier.core.settings import SettingGroup, SettingKind
from hodcarrier.core.web.parameters import SessionParameter
from hodcarrier.wire.base import Wire


def _partial_plan() -> dict[str, Any]:
    """The JSON schema of some settings of a plan: all that there are, none of them required."""
    schema = TypeAdapter(Plan).json_schema()
    schema = _in_place(schema, schema.pop("$defs", {}))
    schema.pop("required", None)
    for setting in schema["properties"].values():
        setting.pop("default", None)
    return {**schema, "title": "PlanValues", "additionalProperties": False}


def _in_place(schema: Any, parts: dict[str, Any]) -> Any:
    """A schema with the parts that it refers to in their places: it becomes a piece of a larger document, which does not know them."""
    if isinstance(schema, list):
        return [_in_place(each, parts) for each in schema]
    if not isinstance(schema, dict):
        return schema
    if "$ref" in schema:
        return _in_place(parts[schema["$ref"].rsplit("/", 1)[-1]], parts)
    return {name: _in_place(each, parts) for name, each in schema.items()}


# Settings as a person gives them. They are read by the core, whose messages name ranges and remedies.
PlanValues = Annotated[dict[str, Any], WithJsonSchema(_partial_plan())]


class PlanOut(Wire):
    """A site's plan; ``version`` goes back in ``If-Match`` when it is changed.

    ``notices`` are what to know before the next run: addresses that the plan names and yet leaves out.
    """

    values: Plan
    version: int
    defaults: Plan
    proposed_drops: list[SessionParameter] = []
    notices: list[str] = []


class PlanBody(Wire):
    """New values for a plan; what is left out stays."""

    values: PlanValues = Field(examples=[{"rate_per_s": 2, "thresholds": {"words_min": 120}}])


class PlanToml(Wire):
    """A plan as TOML."""

    toml: str = Field(examples=["rate_per_s = 2.0\n"])


class PlanCopy(Wire):
    """The site whose plan is copied."""

    from_site: int


class PreviewBody(Wire):
    """Values to try and addresses to try them on; no addresses: pages of the latest run."""

    values: PlanValues = Field(default_factory=dict, examples=[{"exclude": ["/basket*"]}])
    addresses: list[str] = Field(default_factory=list, max_length=500)


class PreviewRow(Wire):
    """What a plan would do with an address."""

    url: str
    fetched: bool
    why: str


class SettingOut(Wire):
    """What a setting of a plan means. ``unit`` is that of a figure; ``locked``: this member may not change it."""

    name: str
    group: SettingGroup
    group_name: str
    label: str
    text: str
    kind: SettingKind
    advanced: bool
    choices: list[str]
    unit: str
    locked: bool


class AccessBody(Wire):
    """What opens a site that is not public. Sealed when it is kept, and never shown again."""

    username: str = Field(default="", repr=False, max_length=500)
    password: str = Field(default="", repr=False, max_length=2000)
    headers: dict[str, str] = Field(default_factory=dict, repr=False)
    cookies: dict[str, str] = Field(default_factory=dict, repr=False)


class AccessOut(Wire):
    """What kinds of access are kept: the names of headers and cookies, and no value. It is sent to ``origins`` alone."""

    password: bool = False
    headers: list[str] = []
    cookies: list[str] = []
    origins: list[str] = []
    changed_at: datetime | None = None
