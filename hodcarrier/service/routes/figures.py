"""Figures from outside: tables of them, search figures, and whether a fix paid."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Response

from hodcarrier.core.figures.spans import WEEKS
from hodcarrier.core.states import Brand, SearchBy, SearchView, TableForm, VisitBy, VisitView
from hodcarrier.report.figure_tables import search_table, visits_table
from hodcarrier.service.deps import Work
from hodcarrier.service.guard import Asker, serves
from hodcarrier.service.routes.exports import table_answer
from hodcarrier.usecases import figure_files, page_figures, payoff, search_figures, visits
from hodcarrier.usecases.search_figures import SearchFilter
from hodcarrier.usecases.visits import VisitFilter
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

router = APIRouter()
# More than there are queries, pages, keywords or links of a site.
ALL_ROWS = 10_000_000


@serves(router, "list_figures")
def list_figures(site_id: int, work: Work) -> list[FigureSet]:
    return search_figures.list_figures(work, site_id)


@serves(router, "add_figures")
def add_figures(site_id: int, body: FigureRows, work: Work, member: Asker) -> FigureOutcome:
    return figure_files.add_figures(work, site_id, body, member)


@serves(router, "list_figure_files")
def list_figure_files(site_id: int, work: Work) -> list[FigureFileOut]:
    return figure_files.list_figure_files(work, site_id)


@serves(router, "add_figure_file")
def add_figure_file(site_id: int, body: FigureFileBody, work: Work, member: Asker) -> FigureFileOut:
    return figure_files.add_figure_file(work, site_id, body, member)


@serves(router, "get_figure_file")
def get_figure_file(site_id: int, file_id: int, work: Work) -> FigureFileOut:
    return figure_files.get_figure_file(work, site_id, file_id)


@serves(router, "lay_out_figure_file")
def lay_out_figure_file(site_id: int, file_id: int, body: FigureLayoutBody, work: Work) -> FigureFileOut:
    return figure_files.lay_out_figure_file(work, site_id, file_id, body)


@serves(router, "import_figure_file")
def import_figure_file(site_id: int, file_id: int, body: FigureImport, work: Work, member: Asker) -> FigureFileOut:
    return figure_files.import_figure_file(work, site_id, file_id, body, member)


@serves(router, "remove_figure_file")
def remove_figure_file(site_id: int, file_id: int, work: Work, member: Asker) -> None:
    figure_files.remove_figure_file(work, site_id, file_id, member)


def _search_asked(
    by: SearchBy = SearchBy.QUERY,
    view: SearchView = SearchView.ALL,
    weeks: Annotated[int, Query(ge=1, le=search_figures.WEEKS_MAX)] = WEEKS,
    to: date | None = None,
    brand: Brand = Brand.BOTH,
    device: str = "",
    country: str = "",
    text: str = "",
    sort: str = "",
) -> SearchFilter:
    return SearchFilter(by, view, weeks, to, brand, device, country, text, sort)


SearchAsked = Annotated[SearchFilter, Depends(_search_asked)]
Limit = Annotated[int, Query(ge=1, le=1000)]
After = Annotated[int, Query(ge=0)]


@serves(router, "get_search_figures")
def get_search_figures(site_id: int, work: Work, which: SearchAsked, limit: Limit = 100, after: After = 0) -> SearchOut:
    return search_figures.get_search_figures(work, site_id, which, limit=limit, after=after)


@serves(router, "export_search_figures")
def export_search_figures(site_id: int, work: Work, which: SearchAsked, form: TableForm = TableForm.CSV) -> Response:
    found = search_figures.get_search_figures(work, site_id, which, limit=ALL_ROWS)
    return table_answer(search_table(found), form, f"search-{site_id}")


def _visits_asked(
    by: VisitBy = VisitBy.PAGE,
    view: VisitView = VisitView.ALL,
    weeks: Annotated[int, Query(ge=1, le=visits.WEEKS_MAX)] = WEEKS,
    to: date | None = None,
    channel: str = "",
    text: str = "",
    sort: str = "",
) -> VisitFilter:
    return VisitFilter(by, view, weeks, to, channel, text, sort)


VisitsAsked = Annotated[VisitFilter, Depends(_visits_asked)]


@serves(router, "get_visits")
def get_visits(site_id: int, work: Work, which: VisitsAsked, limit: Limit = 100, after: After = 0) -> VisitsOut:
    return visits.get_visits(work, site_id, which, limit=limit, after=after)


@serves(router, "export_visits")
def export_visits(site_id: int, work: Work, which: VisitsAsked, form: TableForm = TableForm.CSV) -> Response:
    return table_answer(visits_table(visits.get_visits(work, site_id, which, limit=ALL_ROWS)), form, f"visits-{site_id}")


@serves(router, "get_page_figures")
def get_page_figures(site_id: int, url: str, work: Work) -> PageFiguresOut:
    return page_figures.get_page_figures(work, site_id, url)


@serves(router, "get_paid")
def get_paid(todo_id: int, work: Work) -> PaidOut:
    return payoff.get_paid(work, todo_id)
