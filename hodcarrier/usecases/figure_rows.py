"""What lists of figures of two periods have in common: their rows are sorted by any figure that the list knows."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import Protocol, TypeVar

from hodcarrier.core.errors import InvalidInput


class FigureRow(Protocol):
    """A row that is about something."""

    @property
    def text(self) -> str:
        """What it is about."""
        ...


R = TypeVar("R", bound=FigureRow)
Sorts = Mapping[str, Callable[[R], float | None]]


def check_sort(sort: str, sorts: Iterable[str]) -> None:
    """Raise :class:`InvalidInput` for a figure that a list is not sorted by; nothing is asked for by an empty one."""
    if sort and sort.removeprefix("-") not in sorts:
        raise InvalidInput(
            f"Nothing is sorted by “{sort[:40]}”.", f"Sort by {', '.join(sorts)}, with a minus for the most first.", "sort"
        )


def in_order(rows: Iterable[R], sort: str, sorts: Sorts[R]) -> list[R]:
    """Rows by a figure, with a minus the most first; those without one stand last either way."""
    figure, turned = sorts[sort.removeprefix("-")], -1 if sort.startswith("-") else 1

    def key(row: R) -> tuple[bool, float, str]:
        value = figure(row)
        return value is None, turned * (value or 0), row.text

    return sorted(rows, key=key)
