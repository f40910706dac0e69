"""The language of filters: conditions on columns, joined by ``and``, ``or`` and ``not``, with brackets.

``status = 404 and (words < 200 or title is empty) and url contains "/shop/"``. ``docs/filters.md`` describes it.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from functools import cache
from importlib.resources import files
from math import isfinite
from typing import Any

from lark import Lark, Token, Tree, UnexpectedInput

from hodcarrier.core.errors import InvalidInput, InvalidPlan
from hodcarrier.core.inventory.columns import Column
from hodcarrier.core.states import ColumnKind, Operator
from hodcarrier.core.web.patterns import REGEX_MARK, compile_pattern

LENGTH_MAX = 2_000
CONDITIONS_MAX = 50
_ORDER = (Operator.LESS, Operator.MOST, Operator.MORE, Operator.LEAST, Operator.BETWEEN)
_TEXT = (Operator.CONTAINS, Operator.STARTS, Operator.ENDS, Operator.MATCHES)
_ALWAYS = (Operator.IS, Operator.IS_NOT, Operator.IN, Operator.EMPTY)
# How columns of each kind can be compared.
OPERATORS: dict[ColumnKind, tuple[Operator, ...]] = {
    ColumnKind.TEXT: (*_ALWAYS, *_TEXT),
    ColumnKind.NUMBER: (*_ALWAYS, *_ORDER),
    ColumnKind.DAY: (*_ALWAYS, *_ORDER),
    ColumnKind.FLAG: (Operator.IS, Operator.IS_NOT, Operator.EMPTY),
}
# What a figure may be followed by, for columns in bytes, milliseconds and seconds.
UNITS: dict[str, dict[str, float]] = {
    "bytes": {"b": 1, "kb": 1_000, "kib": 1_024, "mb": 1_000_000, "mib": 1_048_576},
    "ms": {"ms": 1, "s": 1_000},
    "s": {"s": 1, "min": 60, "h": 3_600, "d": 86_400},
    "%": {"%": 1},
    "px": {"px": 1},
}
_YES, _NO = frozenset({"yes", "true", "1"}), frozenset({"no", "false", "0"})


@dataclass(frozen=True)
class Condition:
    """A condition on one column. Values are numbers, texts, or for flags ``True`` and ``False``; a day is its ISO 8601 text."""

    column: str
    operator: Operator
    values: tuple[str | float | bool, ...] = ()


@dataclass(frozen=True)
class AllOf:
    """All of these hold."""

    parts: tuple[Filter, ...]


@dataclass(frozen=True)
class AnyOf:
    """One of these holds, or several."""

    parts: tuple[Filter, ...]


@dataclass(frozen=True)
class Not:
    """This does not hold."""

    part: Filter


Filter = Condition | AllOf | AnyOf | Not
EVERYTHING = AllOf(())


def read_filter(text: str, columns: Mapping[str, Column]) -> Filter:
    """A filter as it is written; nothing filters nothing. Raises :class:`InvalidInput` naming what cannot be read, or which column, operator or
    value there is not."""
    if len(text) > LENGTH_MAX:
        raise InvalidInput(f"The filter has more than {LENGTH_MAX:,} characters.", "Make it shorter.", "where")
    if not text.strip():
        return EVERYTHING
    try:
        tree = _parser().parse(text)
    except UnexpectedInput as error:
        at = error.pos_in_stream
        rest = text[at : at + 20] if isinstance(at, int) and 0 <= at < len(text) else ""
        where = f"at “{rest}”" if rest else "because its end is missing"
        raise InvalidInput(
            f"The filter cannot be read {where}.",
            'Write it like: status = 404 and (words < 200 or url contains "/shop/").',
            "where",
        ) from None
    found = _filter_of(tree, columns)
    if sum(1 for _ in conditions(found)) > CONDITIONS_MAX:
        raise InvalidInput(f"The filter has more than {CONDITIONS_MAX} conditions.", "Use fewer.", "where")
    return found


def read_parameter(name: str, operator: str, value: str, columns: Mapping[str, Column]) -> Filter:
    """A filter as a parameter of an address gives it: ``status=404``, ``words.lt=200``, ``title.has=rope``; an empty value asks for what is
    missing. Raises :class:`InvalidInput`."""
    short = {
        "": Operator.IS,
        "lt": Operator.LESS,
        "gt": Operator.MORE,
        "le": Operator.MOST,
        "ge": Operator.LEAST,
        "not": Operator.IS_NOT,
        "has": Operator.CONTAINS,
    }
    if operator not in short:
        known = ", ".join(each for each in short if each)
        raise InvalidInput(f"There is no operator “{operator}”.", f"Operators are {known}.", name)
    if not value and operator in ("", "not"):
        missing = _condition(name, Operator.EMPTY, (), columns)
        return Not(missing) if operator else missing
    return _condition(name, short[operator], (value,), columns)


def conditions(found: Filter) -> Iterator[Condition]:
    """The conditions that a filter is made of."""
    match found:
        case Condition():
            yield found
        case Not(part):
            yield from conditions(part)
        case AllOf(parts) | AnyOf(parts):
            for part in parts:
                yield from conditions(part)


def write_filter(found: Filter) -> str:
    """A filter as it is read by :func:`read_filter`."""
    match found:
        case Not(part):
            return f"not ({write_filter(part)})"
        case AllOf(parts):
            return " and ".join(
                f"({write_filter(part)})" if isinstance(part, AnyOf | AllOf) else write_filter(part) for part in parts
            )
        case AnyOf(parts):
            return " or ".join(
                f"({write_filter(part)})" if isinstance(part, AnyOf | AllOf) else write_filter(part) for part in parts
            )
        case Condition(column, operator, values):
            written = [write_value(value) for value in values]
            if operator == Operator.EMPTY:
                return f"{column} is empty"
            if operator == Operator.BETWEEN:
                return f"{column} between {written[0]} and {written[1]}"
            if operator == Operator.IN:
                return f"{column} in ({', '.join(written)})"
            return f"{column} {operator} {written[0]}"


def write_value(value: str | float | bool) -> str:
    """A value as it stands in a filter."""
    if isinstance(value, bool):
        return "yes" if value else "no"
    return json.dumps(value, ensure_ascii=False) if isinstance(value, str) else f"{value:.15g}"


@cache
def _parser() -> Lark:
    return Lark(files(__package__).joinpath("grammar.lark").read_text("utf-8"), parser="lalr")


def _filter_of(tree: Tree[Token], columns: Mapping[str, Column]) -> Filter:
    """A filter from what was parsed."""
    of: Callable[[Any], Filter] = lambda each: _filter_of(each, columns)  # noqa: E731
    if tree.data in ("any_of", "all_of"):
        parts = tuple(of(each) for each in tree.children)
        if len(parts) == 1:
            return parts[0]
        return AnyOf(parts) if tree.data == "any_of" else AllOf(parts)
    if tree.data == "not_":
        return Not(of(tree.children[0]))
    name, *rest = tree.children
    values = tuple(_read_value(each) for each in rest if isinstance(each, Tree))
    if tree.data == "compare":
        return _condition(str(name), Operator(str(rest[0])), values, columns)
    if tree.data == "is_so":
        return _condition(str(name), Operator.IS, ("yes",), columns)
    operator, negated = _PHRASES[tree.data]
    found = _condition(str(name), operator, values, columns)
    return Not(found) if negated else found


_PHRASES = {
    "is_empty": (Operator.EMPTY, False),
    "is_not_empty": (Operator.EMPTY, True),
    "between": (Operator.BETWEEN, False),
    "is_in": (Operator.IN, False),
    "is_not_in": (Operator.IN, True),
    "contains": (Operator.CONTAINS, False),
    "contains_not": (Operator.CONTAINS, True),
    "starts_with": (Operator.STARTS, False),
    "ends_with": (Operator.ENDS, False),
    "matches": (Operator.MATCHES, False),
}


def _read_value(tree: Tree[Token]) -> str:
    text = str(tree.children[0])
    return json.loads(text, strict=False) if tree.data == "quoted" else text


def _condition(name: str, operator: Operator, values: tuple[str, ...], columns: Mapping[str, Column]) -> Condition:
    column = columns.get(name)
    if column is None:
        near = [known for known in columns if name[:4].lower() in known] or list(columns)
        raise InvalidInput(f"There is no column “{name}”.", f"There are {', '.join(near)}.", "where")
    if operator not in OPERATORS[column.kind]:
        can = ", ".join(OPERATORS[column.kind])
        raise InvalidInput(f"“{name}” cannot be compared by “{operator}”.", f"It can by {can}.", "where")
    return Condition(name, operator, tuple(_typed(column, operator, value) for value in values))


def _typed(column: Column, operator: Operator, value: str) -> str | float | bool:
    if column.kind == ColumnKind.NUMBER:
        return _figure(column, value)
    if column.kind == ColumnKind.FLAG:
        if value.lower() in _YES | _NO:
            return value.lower() in _YES
        raise InvalidInput(
            f"“{column.name}” is yes or no, not “{value}”.", f"Write {column.name} = yes, or {column.name} alone.", "where"
        )
    if column.kind == ColumnKind.DAY:
        try:
            return date.fromisoformat(value).isoformat()
        except ValueError:
            raise InvalidInput(f"“{value}” is not a day.", "Write it as YYYY-MM-DD.", "where") from None
    if column.choices and value and operator in (Operator.IS, Operator.IS_NOT, Operator.IN) and value not in column.choices:
        raise InvalidInput(f"“{column.name}” is never “{value}”.", f"It is one of {', '.join(column.choices)}.", "where")
    if operator == Operator.MATCHES:
        try:
            compile_pattern(REGEX_MARK + value)
        except InvalidPlan as error:
            raise InvalidInput(error.message.replace(REGEX_MARK, ""), error.hint, "where") from None
    return value


def _figure(column: Column, value: str) -> float:
    text = value.strip().lower()
    digits = text.rstrip("abcdefghijklmnopqrstuvwxyz%")
    unit = text[len(digits) :]
    units = UNITS.get(column.unit, {})
    try:
        found = float(digits) * (units[unit] if unit else 1)
    except (ValueError, KeyError):
        found = float("nan")
    if not isfinite(found):
        may = f" Units are {', '.join(units)}." if units else ""
        raise InvalidInput(
            f"“{value}” is not a number.", f"{column.name} is compared with one, as in {column.name} < 200.{may}", "where"
        )
    return found
