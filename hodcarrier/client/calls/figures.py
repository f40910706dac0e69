"""Calls about figures, written from the operations by `make docs`; do not edit."""

from __future__ import annotations

from datetime import date

from hodcarrier.client.connection import AsyncCalls, SyncCalls
from hodcarrier.core.states import Brand, SearchBy, SearchView, TableForm, VisitBy, VisitView
from hodcarrier.wire.figures import (
    FigureFileBody,
    FigureFileOut,
    FigureImport,
    FigureLayoutBody,
    FigureOutcome,
    FigureRows,
    FigureSet,
    PageFiguresOut,
    PaidOut,
    SearchOut,
    VisitsOut,
)


class Figures(SyncCalls):
    """Calls about figures."""

    def list_figures(self, site_id: int) -> list[FigureSet]:
        """What there is of each kind of figures of a site."""
        found: list[FigureSet] = self._call("list_figures", {"site_id": site_id})
        return found

    def add_figures(self, site_id: int, body: FigureRows) -> FigureOutcome:
        """Take in figures that were typed: all rows or none."""
        found: FigureOutcome = self._call("add_figures", {"site_id": site_id}, body=body)
        return found

    def list_figure_files(self, site_id: int) -> list[FigureFileOut]:
        """The tables of figures of a site: those that wait, and those that were imported."""
        found: list[FigureFileOut] = self._call("list_figure_files", {"site_id": site_id})
        return found

    def add_figure_file(self, site_id: int, body: FigureFileBody) -> FigureFileOut:
        """Keep a table of figures, and say how it is understood. Nothing is imported yet."""
        found: FigureFileOut = self._call("add_figure_file", {"site_id": site_id}, body=body)
        return found

    def get_figure_file(self, site_id: int, file_id: int) -> FigureFileOut:
        """A table of figures, with a preview while it waits."""
        found: FigureFileOut = self._call("get_figure_file", {"site_id": site_id, "file_id": file_id})
        return found

    def lay_out_figure_file(self, site_id: int, file_id: int, body: FigureLayoutBody) -> FigureFileOut:
        """Understand a waiting table in another way."""
        found: FigureFileOut = self._call("lay_out_figure_file", {"site_id": site_id, "file_id": file_id}, body=body)
        return found

    def import_figure_file(self, site_id: int, file_id: int, body: FigureImport) -> FigureFileOut:
        """Take in the rows of a waiting table as it is understood: all rows or none, unless those that cannot be read are to be left out."""
        found: FigureFileOut = self._call("import_figure_file", {"site_id": site_id, "file_id": file_id}, body=body)
        return found

    def remove_figure_file(self, site_id: int, file_id: int) -> None:
        """Remove a table that waits, or the record of one; its figures stay."""
        self._call("remove_figure_file", {"site_id": site_id, "file_id": file_id})

    def get_search_figures(
        self,
        site_id: int,
        by: SearchBy = SearchBy.QUERY,
        view: SearchView = SearchView.ALL,
        weeks: int = 4,
        to: date | None = None,
        brand: Brand = Brand.BOTH,
        device: str = "",
        country: str = "",
        text: str = "",
        sort: str = "",
        limit: int = 100,
        after: int = 0,
    ) -> SearchOut:
        """Search figures by query or page in whole weeks, against the weeks before."""
        found: SearchOut = self._call(
            "get_search_figures",
            {"site_id": site_id},
            query={
                "by": by,
                "view": view,
                "weeks": weeks,
                "to": to,
                "brand": brand,
                "device": device,
                "country": country,
                "text": text,
                "sort": sort,
                "limit": limit,
                "after": after,
            },
        )
        return found

    def export_search_figures(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        by: SearchBy = SearchBy.QUERY,
        view: SearchView = SearchView.ALL,
        weeks: int = 4,
        to: date | None = None,
        brand: Brand = Brand.BOTH,
        device: str = "",
        country: str = "",
        text: str = "",
        sort: str = "",
    ) -> bytes:
        """Search figures by query or page as a table: all rows, filtered and sorted like the list."""
        found: bytes = self._call(
            "export_search_figures",
            {"site_id": site_id},
            query={
                "form": form,
                "by": by,
                "view": view,
                "weeks": weeks,
                "to": to,
                "brand": brand,
                "device": device,
                "country": country,
                "text": text,
                "sort": sort,
            },
        )
        return found

    def get_visits(
        self,
        site_id: int,
        by: VisitBy = VisitBy.PAGE,
        view: VisitView = VisitView.ALL,
        weeks: int = 4,
        to: date | None = None,
        channel: str = "",
        text: str = "",
        sort: str = "",
        limit: int = 100,
        after: int = 0,
    ) -> VisitsOut:
        """Visits by page or channel in whole weeks, against the weeks before."""
        found: VisitsOut = self._call(
            "get_visits",
            {"site_id": site_id},
            query={
                "by": by,
                "view": view,
                "weeks": weeks,
                "to": to,
                "channel": channel,
                "text": text,
                "sort": sort,
                "limit": limit,
                "after": after,
            },
        )
        return found

    def export_visits(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        by: VisitBy = VisitBy.PAGE,
        view: VisitView = VisitView.ALL,
        weeks: int = 4,
        to: date | None = None,
        channel: str = "",
        text: str = "",
        sort: str = "",
    ) -> bytes:
        """Visits by page or channel as a table: all rows, filtered and sorted like the list."""
        found: bytes = self._call(
            "export_visits",
            {"site_id": site_id},
            query={
                "form": form,
                "by": by,
                "view": view,
                "weeks": weeks,
                "to": to,
                "channel": channel,
                "text": text,
                "sort": sort,
            },
        )
        return found

    def get_page_figures(self, site_id: int, url: str) -> PageFiguresOut:
        """What is known of a page from outside: search figures, visits, positions, links from other sites."""
        found: PageFiguresOut = self._call("get_page_figures", {"site_id": site_id}, query={"url": url})
        return found

    def get_paid(self, todo_id: int) -> PaidOut:
        """Whether a confirmed to-do paid: clicks to its pages before and after, against the rest of the site."""
        found: PaidOut = self._call("get_paid", {"todo_id": todo_id})
        return found


class AsyncFigures(AsyncCalls):
    """Calls about figures."""

    async def list_figures(self, site_id: int) -> list[FigureSet]:
        """What there is of each kind of figures of a site."""
        found: list[FigureSet] = await self._call("list_figures", {"site_id": site_id})
        return found

    async def add_figures(self, site_id: int, body: FigureRows) -> FigureOutcome:
        """Take in figures that were typed: all rows or none."""
        found: FigureOutcome = await self._call("add_figures", {"site_id": site_id}, body=body)
        return found

    async def list_figure_files(self, site_id: int) -> list[FigureFileOut]:
        """The tables of figures of a site: those that wait, and those that were imported."""
        found: list[FigureFileOut] = await self._call("list_figure_files", {"site_id": site_id})
        return found

    async def add_figure_file(self, site_id: int, body: FigureFileBody) -> FigureFileOut:
        """Keep a table of figures, and say how it is understood. Nothing is imported yet."""
        found: FigureFileOut = await self._call("add_figure_file", {"site_id": site_id}, body=body)
        return found

    async def get_figure_file(self, site_id: int, file_id: int) -> FigureFileOut:
        """A table of figures, with a preview while it waits."""
        found: FigureFileOut = await self._call("get_figure_file", {"site_id": site_id, "file_id": file_id})
        return found

    async def lay_out_figure_file(self, site_id: int, file_id: int, body: FigureLayoutBody) -> FigureFileOut:
        """Understand a waiting table in another way."""
        found: FigureFileOut = await self._call("lay_out_figure_file", {"site_id": site_id, "file_id": file_id}, body=body)
        return found

    async def import_figure_file(self, site_id: int, file_id: int, body: FigureImport) -> FigureFileOut:
        """Take in the rows of a waiting table as it is understood: all rows or none, unless those that cannot be read are to be left out."""
        found: FigureFileOut = await self._call("import_figure_file", {"site_id": site_id, "file_id": file_id}, body=body)
        return found

    async def remove_figure_file(self, site_id: int, file_id: int) -> None:
        """Remove a table that waits, or the record of one; its figures stay."""
        await self._call("remove_figure_file", {"site_id": site_id, "file_id": file_id})

    async def get_search_figures(
        self,
        site_id: int,
        by: SearchBy = SearchBy.QUERY,
        view: SearchView = SearchView.ALL,
        weeks: int = 4,
        to: date | None = None,
        brand: Brand = Brand.BOTH,
        device: str = "",
        country: str = "",
        text: str = "",
        sort: str = "",
        limit: int = 100,
        after: int = 0,
    ) -> SearchOut:
        """Search figures by query or page in whole weeks, against the weeks before."""
        found: SearchOut = await self._call(
            "get_search_figures",
            {"site_id": site_id},
            query={
                "by": by,
                "view": view,
                "weeks": weeks,
                "to": to,
                "brand": brand,
                "device": device,
                "country": country,
                "text": text,
                "sort": sort,
                "limit": limit,
                "after": after,
            },
        )
        return found

    async def export_search_figures(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        by: SearchBy = SearchBy.QUERY,
        view: SearchView = SearchView.ALL,
        weeks: int = 4,
        to: date | None = None,
        brand: Brand = Brand.BOTH,
        device: str = "",
        country: str = "",
        text: str = "",
        sort: str = "",
    ) -> bytes:
        """Search figures by query or page as a table: all rows, filtered and sorted like the list."""
        found: bytes = await self._call(
            "export_search_figures",
            {"site_id": site_id},
            query={
                "form": form,
                "by": by,
                "view": view,
                "weeks": weeks,
                "to": to,
                "brand": brand,
                "device": device,
                "country": country,
                "text": text,
                "sort": sort,
            },
        )
        return found

    async def get_visits(
        self,
        site_id: int,
        by: VisitBy = VisitBy.PAGE,
        view: VisitView = VisitView.ALL,
        weeks: int = 4,
        to: date | None = None,
        channel: str = "",
        text: str = "",
        sort: str = "",
        limit: int = 100,
        after: int = 0,
    ) -> VisitsOut:
        """Visits by page or channel in whole weeks, against the weeks before."""
        found: VisitsOut = await self._call(
            "get_visits",
            {"site_id": site_id},
            query={
                "by": by,
                "view": view,
                "weeks": weeks,
                "to": to,
                "channel": channel,
                "text": text,
                "sort": sort,
                "limit": limit,
                "after": after,
            },
        )
        return found

    async def export_visits(
        self,
        site_id: int,
        form: TableForm = TableForm.CSV,
        by: VisitBy = VisitBy.PAGE,
        view: VisitView = VisitView.ALL,
        weeks: int = 4,
        to: date | None = None,
        channel: str = "",
        text: str = "",
        sort: str = "",
    ) -> bytes:
        """Visits by page or channel as a table: all rows, filtered and sorted like the list."""
        found: bytes = await self._call(
            "export_visits",
            {"site_id": site_id},
            query={
                "form": form,
                "by": by,
                "view": view,
                "weeks": weeks,
                "to": to,
                "channel": channel,
                "text": text,
                "sort": sort,
            },
        )
        return found

    async def get_page_figures(self, site_id: int, url: str) -> PageFiguresOut:
        """What is known of a page from outside: search figures, visits, positions, links from other sites."""
        found: PageFiguresOut = await self._call("get_page_figures", {"site_id": site_id}, query={"url": url})
        return found

    async def get_paid(self, todo_id: int) -> PaidOut:
        """Whether a confirmed to-do paid: clicks to its pages before and after, against the rest of the site."""
        found: PaidOut = await self._call("get_paid", {"todo_id": todo_id})
        return found
