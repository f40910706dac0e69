"""Operations on figures from outside: tables of them, search figures, and whether a fix paid."""

from datetime import date

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
from hodcarrier.wire.operations.operation import Operation, Parameter

SITE = "/sites/{site_id}"
FILES = SITE + "/figure-files"
_SEARCH = (
    Parameter("by", SearchBy, SearchBy.QUERY),
    Parameter("view", SearchView, SearchView.ALL),
    Parameter("weeks", int, 4),
    Parameter("to", date | None, None),
    Parameter("brand", Brand, Brand.BOTH),
    Parameter("device", str, ""),
    Parameter("country", str, ""),
    Parameter("text", str, ""),
    Parameter("sort", str, ""),
)
_VISITS = (
    Parameter("by", VisitBy, VisitBy.PAGE),
    Parameter("view", VisitView, VisitView.ALL),
    Parameter("weeks", int, 4),
    Parameter("to", date | None, None),
    Parameter("channel", str, ""),
    Parameter("text", str, ""),
    Parameter("sort", str, ""),
)
PAGED = (Parameter("limit", int, 100), Parameter("after", int, 0))
OPERATIONS = (
    Operation("list_figures", "GET", SITE + "/figures", "What there is of each kind of figures of a site.", list[FigureSet]),
    Operation(
        "add_figures",
        "POST",
        SITE + "/figures",
        "Take in figures that were typed: all rows or none.",
        FigureOutcome,
        FigureRows,
        status=201,
    ),
    Operation(
        "list_figure_files",
        "GET",
        FILES,
        "The tables of figures of a site: those that wait, and those that were imported.",
        list[FigureFileOut],
    ),
    Operation(
        "add_figure_file",
        "POST",
        FILES,
        "Keep a table of figures, and say how it is understood. Nothing is imported yet.",
        FigureFileOut,
        FigureFileBody,
        status=201,
    ),
    Operation(
        "get_figure_file", "GET", FILES + "/{file_id}", "A table of figures, with a preview while it waits.", FigureFileOut
    ),
    Operation(
        "lay_out_figure_file",
        "PUT",
        FILES + "/{file_id}/layout",
        "Understand a waiting table in another way.",
        FigureFileOut,
        FigureLayoutBody,
    ),
    Operation(
        "import_figure_file",
        "POST",
        FILES + "/{file_id}/import",
        "Take in the rows of a waiting table as it is understood: all rows or none, unless those that cannot be read are to be left out.",
        FigureFileOut,
        FigureImport,
    ),
    Operation(
        "remove_figure_file", "DELETE", FILES + "/{file_id}", "Remove a table that waits, or the record of one; its figures stay."
    ),
    Operation(
        "get_search_figures",
        "GET",
        SITE + "/search-figures",
        "Search figures by query or page in whole weeks, against the weeks before.",
        SearchOut,
        query=(*_SEARCH, *PAGED),
    ),
    Operation(
        "export_search_figures",
        "GET",
        SITE + "/search-figures/export",
        "Search figures by query or page as a table: all rows, filtered and sorted like the list.",
        bytes,
        query=(Parameter("form", TableForm, TableForm.CSV), *_SEARCH),
    ),
    Operation(
        "get_visits",
        "GET",
        SITE + "/visits",
        "Visits by page or channel in whole weeks, against the weeks before.",
        VisitsOut,
        query=(*_VISITS, *PAGED),
    ),
    Operation(
        "export_visits",
        "GET",
        SITE + "/visits/export",
        "Visits by page or channel as a table: all rows, filtered and sorted like the list.",
        bytes,
        query=(Parameter("form", TableForm, TableForm.CSV), *_VISITS),
    ),
    Operation(
        "get_page_figures",
        "GET",
        SITE + "/page-figures",
        "What is known of a page from outside: search figures, visits, positions, links from other sites.",
        PageFiguresOut,
        query=(Parameter("url", str),),
    ),
    Operation(
        "get_paid",
        "GET",
        "/todos/{todo_id}/paid",
        "Whether a confirmed to-do paid: clicks to its pages before and after, against the rest of the site.",
        PaidOut,
    ),
)
