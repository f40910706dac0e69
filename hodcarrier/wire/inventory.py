"""The inventory of a run: its columns, lists of addresses, and how they are spread."""

from __future__ import annotations

from hodcarrier.core.states import ColumnGroup, ColumnKind, ColumnTotal, InventoryKind, Operator
from hodcarrier.wire.base import Wire


class ColumnOut(Wire):
    """A column of the inventory; ``operators`` are how filters can compare it, ``units`` what a figure in a filter may be followed by,
    ``shown`` its place among the columns that are shown at first (0: it is not)."""

    name: str
    label: str
    group: ColumnGroup
    kind: ColumnKind
    unit: str
    total: ColumnTotal
    text: str
    operators: list[Operator]
    units: list[str]
    choices: list[str]
    shown: int


class InventoryView(Wire):
    """A filter and columns that ship under a name."""

    name: str
    of: InventoryKind
    where: str
    columns: list[str]
    sort: str


class InventoryRow(Wire):
    """An address with the columns that were asked for, by their names."""

    id: int
    values: dict[str, str | int | float | bool | None]


class FilterOut(Wire):
    """A filter as it was read: a condition (``column``, ``operator``, ``values``), or ``parts`` of which all hold, any holds, or the one does not."""

    kind: str
    column: str = ""
    operator: Operator | None = None
    values: list[str | bool | int | float] = []
    parts: list[FilterOut] = []


class ShareOut(Wire):
    """How many addresses have one value of a column, or one from ``low`` to below ``high``; neither: those that have none. ``where`` asks for them."""

    count: int
    value: str | bool | None
    low: float | None
    high: float | None
    where: str


class SpreadOut(Wire):
    """How addresses are spread over the values of a column."""

    column: str
    shares: list[ShareOut]


class InventoryFigures(Wire):
    """What a filtered list comes to: how many addresses, of ``all`` there are; what stands under its columns; how they are spread."""

    total: int
    all: int
    sums: dict[str, float | None]
    filter: FilterOut
    spreads: list[SpreadOut]
    recorded: list[str]
