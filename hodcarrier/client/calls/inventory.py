"""Calls about inventory, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from collections.abc import AsyncIterator, Iterator

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import InventoryKind, TableForm
from hodcarrier.wire.inventory import ColumnOut, InventoryFigures, InventoryRow, InventoryView


class Inventory(SyncCalls):
    """Calls about inventory."""

    def list_columns(self, of: InventoryKind = InventoryKind.PAGE) -> list[ColumnOut]:
        """The columns of the inventory, and how they are compared."""
        found: list[ColumnOut] = self._call("list_columns", {}, query={"of": of})
        return found

    def list_inventory_views(self) -> list[InventoryView]:
        """Views of the inventory that ship."""
        found: list[InventoryView] = self._call("list_inventory_views", {})
        return found

    def list_inventory(
        self,
        run_id: str,
        of: InventoryKind = InventoryKind.PAGE,
        where: str = "",
        columns: str = "",
        sort: str = "",
        **filters: str | float | None,
    ) -> Iterator[InventoryRow]:
        """Pages, files, URLs of other sites or links, with any columns. Filters are written out in `where`, or in short: `status=404`, `words.lt=200`."""
        yield from self._parts(
            "list_inventory", {"run_id": run_id}, query={"of": of, "where": where, "columns": columns, "sort": sort, **filters}
        )

    def get_inventory_figures(
        self,
        run_id: str,
        of: InventoryKind = InventoryKind.PAGE,
        where: str = "",
        columns: str = "",
        by: str = "",
        **filters: str | float | None,
    ) -> InventoryFigures:
        """What a list of the inventory comes to: how many, sums, and how it is spread over the values of columns."""
        found: InventoryFigures = self._call(
            "get_inventory_figures", {"run_id": run_id}, query={"of": of, "where": where, "columns": columns, "by": by, **filters}
        )
        return found

    def export_inventory(
        self,
        run_id: str,
        of: InventoryKind = InventoryKind.PAGE,
        where: str = "",
        columns: str = "",
        sort: str = "",
        form: TableForm = TableForm.CSV,
        **filters: str | float | None,
    ) -> bytes:
        """A list of the inventory as a table: all rows, with the columns asked for."""
        found: bytes = self._call(
            "export_inventory",
            {"run_id": run_id},
            query={"of": of, "where": where, "columns": columns, "sort": sort, "form": form, **filters},
        )
        return found


class AsyncInventory(AsyncCalls):
    """Calls about inventory."""

    async def list_columns(self, of: InventoryKind = InventoryKind.PAGE) -> list[ColumnOut]:
        """The columns of the inventory, and how they are compared."""
        found: list[ColumnOut] = await self._call("list_columns", {}, query={"of": of})
        return found

    async def list_inventory_views(self) -> list[InventoryView]:
        """Views of the inventory that ship."""
        found: list[InventoryView] = await self._call("list_inventory_views", {})
        return found

    async def list_inventory(
        self,
        run_id: str,
        of: InventoryKind = InventoryKind.PAGE,
        where: str = "",
        columns: str = "",
        sort: str = "",
        **filters: str | float | None,
    ) -> AsyncIterator[InventoryRow]:
        """Pages, files, URLs of other sites or links, with any columns. Filters are written out in `where`, or in short: `status=404`, `words.lt=200`."""
        async for item in self._parts(
            "list_inventory", {"run_id": run_id}, query={"of": of, "where": where, "columns": columns, "sort": sort, **filters}
        ):
            yield item

    async def get_inventory_figures(
        self,
        run_id: str,
        of: InventoryKind = InventoryKind.PAGE,
        where: str = "",
        columns: str = "",
        by: str = "",
        **filters: str | float | None,
    ) -> InventoryFigures:
        """What a list of the inventory comes to: how many, sums, and how it is spread over the values of columns."""
        found: InventoryFigures = await self._call(
            "get_inventory_figures", {"run_id": run_id}, query={"of": of, "where": where, "columns": columns, "by": by, **filters}
        )
        return found

    async def export_inventory(
        self,
        run_id: str,
        of: InventoryKind = InventoryKind.PAGE,
        where: str = "",
        columns: str = "",
        sort: str = "",
        form: TableForm = TableForm.CSV,
        **filters: str | float | None,
    ) -> bytes:
        """A list of the inventory as a table: all rows, with the columns asked for."""
        found: bytes = await self._call(
            "export_inventory",
            {"run_id": run_id},
            query={"of": of, "where": where, "columns": columns, "sort": sort, "form": form, **filters},
        )
        return found
