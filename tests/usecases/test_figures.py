"""Figures from outside, from a table that somebody has to what is made of it."""

from __future__ import annotations

import base64
import csv
import io
from datetime import date, timedelta
from pathlib import Path

import pytest

from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import Conflict, InvalidInput, NotFound
from hodcarrier.core.states import Brand, DayOrder, FigureKind, FileStage, PaidEnd, SearchBy, SearchView, TodoState
from hodcarrier.figurefile import documents
from hodcarrier.register.models import Member, Metric
from hodcarrier.usecases import clients, figure_files, metrics, payoff, search_figures, sites, todo_changes, todo_lists, todos
from hodcarrier.usecases.search_figures import SearchFilter, get_search_figures
from hodcarrier.wire.clients import ClientChange
from hodcarrier.wire.figures import FigureFileBody, FigureFileOut, FigureImport, FigureLayoutBody, FigureRows
from hodcarrier.wire.todos import TodoBody, TodoChange
from tests.usecases.conftest import START, Office
from tests.usecases.test_todos import shop

NOBODY = Member(id=None, name="")
SHOP = "https://shop.example/"
HEAD = ["date", "page", "query", "clicks", "impressions", "position"]
LAST = date(2026, 11, 30)
ALL = FigureImport()


def added(office: Office, text: str | bytes, name: str = "table.csv", source: str = "") -> FigureFileOut:
    content = base64.b64encode(text if isinstance(text, bytes) else text.encode()).decode()
    return figure_files.add_figure_file(
        office.work, office.site.id, FigureFileBody(name=name, content=content, source=source), NOBODY
    )


def imported(office: Office, rows: list[list[object]], head: list[str] = HEAD, leave_out: bool = False) -> FigureFileOut:
    table = added(office, text_of([head, *rows]))
    return figure_files.import_figure_file(office.work, office.site.id, table.id, FigureImport(leave_out=leave_out), NOBODY)


def text_of(rows: list[list[object]] | list[list[str]]) -> str:
    out = io.StringIO()
    csv.writer(out).writerows(rows)
    return out.getvalue()


def weeks(of: dict[str, tuple[int, int, float]], days: int = 56, page: str = SHOP, query: bool = True) -> list[list[object]]:
    """Rows of each query: clicks a day in the first half and in the second, and where it stands; each is shown ten times as often."""
    return [
        [
            LAST - timedelta(days=days - 1 - n),
            page,
            text if query else "",
            clicks := (first if n < days // 2 else second),
            clicks * 10 + 5,
            place,
        ]
        for text, (first, second, place) in of.items()
        for n in range(days)
    ]


def test_a_table_is_looked_at_before_anything_is_imported(office: Office) -> None:
    office.audit(START, [page(doc("<h1>Shop</h1>"), SHOP)])
    table = added(
        office,
        text_of(
            [
                ["Search figures"],
                HEAD,
                ["2026-11-02", "/", "rope", 4, 90, 2.5],
                ["2026-11-03", "/new", "knots", 1, 20, ""],
                ["Total", "", "", 5, 110, ""],
            ]
        ),
    )
    found = table.preview
    assert found is not None and (table.stage, table.kind, table.source) == (FileStage.WAITING, FigureKind.SEARCH, "table.csv")
    assert (found.layout.head_row, found.readable, found.unreadable, found.missing) == (2, 2, 1, [])
    assert found.rows[0] == {
        "day": "2026-11-02",
        "page": SHOP,
        "query": "rope",
        "device": "",
        "country": "",
        "clicks": "4",
        "impressions": "90",
        "position": "2.5",
    }
    assert [(each.row, each.text) for each in found.problems] == [(5, "Day: “Total” is no day")]
    assert (found.pages, found.pages_unknown, found.unknown, found.queries, found.queries_unknown) == (2, 1, [SHOP + "new"], 2, 2)
    assert search_figures.list_figures(office.work, office.site.id) == []
    with pytest.raises(InvalidInput, match="Row 5 cannot be read"):
        figure_files.import_figure_file(office.work, office.site.id, table.id, ALL, NOBODY)
    assert search_figures.list_figures(office.work, office.site.id) == [], "all rows or none"
    done = figure_files.import_figure_file(office.work, office.site.id, table.id, FigureImport(leave_out=True), NOBODY)
    assert done.outcome is not None and (done.outcome.new, done.outcome.left_out, done.outcome.first) == (2, 1, date(2026, 11, 2))
    (kept,) = search_figures.list_figures(office.work, office.site.id)
    assert (kept.kind, kept.rows, kept.first, kept.last, kept.sources) == (
        FigureKind.SEARCH,
        2,
        date(2026, 11, 2),
        date(2026, 11, 3),
        ["table.csv"],
    )
    with pytest.raises(Conflict, match="imported already"):
        figure_files.import_figure_file(office.work, office.site.id, table.id, ALL, NOBODY)
    assert not office.work.figures.waiting()


def test_the_same_rows_again_change_nothing_and_others_replace(office: Office) -> None:
    rows: list[list[object]] = [["2026-11-02", "/", "rope", 4, 90, 2.5], ["2026-11-03", "/", "rope", 5, 91, 2.5]]
    first, again = imported(office, rows), imported(office, rows)
    rows[1][3] = 7
    later = imported(office, [*rows, ["2026-11-04", "/", "rope", 1, 2, ""], ["2026-11-04", "/", "rope", 3, 9, ""]])
    counts = [(f.outcome.new, f.outcome.same, f.outcome.replaced, f.outcome.repeated) for f in (first, again, later) if f.outcome]
    assert counts == [(2, 0, 0, 0), (0, 2, 0, 0), (1, 1, 1, 1)]
    sums = get_search_figures(office.work, office.site.id, SearchFilter()).now
    assert (sums.clicks, sums.impressions) == (4 + 7 + 3, 90 + 91 + 9)


def test_how_a_table_was_understood_is_remembered_for_its_form(office: Office) -> None:
    text = "Report\nWhen;What;Klicks;Impressionen\n03.04.2026;rope;4;90\n"
    table = added(office, text, source="The tool of the month")
    assert table.preview is not None and table.preview.missing == ["day"] and not table.preview.known_layout
    layout = table.preview.layout.model_copy(
        update={"columns": {"day": 1, "query": 2, "clicks": 3, "impressions": 4}, "days": DayOrder.MDY}
    )
    table = figure_files.lay_out_figure_file(office.work, office.site.id, table.id, FigureLayoutBody(layout=layout))
    assert table.preview is not None and (table.preview.first, table.preview.day_orders) == (
        date(2026, 3, 4),
        [DayOrder.DMY, DayOrder.MDY],
    )
    figure_files.import_figure_file(office.work, office.site.id, table.id, ALL, NOBODY)
    again = added(office, text.replace("Report\n", "Report\nof April\n\n"))
    assert again.preview is not None and again.preview.known_layout and again.source == "The tool of the month"
    assert (again.preview.layout.days, again.preview.layout.head_row, again.preview.first) == (DayOrder.MDY, 4, date(2026, 3, 4))


def test_what_holds_for_every_row_is_typed(office: Office) -> None:
    table = added(office, "query,clicks,impressions\nrope,4,90\n")
    assert table.preview is not None and table.preview.missing == ["day"]
    with pytest.raises(InvalidInput, match="Nothing says what is the Day"):
        figure_files.import_figure_file(office.work, office.site.id, table.id, ALL, NOBODY)
    layout = table.preview.layout.model_copy(update={"fixed": {"day": "2026-11-30", "device": "Mobile"}})
    table = figure_files.lay_out_figure_file(office.work, office.site.id, table.id, FigureLayoutBody(layout=layout))
    assert table.preview is not None and table.preview.rows[0]["device"] == "phone"
    figure_files.import_figure_file(office.work, office.site.id, table.id, ALL, NOBODY)
    found = get_search_figures(office.work, office.site.id, SearchFilter(device="phone"))
    assert (found.now.clicks, found.devices) == (4, ["phone"])


def test_days_and_decimals_are_read_as_the_columns_that_were_named(office: Office) -> None:
    table = added(office, "When;What;How much\n03.04.2026;Reviews;1.234,5\n14.04.2026;Reviews;3,5\n")
    assert table.preview is not None
    layout = table.preview.layout.model_copy(update={"kind": FigureKind.SITE, "columns": {"day": 1, "name": 2, "value": 3}})
    table = figure_files.lay_out_figure_file(office.work, office.site.id, table.id, FigureLayoutBody(layout=layout))
    assert table.preview is not None and (table.preview.unreadable, table.preview.rows[0]["value"]) == (0, "1,234.5")
    chosen = table.preview.layout.model_copy(update={"days": DayOrder.MDY})
    table = figure_files.lay_out_figure_file(office.work, office.site.id, table.id, FigureLayoutBody(layout=chosen))
    assert table.preview is not None and table.preview.unreadable == 1, "what somebody has chosen stays"


@pytest.mark.parametrize(
    ("change", "said"),
    [({"columns": {"nothing": 1}}, "no field nothing"), ({"columns": {"day": 0}}, "counted from 1"), ({"fixed": {"visits": "1"}}, "no field visits"),
     ({"sheet": "Elsewhere"}, "no sheet")],
)  # fmt: skip
def test_a_layout_that_does_not_fit_is_refused(office: Office, change: dict[str, object], said: str) -> None:
    table = added(office, text_of([HEAD]))
    assert table.preview is not None
    body = FigureLayoutBody(layout=table.preview.layout.model_copy(update=change))
    try:
        figure_files.lay_out_figure_file(office.work, office.site.id, table.id, body)
    except InvalidInput as error:
        assert said in error.message + error.hint
    else:
        assert change == {"sheet": "Elsewhere"}, "a text file has one sheet, whatever it is called"


def test_what_is_no_table_leaves_nothing_behind(office: Office) -> None:
    for content in (b" ", b"%PDF-1", b"PK\x03\x04x"):
        with pytest.raises(InvalidInput):
            added(office, content)
    with pytest.raises(InvalidInput, match="base64"):
        figure_files.add_figure_file(office.work, office.site.id, FigureFileBody(name="x", content="ä"), NOBODY)
    assert figure_files.list_figure_files(office.work, office.site.id) == [] and office.work.figures.waiting() == []


def test_tables_that_nobody_imports_are_removed(office: Office, monkeypatch: pytest.MonkeyPatch) -> None:
    table = added(office, text_of([HEAD]))
    stray = office.work.figures.table_path(999)
    stray.write_text("left behind")
    figure_files.forget_tables(office.work)
    assert office.work.figures.waiting() == [table.id]
    figure_files.forget_tables(office.at(START + timedelta(days=15)))
    assert office.work.figures.waiting() == [] and figure_files.list_figure_files(office.work, office.site.id) == []
    monkeypatch.setattr(figure_files, "WAITING_MAX", 1)
    kept = added(office, text_of([HEAD]))
    with pytest.raises(Conflict, match="1 tables wait"):
        added(office, text_of([HEAD]))
    figure_files.remove_figure_file(office.work, office.site.id, kept.id, NOBODY)
    with pytest.raises(NotFound):
        figure_files.get_figure_file(office.work, office.site.id, kept.id)


def test_an_import_that_breaks_off_changes_nothing(office: Office, monkeypatch: pytest.MonkeyPatch) -> None:
    imported(office, [["2026-11-02", "/", "rope", 4, 90, 2.5]])
    table = added(office, text_of([HEAD, *weeks({"rope": (2, 3, 4.0)})]))
    monkeypatch.setattr(documents, "ROWS_MAX", 20)
    with pytest.raises(InvalidInput, match="more than 20 rows"):
        figure_files.import_figure_file(office.work, office.site.id, table.id, ALL, NOBODY)
    assert [each.rows for each in search_figures.list_figures(office.work, office.site.id)] == [1]


def test_figures_of_the_site_are_typed_or_imported(office: Office) -> None:
    row = {"day": "2026-11-01", "name": "Reviews", "value": "41"}
    body = FigureRows(kind=FigureKind.SITE, rows=[row, {**row, "value": "42"}])
    first = figure_files.add_figures(office.work, office.site.id, body, NOBODY)
    assert (first.new, first.repeated, first.last) == (1, 1, date(2026, 11, 1))
    second = imported(
        office,
        [["2026-11-01", "Reviews", 43, ""], ["2026-11-02", "Reviews", 44, "own counting"]],
        ["day", "name", "value", "source"],
    )
    assert second.outcome is not None and (second.outcome.new, second.outcome.replaced) == (1, 1)
    rows = metrics.list_metrics(office.work, office.site.id)
    assert [(each.day.day, each.value, each.source) for each in rows] == [(1, 43.0, "table.csv"), (2, 44.0, "own counting")]
    for wrong, said in (
        ([{"day": "2026-11-01", "nme": "x"}], "no field nme"),
        ([{"day": "soon", "name": "x", "value": "1"}], "Row 1 cannot be read"),
        ([{"name": "x"}], "Nothing says"),
    ):
        with pytest.raises(InvalidInput, match=said):
            figure_files.add_figures(office.work, office.site.id, FigureRows(kind=FigureKind.SITE, rows=wrong), NOBODY)
    with office.work.reading() as session:
        assert session.query(Metric).count() == 2
    (kept,) = search_figures.list_figures(office.work, office.site.id)
    assert (kept.kind, kept.rows) == (FigureKind.SITE, 2)


def test_every_kind_is_kept(office: Office) -> None:
    tables = {
        FigureKind.VISITS: (["day", "page", "channel", "visits", "conversions"], ["2026-11-02", "/", "search", 40, 1.5]),
        FigureKind.POSITIONS: (["day", "keyword", "place", "rank"], ["2026-11-02", "rope", "Leeds", "> 100"]),
        FigureKind.LINKS: (
            ["linking page", "target page", "first seen", "last seen"],
            ["https://blog.example/a", "/", "2026-10-01", "2026-11-01"],
        ),
    }
    for kind, (head, row) in tables.items():
        table = imported(office, [row], head)
        assert (table.kind, table.outcome and table.outcome.new) == (kind, 1)
    kept = {each.kind: (each.rows, each.first, each.last) for each in search_figures.list_figures(office.work, office.site.id)}
    assert kept == {
        FigureKind.VISITS: (1, date(2026, 11, 2), date(2026, 11, 2)),
        FigureKind.POSITIONS: (1, date(2026, 11, 2), date(2026, 11, 2)),
        FigureKind.LINKS: (1, date(2026, 10, 1), date(2026, 11, 1)),
    }


def test_queries_that_rise_fall_stand_near_the_top_or_are_clicked_less(office: Office) -> None:
    of = {"shop rope": (9, 9, 1.2), "rising": (4, 9, 5.0), "falling": (9, 4, 6.0), "steady": (9, 9, 20.0), "few": (0, 1, 30.0)}
    rows = weeks(of) + [[LAST - timedelta(days=n), SHOP, f"usual {k}", 20, 200, 3] for k in range(6) for n in range(28)]
    rows += [[LAST - timedelta(days=n), SHOP, "unclicked", 1, 200, 3] for n in range(28)]
    imported(office, rows)
    found = {view: get_search_figures(office.work, office.site.id, SearchFilter(view=view)) for view in SearchView}
    named = {view: [row.text for row in out.items] for view, out in found.items()}
    assert "rising" in named[SearchView.RISING] and named[SearchView.AT_RISK] == ["falling"]
    assert named[SearchView.LOW_CTR] == ["unclicked"] and named[SearchView.NEAR_TOP] == ["rising", "falling"]
    assert found[SearchView.ALL].counts == {view: out.total for view, out in found.items()}
    assert found[SearchView.ALL].usual_ctr == {3: 0.1}
    (missed,) = found[SearchView.LOW_CTR].items
    assert missed.lost_clicks == pytest.approx(28 * 19)
    brand = get_search_figures(office.work, office.site.id, SearchFilter(brand=Brand.ONLY))
    assert [row.text for row in brand.items] == ["shop rope"] and brand.brand_names == ["Rope & Sail", "shop"]
    clients.change_client(office.work, office.site.client_id, ClientChange(brand_names=["Steady", "steady"]), NOBODY)
    brand = get_search_figures(office.work, office.site.id, SearchFilter(brand=Brand.ONLY))
    assert [row.text for row in brand.items] == ["steady"] and brand.brand_names == ["Steady"]


def test_rows_of_several_grains_are_not_added_up_twice(office: Office) -> None:
    imported(
        office,
        [["2026-11-29", "/", "rope", 4, 90, 2], ["2026-11-29", "/b", "rope", 3, 50, 2], ["2026-11-30", "/", "rope", 2, 10, 2]],
    )
    imported(office, [["2026-11-29", 9, 200]], ["date", "clicks", "impressions"])
    found = get_search_figures(office.work, office.site.id, SearchFilter())
    assert (found.now.clicks, found.now.impressions) == (9 + 2, 200 + 10), "of each day the rows that say it shortest"
    assert [(row.text, row.now.clicks) for row in found.items] == [("rope", 9)]
    pages = get_search_figures(office.work, office.site.id, SearchFilter(by=SearchBy.PAGE))
    assert [(row.text, row.now.clicks) for row in pages.items] == [(SHOP, 6), (SHOP + "b", 3)]
    assert [(each.day.day, each.clicks) for each in found.days] == [(29, 9), (30, 2)]


def test_lists_come_in_parts_in_the_order_that_is_asked_for(office: Office) -> None:
    imported(office, [["2026-11-30", "/", f"query {n}", n, 100 - n, "" if n == 2 else n] for n in range(5)])
    ask = lambda **given: get_search_figures(office.work, office.site.id, SearchFilter(**given), limit=2, after=0)  # noqa: E731
    assert [row.text for row in ask().items] == ["query 4", "query 3"] and ask().after == "2"
    last = get_search_figures(office.work, office.site.id, SearchFilter(), limit=2, after=4)
    assert ([row.text for row in last.items], last.after, last.total) == (["query 0"], None, 5)
    assert [row.text for row in ask(sort="-impressions").items] == ["query 0", "query 1"]
    places = get_search_figures(office.work, office.site.id, SearchFilter(sort="-position")).items
    assert [row.text[-1] for row in places] == ["4", "3", "1", "0", "2"], "what has no position stands last"
    assert [row.text for row in ask(text="QUERY 3").items] == ["query 3"]
    for wrong, field in (
        (SearchFilter(weeks=0), "weeks"),
        (SearchFilter(weeks=27), "weeks"),
        (SearchFilter(sort="size"), "sort"),
    ):
        with pytest.raises(InvalidInput) as refused:
            get_search_figures(office.work, office.site.id, wrong)
        assert refused.value.field == field
    empty = get_search_figures(office.work, office.site.id, SearchFilter(to=date(2020, 1, 1)))
    assert empty.items == [] and empty.now.clicks == 0 and empty.first is not None


def test_of_a_site_without_figures_nothing_is_said(office: Office) -> None:
    found = get_search_figures(office.work, office.site.id, SearchFilter())
    assert found.first is None and found.items == [] and found.total == 0
    with pytest.raises(NotFound):
        get_search_figures(office.work, 99, SearchFilter())


def test_figures_go_with_their_site(office: Office) -> None:
    imported(office, [["2026-11-02", "/", "rope", 4, 90, 2.5]])
    path = office.work.figures.path(office.site.id)
    assert path.is_file()
    sites.remove_site(office.work, office.site.id, NOBODY)
    assert not path.exists()


# The start page links to what is gone, until that is mended.
BROKEN, MENDED = shop(1), shop(0)


def confirmed(office: Office) -> int:
    """A to-do about the start page that was done on the 10th and confirmed on the 12th of November."""
    office.audit(START, BROKEN)
    todo = todos.add_todo(office.work, TodoBody(site_id=office.site.id, check="link-broken"), NOBODY)
    with pytest.raises(Conflict, match="No audit has confirmed"):
        payoff.get_paid(office.work, todo.id)
    todo_changes.change_todo(office.at(START + timedelta(days=7)), todo.id, TodoChange(state=TodoState.DONE), None, NOBODY)
    office.audit(START + timedelta(days=9), MENDED)
    assert todo_lists.get_todo(office.work, todo.id).state == TodoState.CONFIRMED
    return todo.id


def daily(clicks_before: int, clicks_after: int, until: date) -> list[list[object]]:
    first, fixed = date(2026, 10, 1), date(2026, 11, 11)
    days = [first + timedelta(days=n) for n in range((until - first).days + 1)]
    return [
        [day, where, "", clicks, 500, 3]
        for day in days
        for where, clicks in (("/", clicks_before if day < fixed else clicks_after), ("/b", 40))
    ]


def test_whether_a_fix_paid_is_told_four_weeks_after(office: Office, tmp_path: Path) -> None:
    todo = confirmed(office)
    nothing = payoff.get_paid(office.work, todo)
    assert nothing.end == PaidEnd.TOO_EARLY and nothing.sentence.startswith("There are no search figures")
    imported(office, daily(10, 15, date(2026, 12, 5)))
    early = payoff.get_paid(office.work, todo)
    assert (
        early.end == PaidEnd.TOO_EARLY
        and "figures up to 14 December 2026 are needed, the last are of 5 December 2026" in early.sentence
    )
    imported(office, daily(10, 15, date(2026, 12, 20)))
    told = payoff.get_paid(office.work, todo)
    assert (told.end, told.pages, told.before, told.after) == (PaidEnd.ROSE, 1, 280, 420)
    assert (told.before_first, told.before_last, told.first, told.last) == (
        date(2026, 10, 13),
        date(2026, 11, 9),
        date(2026, 11, 17),
        date(2026, 12, 14),
    )
    assert told.change == pytest.approx(0.5, abs=0.01) and told.sentence.startswith("Clicks to the page rose 50 %")


def test_where_days_are_missing_nothing_is_told(office: Office) -> None:
    todo = confirmed(office)
    imported(office, [row for row in daily(10, 15, date(2026, 12, 20)) if row[0] != date(2026, 11, 25)])
    told = payoff.get_paid(office.work, todo)
    assert told.end == PaidEnd.TOO_FEW and "of one day" in told.sentence


def test_a_table_of_a_form_that_is_known_may_write_its_days_in_another_way(office: Office) -> None:
    imported(office, [["2026-11-29", SHOP, "rope", 1, 10, "2.5"]])
    table = added(office, text_of([HEAD, ["29.11.2026", SHOP, "rope", 3, 30, "2,5"], ["30.11.2026", SHOP, "rope", 3, 30, "2,5"]]))
    assert table.preview and table.preview.known_layout
    assert (table.preview.layout.days, table.preview.unreadable) == (DayOrder.DMY, 0)
    assert table.preview.rows[0]["position"] == "2.5"
