"""Lists of a run's inventory from its columns: filtered, sorted, summed and counted, a part at a time.

A filter is a mask over the rows of the columns that it names; a list is the order of one more column. On 100,000 addresses each takes a few
milliseconds, whichever columns they are, so none of them needs an index.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.inventory.columns import Column
from hodcarrier.core.inventory.filters import AllOf, AnyOf, Condition, Filter, Not
from hodcarrier.core.states import ColumnKind, ColumnTotal, Operator
from hodcarrier.core.web.patterns import REGEX_MARK, compile_pattern
from hodcarrier.runfile.column_format import BREAK, Texts
from hodcarrier.runfile.columns import Columns

Mask = NDArray[np.bool_]
Rows = NDArray[np.int64]
Value = str | float | bool | None
VALUES_SHOWN = 12
# Up to so many rows a whole sort takes a few milliseconds.
SORTED_WHOLE = 200_000


@dataclass(frozen=True)
class ListPart:
    """Some rows of a list, each by the names of its columns and with its ``id``; how many there are in all; and the id behind which the next part
    begins, ``None`` at the end."""

    rows: list[dict[str, Value]]
    total: int
    after: int | None


@dataclass(frozen=True)
class Sum:
    """What stands under a column: of ``known`` values."""

    kind: ColumnTotal
    value: float | None
    known: int


@dataclass(frozen=True)
class Share:
    """How many rows have one value of a column, or one from ``low`` to below ``high``, or none at all: ``where`` is what asks for them."""

    count: int
    where: Filter
    value: str | bool | None = None
    low: float | None = None
    high: float | None = None


def met(columns: Columns, found: Filter, kinds: dict[str, Column]) -> Mask:
    """Which rows a filter lets through."""
    match found:
        case Not(part):
            return ~met(columns, part, kinds)
        case AllOf(parts):
            mask = np.ones(len(columns), np.bool_)
            for part in parts:
                mask &= met(columns, part, kinds)
            return mask
        case AnyOf(parts):
            mask = np.zeros(len(columns), np.bool_)
            for part in parts:
                mask |= met(columns, part, kinds)
            return mask
        case Condition(name, _, _):
            if kinds[name].kind in (ColumnKind.NUMBER, ColumnKind.FLAG):
                return _figures_met(columns.figures(name), found)
            return _texts_met(columns.texts(name), found)


def _figures_met(figures: NDArray[np.float64], found: Condition) -> Mask:
    values = [float(value) for value in found.values]
    if found.operator == Operator.EMPTY:
        return np.isnan(figures)
    if found.operator == Operator.IN:
        return np.isin(figures, values)
    if found.operator == Operator.BETWEEN:
        return (figures >= values[0]) & (figures <= values[1])
    compared: dict[Operator, Callable[..., Mask]] = {
        Operator.IS: np.equal,
        Operator.IS_NOT: np.not_equal,
        Operator.LESS: np.less,
        Operator.MOST: np.less_equal,
        Operator.MORE: np.greater,
        Operator.LEAST: np.greater_equal,
    }
    mask: Mask = compared[found.operator](figures, values[0])
    return mask


def _texts_met(texts: Texts, found: Condition) -> Mask:
    operator, values = found.operator, [str(value) for value in found.values]
    codes = texts.codes
    mask: Mask = codes == 0
    if operator == Operator.EMPTY:
        return mask
    if operator in (Operator.IS, Operator.IN, Operator.IS_NOT):
        places = [place for value in values if texts.has(place := texts.find(value), value)]
        mask = np.isin(codes, places)
        return ~mask if operator == Operator.IS_NOT else mask
    if operator in (Operator.CONTAINS, Operator.STARTS, Operator.ENDS, Operator.MATCHES):
        return _hits(texts, operator, values[0])[codes]
    borders = [texts.find(value) for value in values]
    beyond = [place + texts.has(place, value) for place, value in zip(borders, values, strict=True)]
    there = codes > 0
    if operator == Operator.LESS:
        return there & (codes < borders[0])
    if operator == Operator.MOST:
        return there & (codes < beyond[0])
    if operator == Operator.MORE:
        return there & (codes >= beyond[0])
    if operator == Operator.LEAST:
        return there & (codes >= borders[0])
    return there & (codes >= borders[0]) & (codes < beyond[1])


def _hits(texts: Texts, operator: Operator, wanted: str) -> Mask:
    """Which of the texts that occur have another in them; upper and lower case count as one, but for patterns."""
    hit = np.zeros(len(texts), np.bool_)
    if operator == Operator.MATCHES:
        search = compile_pattern(REGEX_MARK + wanted).search
        hit[:] = [search(text) is not None for text in texts.listed[1:-1].split(BREAK)]
    elif not wanted.isascii():
        test = {Operator.CONTAINS: str.__contains__, Operator.STARTS: str.startswith, Operator.ENDS: str.endswith}[operator]
        folded = wanted.casefold()
        hit[:] = [test(text.decode("utf-8", "surrogatepass").casefold(), folded) for text in texts.listed[1:-1].split(BREAK)]
    elif not wanted:
        hit[:] = True
    else:
        needle = wanted.lower().encode()
        before, behind = operator == Operator.STARTS, operator == Operator.ENDS
        pattern = re.compile((BREAK if before else b"") + re.escape(needle) + (BREAK if behind else b""))
        found = np.fromiter((match.start() + before for match in pattern.finditer(texts.lowered)), np.int64)
        hit[np.searchsorted(texts.starts, found, "right") - 1] = True
    return hit


def in_order(columns: Columns, rows: Rows, column: Column, *, descending: bool) -> Rows:
    """Rows in the order of a column: those without a value last, those with equal values by id, in descending order backwards."""
    keys, missing = _keys(columns, column, rows)
    valued, rest = rows[~missing], rows[missing]
    order = np.argsort(keys[~missing], kind="stable")
    return np.concatenate((valued[order[::-1]], rest[::-1])) if descending else np.concatenate((valued[order], rest))


def _keys(columns: Columns, column: Column, rows: Rows) -> tuple[NDArray[Any], Mask]:
    """What rows are sorted by, and which of them have no value."""
    if column.kind in (ColumnKind.NUMBER, ColumnKind.FLAG):
        figures = columns.figures_at(column.name, rows)
        return figures, np.isnan(figures)
    codes = columns.texts_at(column.name, rows).codes
    return codes, codes == 0


def list_part(
    columns: Columns, kinds: dict[str, Column], mask: Mask, names: Sequence[str], sort: str, limit: int, after: int = 0
) -> ListPart:
    """A part of the rows of a mask with their values. ``sort`` is a column, with ``-`` in front for descending; without one rows stand in the order
    of their ids. Raises :class:`InvalidInput` for a column that there is not, and for an ``after`` that is no row of the list."""
    rows = np.nonzero(mask)[0]
    order = Order.of(columns, kinds, rows, sort) if sort else None
    begin = 0
    if after:
        places = np.nonzero(columns.ids[rows] == after)[0]
        if not len(places):
            raise InvalidInput(f"The list has no place {after}.", "Give what the part before gave as `after`.", "after")
        begin = (int(places[0]) if order is None else order.rank(int(places[0]))) + 1
    chosen = rows[begin : begin + limit] if order is None else rows[order.places(begin, begin + limit)]
    last = int(columns.ids[chosen[-1]]) if begin + limit < len(rows) and len(chosen) else None
    return ListPart(values_of(columns, kinds, chosen, names), len(rows), last)


@dataclass(frozen=True)
class Order:
    """The order of rows by what they are sorted by, of which any stretch is found without sorting all of them. Rows are named by their places among
    those that are sorted."""

    keys: NDArray[Any]
    known: Rows
    missing: Rows
    backwards: bool

    @classmethod
    def of(cls, columns: Columns, kinds: dict[str, Column], rows: Rows, sort: str) -> Order:
        """The order by a column. Raises :class:`InvalidInput` for one that there is not."""
        keys, missing = _keys(columns, _sort_column(kinds, sort), rows)
        return cls(keys[~missing], np.nonzero(~missing)[0], np.nonzero(missing)[0], sort.startswith("-"))

    def places(self, begin: int, end: int) -> Rows:
        """The places of the rows from ``begin`` to below ``end`` in the order: those without a value come last."""
        count = len(self.known)
        end = min(end, count + len(self.missing))
        low, high = min(begin, count), min(end, count)
        if self.backwards:
            known = self.known[_stretch(self.keys, count - high, count - low)[::-1]]
            rest = self.missing[::-1][max(begin - count, 0) : max(end - count, 0)]
        else:
            known = self.known[_stretch(self.keys, low, high)]
            rest = self.missing[max(begin - count, 0) : max(end - count, 0)]
        return np.concatenate((known, rest))

    def rank(self, place: int) -> int:
        """Where the row at a place stands in the order."""
        at = int(np.searchsorted(self.known, place))
        if at == len(self.known) or self.known[at] != place:
            at = int(np.searchsorted(self.missing, place))
            return len(self.known) + (len(self.missing) - 1 - at if self.backwards else at)
        same = self.keys == self.keys[at]
        if self.backwards:
            return int(np.count_nonzero(self.keys > self.keys[at]) + np.count_nonzero(same[at + 1 :]))
        return int(np.count_nonzero(self.keys < self.keys[at]) + np.count_nonzero(same[:at]))


def _stretch(keys: NDArray[Any], low: int, high: int) -> Rows:
    """The places of a stretch of the sorted order. Of many keys only those are sorted that may stand there."""
    if low >= high:
        return np.zeros(0, np.int64)
    if len(keys) <= SORTED_WHOLE:
        return np.argsort(keys, kind="stable")[low:high]
    borders = np.partition(keys, [low, high - 1])
    least, most = borders[low], borders[high - 1]
    near = np.nonzero((keys >= least) & (keys <= most))[0]
    before = int(np.count_nonzero(keys < least))
    return near[np.argsort(keys[near], kind="stable")[low - before : high - before]]


def parts(
    columns: Columns, kinds: dict[str, Column], mask: Mask, names: Sequence[str], sort: str, size: int
) -> Iterator[list[dict[str, Value]]]:
    """All rows of a mask with their values, so many at a time. Raises what :func:`list_part` raises."""
    rows = np.nonzero(mask)[0]
    if sort:
        rows = in_order(columns, rows, _sort_column(kinds, sort), descending=sort.startswith("-"))
    for begin in range(0, len(rows), size):
        yield values_of(columns, kinds, rows[begin : begin + size], names)


def _sort_column(kinds: dict[str, Column], sort: str) -> Column:
    name = sort.removeprefix("-")
    if name not in kinds:
        raise InvalidInput(f"The list cannot be sorted by “{name}”.", f"Columns are {', '.join(kinds)}.", "sort")
    return kinds[name]


def values_of(columns: Columns, kinds: dict[str, Column], rows: Rows, names: Sequence[str]) -> list[dict[str, Value]]:
    """The values of rows, by the names of columns. Raises :class:`InvalidInput` for a column that there is not."""
    check_columns(kinds, names)
    found: list[dict[str, Value]] = [{"id": int(columns.ids[row])} for row in rows]
    for name in names:
        values: Iterable[Value]
        if kinds[name].kind in (ColumnKind.NUMBER, ColumnKind.FLAG):
            values = map(_flag if kinds[name].kind == ColumnKind.FLAG else _figure, columns.figures_at(name, rows).tolist())
        else:
            texts = columns.texts_at(name, rows)
            values = (texts[code] for code in texts.codes.tolist())
        for row, value in zip(found, values, strict=True):
            row[name] = value
    return found


def check_columns(kinds: dict[str, Column], names: Iterable[str]) -> None:
    """Raises :class:`InvalidInput` for a column that there is not."""
    for name in names:
        if name not in kinds:
            raise InvalidInput(f"There is no column “{name}”.", f"Columns are {', '.join(kinds)}.", "columns")


def _figure(value: float) -> float | None:
    if value != value:
        return None
    return int(value) if value.is_integer() else value


def _flag(value: float) -> bool | None:
    return None if value != value else value == 1


def sums(columns: Columns, kinds: dict[str, Column], mask: Mask, names: Sequence[str]) -> dict[str, Sum]:
    """What stands under columns of figures, over all rows of a mask."""
    found = {}
    for name in names:
        kind = kinds[name].total
        if kind == ColumnTotal.NONE:
            continue
        values = columns.figures(name)[mask]
        values = values[~np.isnan(values)]
        total = float(values.sum()) if kind == ColumnTotal.SUM else float(values.mean()) if len(values) else None
        found[name] = Sum(kind, total, len(values))
    return found


def spread(columns: Columns, column: Column, mask: Mask, shown: int = VALUES_SHOWN) -> list[Share]:
    """How the rows of a mask are spread over the values of a column: figures between the borders of their steps in rising order, anything else by
    its most frequent values. Shares of no rows are left out; they add up to all rows but those of values that are not shown."""
    if column.kind == ColumnKind.NUMBER:
        return [share for share in _steps(column, columns.figures(column.name)[mask]) if share.count]
    if column.kind == ColumnKind.FLAG:
        flags = columns.figures(column.name)[mask]
        counted = ((int((flags == value).sum()), value) for value in (True, False))
        shares = [Share(count, Condition(column.name, Operator.IS, (value,)), value) for count, value in counted]
        return [share for share in [*shares, _empty(column, int(np.isnan(flags).sum()))] if share.count]
    texts = columns.texts(column.name)
    counts = np.bincount(texts.codes[mask], minlength=len(texts))
    ranked = np.argsort(-counts, kind="stable")[: shown + 1]
    found = [
        Share(int(counts[code]), Condition(column.name, Operator.IS, (texts[code],)), texts[code])
        for code in ranked.tolist()
        if code and counts[code]
    ][:shown]
    return [*found, _empty(column, int(counts[0]))] if counts[0] else found


def _empty(column: Column, count: int) -> Share:
    return Share(count, Condition(column.name, Operator.EMPTY))


def _steps(column: Column, figures: NDArray[np.float64]) -> list[Share]:
    borders = column.steps
    places = np.searchsorted(np.asarray(borders), figures[~np.isnan(figures)], "right")
    counts = np.bincount(places, minlength=len(borders) + 1).tolist()
    found = []
    for n, count in enumerate(counts):
        low, high = borders[n - 1] if n else None, borders[n] if n < len(borders) else None
        limits: list[Filter] = []
        if low is not None:
            limits.append(Condition(column.name, Operator.LEAST, (low,)))
        if high is not None:
            limits.append(Condition(column.name, Operator.LESS, (high,)))
        where: Filter = limits[0] if len(limits) == 1 else AllOf(tuple(limits))
        found.append(Share(count, where, low=low, high=high))
    return [*found, _empty(column, int(np.isnan(figures).sum()))]
