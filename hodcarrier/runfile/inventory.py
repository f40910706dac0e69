"""The inventory of a run: lists of its addresses, filtered and sorted, a part at a time.

Every list is read along an index: that of the filter which leaves least, or, where much is left, that of the column it is sorted by.
A part begins behind the last row of the part before, wherever that is, so that deep parts cost what the first one costs.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.errors import InvalidInput
from hodcarrier.runfile import schema
from hodcarrier.runfile.prints import ints, joined
from hodcarrier.runfile.reader import RunFile

Row = dict[str, Any]
TEXT_FIELDS = frozenset({"url", "title", "description", "h1", "content_type", "why_not"})
OPERATORS = {"": "=", "lt": "<", "gt": ">", "le": "<=", "ge": ">=", "not": "IS NOT"}
# Up to so many rows are looked up and sorted; of more, rows are taken in the order of the list until there are enough.
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
    """A condition on a column. ``sql`` holds ``{c}`` in its place. ``scans``: an index has to be gone through for it."""

    column: str
    sql: str
    values: tuple[Any, ...] = ()
    scans: bool = False

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
        return Condition(name, "{c} LIKE ? ESCAPE '\\'", ("%" + re.sub(r"([\\%_])", r"\\\1", value) + "%",), scans=True)
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
    few = _few(run, of_role, conditions, column)
    if few is not None:
        ids, total = _sorted_part(run, few, column, descending, after, limit + 1), len(few)
        rows = _rows_of(run, ids)
    else:
        total, rows = _count(run, of_role, conditions), []
        for position in _positions(run, column, descending, after) if total else ():
            found = run.rows(*_part_of(of_role, [*conditions, position], column, descending), limit + 1 - len(rows))
            rows += [dict(zip(("id", *schema.SORTED), row, strict=True)) for row in found]
            if len(rows) > limit:
                break
    for row in rows:
        row["state"] = schema.STATES[row["state"]]
    return Part(rows[:limit], total, rows[limit - 1]["id"] if len(rows) > limit else None)


def _where(role: int, conditions: Sequence[Condition], index: str) -> tuple[str, list[Any]]:
    """Conditions as SQL, to be looked up along the index of a column, and their values. The role stands in it as in the indexes of pages."""
    where = " AND ".join([f"role = {role}", *(c.along(index) for c in conditions)])
    return where, [value for c in conditions for value in c.values]


def _alone(run: RunFile, role: int, condition: Condition) -> int:
    """How many rows meet one condition, counted in the index of its column."""
    where, values = _where(role, [condition], condition.column)
    return int(run.rows(f"SELECT count(*) FROM inventory WHERE {where}", *values)[0][0])


def _few(run: RunFile, role: int, conditions: Sequence[Condition], column: str) -> list[tuple[int, Any]] | None:
    """Id and sorted value of all rows that meet the conditions, where one of those leaves few; else ``None``."""
    if all(condition.column == column for condition in conditions):
        return None  # what is left lies together in the order of the list
    if len(conditions) == 1 and conditions[0].scans:
        index = conditions[0].column  # to count first would go through the whole index twice
    else:
        least, index = min((_alone(run, role, c), c.column) for c in conditions)
        if least > SORTED_MAX:
            return None
    where, values = _where(role, conditions, index)
    found = run.rows(f"SELECT id, {column} FROM inventory WHERE {where} LIMIT ?", *values, SORTED_MAX + 1)
    return found if len(found) <= SORTED_MAX else None


def _sorted_part(run: RunFile, few: list[tuple[int, Any]], column: str, descending: bool, after: int, limit: int) -> list[int]:
    """The ids of a part of a list that is all there: those without a value last, those that are alike by id."""

    def key(row: tuple[int, Any]) -> tuple[Any, int]:
        return row[1], row[0]

    valued = sorted((row for row in few if row[1] is not None), key=key, reverse=descending)
    ordered = valued + sorted((row for row in few if row[1] is None), reverse=descending)
    begin = 0
    if after:
        last = (after, _value_of(run, column, after))
        # Where it would stand: it need not be among the rows any more.
        beyond = _is_beyond(last, descending)
        begin = next((place for place, row in enumerate(ordered) if beyond(row)), len(ordered))
    return [number for number, _ in ordered[begin : begin + limit]]


def _is_beyond(last: tuple[int, Any], descending: bool) -> Callable[[tuple[int, Any]], bool]:
    def beyond(row: tuple[int, Any]) -> bool:
        if (row[1] is None) != (last[1] is None):
            return row[1] is None
        mine, its = ((row[0],), (last[0],)) if row[1] is None else ((row[1], row[0]), (last[1], last[0]))
        return bool(mine < its if descending else mine > its)

    return beyond


def _value_of(run: RunFile, column: str, number: int) -> Any:
    """The sorted value of a row. Raises :class:`InvalidInput` when there is no such row."""
    found = run.rows(f"SELECT {column} FROM inventory WHERE id = ?", number)
    if not found:
        raise InvalidInput(f"The list has no place {number}.", "Give what the part before gave as `after`.", "after")
    return found[0][0]


def _rows_of(run: RunFile, ids: Sequence[int]) -> list[Row]:
    """Rows by their ids, in this order."""
    marks = ",".join("?" * len(ids))
    found = {row[0]: row for row in run.rows(f"SELECT {_COLUMNS} FROM inventory WHERE id IN ({marks})", *ids)} if ids else {}
    return [dict(zip(("id", *schema.SORTED), found[number], strict=True)) for number in ids]


def _count(run: RunFile, role: int, conditions: Sequence[Condition]) -> int:
    """How many rows meet all conditions, none of which leaves few: each is looked through in its own index, and what all of them have counts."""
    if not conditions:
        stored = run.meta("addresses")  # files of earlier versions have to be counted
        if stored is not None:
            return int(stored[schema.ROLES[role]])
        return int(run.rows(f"SELECT count(*) FROM inventory WHERE role = {role}")[0][0])
    if len(conditions) == 1:
        return _alone(run, role, conditions[0])
    met: NDArray[np.uint8] = np.zeros(int(run.rows("SELECT max(id) FROM inventory")[0][0]) + 1, np.uint8)
    for condition in conditions:
        where, values = _where(role, [condition], condition.column)
        met[ints(run.rows(f"SELECT {joined('id')} FROM inventory WHERE {where}", *values)[0][0])] += 1
    return int((met == len(conditions)).sum())


def _positions(run: RunFile, column: str, descending: bool, after: int) -> Iterator[Condition]:
    """What is left of a list behind a row, in the order in which it comes: a condition for each stretch."""
    beyond = "<" if descending else ">"
    if not after:
        yield Condition(column, "{c} IS NOT NULL")
        yield Condition(column, "{c} IS NULL")
        return
    last = _value_of(run, column, after)
    if last is not None:
        yield Condition(column, f"{{c}} = ? AND id {beyond} ?", (last, after))
        yield Condition(column, f"{{c}} {beyond} ?", (last,))
        yield Condition(column, "{c} IS NULL")
    else:
        yield Condition(column, f"{{c}} IS NULL AND id {beyond} ?", (after,))


def _part_of(role: int, conditions: Sequence[Condition], column: str, descending: bool) -> tuple[Any, ...]:
    """A statement that walks a list in its order, and its values, all but the limit."""
    where, values = _where(role, conditions, column)
    way = "DESC" if descending else "ASC"
    return f"SELECT {_COLUMNS} FROM inventory WHERE {where} ORDER BY {column} {way}, id {way} LIMIT ?", *values
