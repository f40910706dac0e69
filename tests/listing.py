"""Lists of a run's inventory as tests ask for them: with every column."""

from __future__ import annotations

from collections.abc import Sequence

from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.inventory.filters import AllOf, read_filter, read_parameter
from hodcarrier.core.states import InventoryKind
from hodcarrier.runfile.links import columns_of
from hodcarrier.runfile.listing import ListPart, list_part, met
from hodcarrier.runfile.reader import RunFile


def listed(
    run: RunFile,
    filters: Sequence[tuple[str, str, str]] = (),
    sort: str = "url",
    limit: int = 100,
    after: int = 0,
    role: str = "page",
    where: str = "",
) -> ListPart:
    """A part of a list."""
    of = InventoryKind(role)
    kinds, columns = COLUMNS[of], columns_of(run, of)
    found = AllOf((read_filter(where, kinds), *(read_parameter(*each, kinds) for each in filters)))
    return list_part(columns, kinds, met(columns, found, kinds), list(kinds), sort, limit, after)
