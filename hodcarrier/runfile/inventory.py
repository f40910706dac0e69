"""The inventory of a run: lists of its addresses, filtered and sorted, a part at a time.

Every list is read along an index: that of the filter which leaves least, or, where much is left, that of the column it is sorted by.
A part begins behind the last row of the part before, wherever that is, so that deep parts cost what the first one costs.
"""

from __future__ import annotations

import math
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from hodcarrier.core.errors import InvalidInput
from hodcarrier.runfile import schema
from hodcarrier.runfile.reader import RunFile

Row = dict[str, Any]
TEXT_FIELDS = frozenset({"url", "title", "description", "h1", "content_type", "why_not"})
OPERATORS = {"": "=", "lt": "<", "gt": ">", "le": "<=", "ge": ">=", "not": "IS NOT"}
# Up to so many rows are looked up and sorted; beyond it rows are taken in order until there are enough.
SORTED_MAX = 20_000
_COLUMNS = ", ".join(("id", *schema.SORTED))


@dataclass(frozen=True)
class Part:
    """Some rows of a list, how many it has in all, and the id behind which the next part begins; ``None`` at the end."""

    rows: list[Row]
    total: int
    after: int | None


@dataclass(frozen=True)
class Condition:
    """A condition on a column. ``sql`` holds ``{c}`` in its place."""

    column: str
    sql: str
    values: tuple[Any, ...] = ()

    def along(self, index: str) -> str:
        """As SQL that may be looked up in the index of a column and in no other: a plus takes a column out of the planner's choice."""
        return self.sql.format(c=self.column if self.column == index else f"+{self.column}")


def read_filter(name: str, operator: str, value: str) -> Condition:
    """A filter by field, operator (of :data:`OPERATORS`, or ``has``) and value. Raises :class:`InvalidInput`."""
    if name not in schema.SORTED:
        raise InvalidInput(f"Pages have no field “{name}”.", f"Fields are {', '.join(schema.SORTED)}.", name)
    if operator not in OPERATORS and operator != "has":
        raise InvalidInput(
            f"There is no operator “{operator}”.", f"Operators are {', '.join(o for o in OPERATORS if o)}, has.", name
        )
    typed = _filter_value(name, operator, value)
    if operator == "has":
        return Condition(name, "{c} LIKE ? ESCAPE '\\'", ("%" + re.sub(r"([\\%_])", r"\\\1", value) + "%",))
    if typed == "" and operator == "":
        return Condition(name, "coalesce({c}, '') = ''")
    return Condition(name, f"{{c}} {OPERATORS[operator]} ?", (typed,))


def _filter_value(name: str, operator: str, value: str) -> Any:
    """The value of a filter as its field is stored. An empty one asks for what is missing."""
    if name == "state":
        if value not in schema.STATES:
            raise InvalidInput(f"There is no state “{value}”.", f"States are {', '.join(schema.STATES)}.", name)
        return schema.STATES.index(value)
    if name in TEXT_FIELDS or operator == "has" or (not value and operator in ("", "not")):
        return value
    try:
        number = float(value)
    except ValueError:
        number = math.nan
    if not math.isfinite(number):
        raise InvalidInput(f"“{value}” is not a number.", f"{name} is compared with a number, as in {name}.lt=200.", name)
    return number


def pages(
    run: RunFile,
    filters: Sequence[tuple[str, str, str]] = (),
    sort: str = "url",
    limit: int = 100,
    after: int = 0,
    role: str = "page",
) -> Part:
    """Pages (or files) with their facts, filtered and sorted; those without a value of the sorted column come last.

    ``sort`` is a field, with ``-`` in front for descending; ``after`` what the part before gave. Raises :class:`InvalidInput` for
    unknown fields and operators.
    """
    conditions = [read_filter(*chosen) for chosen in filters]
    column, descending = sort.removeprefix("-"), sort.startswith("-")
    if column not in schema.SORTED:
        raise InvalidInput(f"Pages cannot be sorted by “{column}”.", f"Fields are {', '.join(schema.SORTED)}.", "sort")
    of_role = schema.ROLES.index(role)
    if of_role != schema.PAGE and column in schema.OF_PAGES:
        column = "url"  # it is empty for all of them
    total, index, looked_at = _count(run, of_role, conditions)
    rows: list[Row] = []
    if total:
        walked = column if looked_at > SORTED_MAX else index
        for position in _positions(run, column, descending, after):
            found = run.rows(*_part_of(of_role, [*conditions, position], walked, column, descending), limit + 1 - len(rows))
            rows += [dict(zip(("id", *schema.SORTED), row, strict=True)) for row in found]
            if len(rows) > limit:
                break
    for row in rows:
        row["state"] = schema.STATES[row["state"]]
    return Part(rows[:limit], total, rows[limit - 1]["id"] if len(rows) > limit else None)


def _count(run: RunFile, role: int, conditions: Sequence[Condition]) -> tuple[int, str, int]:
    """How many rows there are; the column whose index leaves least to look at, and how many that are."""

    def count(index: str, chosen: Sequence[Condition]) -> int:
        where = " AND ".join([f"role = {role}", *(c.along(index) for c in chosen)])
        values = [value for c in chosen for value in c.values]
        return int(run.rows(f"SELECT count(*) FROM inventory WHERE {where}", *values)[0][0])

    if not conditions:
        stored = run.meta("addresses")  # files of earlier versions have to be counted
        left = count("", ()) if stored is None else stored[schema.ROLES[role]]
        return left, "", left
    alone = [(count(c.column, [c]), c.column) for c in conditions]
    least, index = min(alone)
    return (least if len(conditions) == 1 else count(index, conditions)), index, least


def _positions(run: RunFile, column: str, descending: bool, after: int) -> Iterator[Condition]:
    """What is left of a list behind a row, in the order in which it comes: a condition for each stretch."""
    beyond = "<" if descending else ">"
    if not after:
        yield Condition(column, "{c} IS NOT NULL")
        yield Condition(column, "{c} IS NULL")
        return
    last = run.rows(f"SELECT {column} FROM inventory WHERE id = ?", after)
    if not last:
        raise InvalidInput(f"The list has no place {after}.", "Give what the part before gave as `after`.", "after")
    if last[0][0] is not None:
        yield Condition(column, f"{{c}} = ? AND id {beyond} ?", (last[0][0], after))
        yield Condition(column, f"{{c}} {beyond} ?", (last[0][0],))
        yield Condition(column, "{c} IS NULL")
    else:
        yield Condition(column, f"{{c}} IS NULL AND id {beyond} ?", (after,))


def _part_of(role: int, conditions: Sequence[Condition], walked: str, column: str, descending: bool) -> tuple[Any, ...]:
    """A statement and its values, all but the limit."""
    where = " AND ".join([f"role = {role}", *(c.along(walked) for c in conditions)])  # as it stands with the indexes of pages
    way = "DESC" if descending else "ASC"
    order = f"{column} {way}, id {way}" if walked == column else f"+{column} {way}, +id {way}"
    values = [value for c in conditions for value in c.values]
    return f"SELECT {_COLUMNS} FROM inventory WHERE {where} ORDER BY {order} LIMIT ?", *values
