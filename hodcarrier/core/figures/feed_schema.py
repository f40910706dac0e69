"""The JSON Schema (2020-12) of what a figure feed answers, made from the fields of each kind."""

from __future__ import annotations

from typing import Any

from hodcarrier.core.figures.feed import SETTLE_DAYS, SETTLE_DAYS_MAX
from hodcarrier.core.figures.kinds import FIELDS, Field, FieldType
from hodcarrier.core.states import FigureKind

_TYPES: dict[FieldType, dict[str, Any]] = {
    FieldType.DAY: {"type": "string", "format": "date"},
    FieldType.PAGE: {"type": "string", "format": "uri-reference", "minLength": 1, "maxLength": 4000},
    FieldType.HOST: {"type": "string", "maxLength": 300},
    FieldType.TEXT: {"type": "string", "maxLength": 2000},
    FieldType.COUNT: {"type": "integer", "minimum": 0},
    FieldType.NUMBER: {"type": "number"},
    FieldType.RANK: {"type": "integer", "minimum": 1},
}


def feed_schema() -> dict[str, Any]:
    """The schema: ``manifest``, ``closing`` (the last line of a page) and a row of each kind are among its ``$defs``."""
    day = _TYPES[FieldType.DAY]
    offer = {
        "type": "object",
        "required": ["first", "last"],
        "properties": {
            "first": day,
            "last": day,
            "settle_days": {"type": "integer", "minimum": 0, "maximum": SETTLE_DAYS_MAX, "default": SETTLE_DAYS},
        },
    }
    manifest = {
        "type": "object",
        "required": ["site", "kinds"],
        "properties": {
            "site": {"type": "string", "minLength": 1},
            "kinds": {"type": "object", "properties": {kind.value: {"$ref": "#/$defs/offer"} for kind in FigureKind}},
        },
    }
    closing = {
        "type": "object",
        "required": ["rows", "after"],
        "properties": {"rows": {"type": "integer", "minimum": 0}, "after": {"type": ["string", "null"], "minLength": 1}},
        "additionalProperties": False,
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Figure feed, version 1",
        "$defs": {
            "manifest": manifest,
            "offer": offer,
            "closing": closing,
            **{kind.value: _row(FIELDS[kind]) for kind in FigureKind},
        },
    }


def _row(fields: tuple[Field, ...]) -> dict[str, Any]:
    """A row: what it needs must be there, except a position, which is null where the site was not found."""
    properties = {each.name: _property(each) for each in fields}
    return {"type": "object", "required": [each.name for each in fields if each.needed], "properties": properties}


def _property(each: Field) -> dict[str, Any]:
    found = {**_TYPES[each.type], "description": each.head}
    if not each.needed or each.type == FieldType.RANK:
        found["type"] = [found["type"], "null"]
    return found
