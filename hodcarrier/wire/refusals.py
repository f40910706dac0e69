"""What is wrong with a value, in words: one place for the HTTP interface and the command line."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from pydantic import ValidationError

INTEGER_MAX = 2**63 - 1

# By the validator's name of the error: what follows the field's name.
_WORDS: dict[str, Callable[[Mapping[str, Any]], str]] = {
    "missing": lambda _: "is missing",
    "extra_forbidden": lambda _: "is not known here",
    "string_type": lambda _: "must be text",
    "string_too_short": lambda c: "must not be empty" if c["min_length"] == 1 else f"needs at least {c['min_length']} characters",
    "string_too_long": lambda c: f"may have {c['max_length']} characters at most",
    "too_short": lambda c: f"needs at least {c['min_length']} value{'s' if c['min_length'] != 1 else ''}",
    "too_long": lambda c: f"may have {c['max_length']} values at most",
    "int_type": lambda _: "must be a whole number",
    "int_parsing": lambda _: "must be a whole number",
    "int_from_float": lambda _: "must be a whole number",
    "int_parsing_size": lambda _: "is too large a number",
    "float_type": lambda _: "must be a number",
    "float_parsing": lambda _: "must be a number",
    "finite_number": lambda _: "must be a finite number",
    "bool_type": lambda _: "must be true or false",
    "bool_parsing": lambda _: "must be true or false",
    "greater_than_equal": lambda c: f"must be {c['ge']:g} or more",
    "greater_than": lambda c: f"must be more than {c['gt']:g}",
    "less_than_equal": lambda c: "is too large a number" if c["le"] == INTEGER_MAX else f"must be {c['le']:g} or less",
    "less_than": lambda c: f"must be less than {c['lt']:g}",
    "literal_error": lambda c: f"must be one of {_plain(c['expected'])}",
    "enum": lambda c: f"must be one of {_plain(c['expected'])}",
    "date_type": lambda _: "must be a day such as 2026-11-26",
    "date_parsing": lambda _: "must be a day such as 2026-11-26",
    "date_from_datetime_parsing": lambda _: "must be a day such as 2026-11-26",
    "datetime_parsing": lambda _: "must be a moment such as 2026-11-26T14:05:00Z",
    "list_type": lambda _: "must be a list",
    "dict_type": lambda _: "must be a table of names and values",
    "model_type": lambda _: "must be a table of names and values",
    "model_attributes_type": lambda _: "must be a table of names and values",
    "json_invalid": lambda _: "is not JSON",
}


def _plain(expected: str) -> str:
    return expected.replace("'", "").replace(" or ", ", ")


def refusal(error: Mapping[str, Any], place: str) -> str:
    """A sentence about one error that a model found: the field and what it takes."""
    words = _WORDS.get(error["type"])
    said = words(error.get("ctx", {})) if words else str(error["msg"]).removeprefix("Value error, ").rstrip(".")
    return f"{place or 'The request'} {said}." if words else f"{place or 'The request'}: {said}."


def place_of(steps: Sequence[int | str]) -> str:
    """The field that an error is about: its name with what leads to it."""
    return ".".join(str(step) for step in steps if step != "[key]")


def refused(error: ValidationError) -> tuple[str, str]:
    """The first field that a model refuses, and the sentence about it."""
    first = error.errors()[0]
    place = place_of(first["loc"])
    return place, refusal(first, place)
