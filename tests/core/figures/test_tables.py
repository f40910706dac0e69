"""Days, numbers, headings and rows as people's tables write them."""

from __future__ import annotations

from datetime import date, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.figures.days import day_orders, read_day
from hodcarrier.core.figures.kinds import FIELDS, field_of
from hodcarrier.core.figures.numbers import decimal_marks, read_number
from hodcarrier.core.figures.tables import Cell, Layout, Problem, RowReader, understand
from hodcarrier.core.states import DayOrder, DecimalMark, FigureKind

SHOP = "https://shop.example/"
WAYS = {
    DayOrder.YMD: ("%Y-%m-%d", "%Y/%m/%d", "%Y%m%d", "%y.%m.%d", "%Y-%m-%dT00:00:00Z"),
    DayOrder.DMY: ("%d.%m.%Y", "%d/%m/%Y", "%d-%m-%y", "%d.%m.%Y 13:45"),
    DayOrder.MDY: ("%m/%d/%Y", "%m-%d-%y", "%m/%d/%Y 1:45 PM"),
    DayOrder.YDM: ("%Y-%d-%m",),
    DayOrder.WORDS: ("%d %b %Y", "%B %d, %Y", "%A, %d %B %Y", "%d-%b-%Y"),
}


@given(
    st.dates(date(2000, 1, 1), date(2060, 12, 31)),
    st.sampled_from([(order, way) for order, ways in WAYS.items() for way in ways]),
)
def test_a_day_is_read_back_however_it_is_written(day: date, way: tuple[DayOrder, str]) -> None:
    order, written = way
    assert read_day(day.strftime(written), order) == day


@pytest.mark.parametrize(("order", "way"), [(order, way) for order, ways in WAYS.items() for way in ways])
def test_the_order_of_a_month_of_days_is_found(order: DayOrder, way: str) -> None:
    days = [date(2026, 11, 3) + timedelta(days=n) for n in range(28)]
    assert day_orders(day.strftime(way) for day in days)[0] == order


@pytest.mark.parametrize(
    ("text", "day"),
    [("3. März 2026", date(2026, 3, 3)), ("14 janvier 2026", date(2026, 1, 14)), ("Di., 3. Nov. 2026", date(2026, 11, 3)),
     ("Nov 3rd", None), ("31 Feb 2026", None), ("soon", None), ("2026", None)],
)  # fmt: skip
def test_months_are_known_by_name(text: str, day: date | None) -> None:
    assert read_day(text, DayOrder.WORDS) == day


@pytest.mark.parametrize("text", ["2026-13-41", "31.02.2026", "1/2", "", "Total", "99/99/9999", "2026-11-03x"])
def test_what_is_no_day_is_none(text: str) -> None:
    assert [read_day(text, order) for order in DayOrder] == [None] * len(DayOrder)
    assert day_orders(["2026-11-03", text] if text else [text]) == []


def test_an_order_that_could_be_another_is_told() -> None:
    assert day_orders(["03.04.2026", "04.04.2026"]) == [DayOrder.DMY, DayOrder.MDY]


@pytest.mark.parametrize(
    ("text", "mark", "number"),
    [
        ("1,234", DecimalMark.POINT, 1234), ("1.234", DecimalMark.COMMA, 1234), ("1.234", DecimalMark.POINT, 1.234),
        ("1,234,567.5", DecimalMark.POINT, 1234567.5), ("1.234.567,5", DecimalMark.COMMA, 1234567.5), ("3,4", DecimalMark.COMMA, 3.4),
        ("3,4", DecimalMark.POINT, None), ("3.4", DecimalMark.COMMA, None), ("1 234,5", DecimalMark.COMMA, 1234.5),
        ("1\u202f234", DecimalMark.POINT, 1234), ("1'234.50", DecimalMark.POINT, 1234.5), ("12 %", DecimalMark.POINT, 12), ("−3", DecimalMark.POINT, -3),
        ("+7", DecimalMark.COMMA, 7), ("12,34,56", DecimalMark.POINT, None), ("ten", DecimalMark.POINT, None), ("1e3", DecimalMark.POINT, 1000),
    ],
)  # fmt: skip
def test_numbers_are_read_as_they_are_meant(text: str, mark: DecimalMark, number: float | None) -> None:
    assert read_number(text, mark) == number


@pytest.mark.parametrize(
    ("texts", "marks"),
    [
        (["1,5", "12"], [DecimalMark.COMMA]), (["1.5", "12"], [DecimalMark.POINT]), (["1,234.5"], [DecimalMark.POINT]),
        (["1.234", "3,4"], [DecimalMark.COMMA]), (["12", "-", "n/a"], [DecimalMark.POINT, DecimalMark.COMMA]), (["1,5", "1.5"], []),
        (["1.234", "2.345"], [DecimalMark.POINT, DecimalMark.COMMA]),
    ],
)  # fmt: skip
def test_the_decimal_mark_is_found(texts: list[str], marks: list[DecimalMark]) -> None:
    assert decimal_marks(texts) == marks


@given(st.floats(-1e9, 1e9).map(lambda value: round(value, 2)), st.sampled_from(DecimalMark))
def test_a_number_is_read_back(value: float, mark: DecimalMark) -> None:
    written = f"{value:,.2f}"
    if mark == DecimalMark.COMMA:
        written = written.replace(",", " ").replace(".", ",")
    assert read_number(written, mark) == pytest.approx(value)


@pytest.mark.parametrize(
    ("head", "kind", "fields"),
    [
        (["Date", "Landing page", "Clicks", "Impressions"], FigureKind.SEARCH, {"day": 0, "page": 1, "clicks": 2, "impressions": 3}),
        (["Suchanfrage", "Klicks", "Impressionen", "Datum"], FigureKind.SEARCH, {"query": 0, "clicks": 1, "impressions": 2, "day": 3}),
        (["day", "channel", "URL", "Sessions", "Conversions"], FigureKind.VISITS,
         {"day": 0, "channel": 1, "page": 2, "sessions": 3, "conversions": 4}),
        (["Keyword", "Device", "Location", "Rank", "Checked on"], FigureKind.POSITIONS,
         {"keyword": 0, "device": 1, "place": 2, "rank": 3, "day": 4}),
        (["Source URL", "Target URL", "Anchor text", "First seen", "Last seen"], FigureKind.LINKS,
         {"source_page": 0, "page": 1, "anchor": 2, "first_seen": 3, "last_seen": 4}),
        (["Day:", "Name*", "VALUE"], FigureKind.SITE, {"day": 0, "name": 1, "value": 2}),
    ],
)  # fmt: skip
def test_columns_are_known_by_their_headings(head: list[Cell], kind: FigureKind, fields: dict[str, int]) -> None:
    layout = understand([["Report of November"], [], head, ["2026-11-03"] * len(head)]).layout
    assert (layout.kind, layout.head_row, dict(layout.columns), layout.missing) == (kind, 2, fields, [])


def test_of_merged_headings_the_row_below_counts() -> None:
    rows: list[list[Cell]] = [
        ["", "", "Search", None],
        ["Date", "Page", "Clicks", "Impressions"],
        ["2026-11-03", "/", "1", "2"],
    ]
    assert understand(rows).layout.head_row == 1


def test_of_a_table_without_known_headings_everything_is_missing() -> None:
    found = understand([["a", "b"], ["1", "2"]]).layout
    assert found.columns == {} and [each.name for each in found.missing] == ["day", "clicks", "impressions"]
    assert understand([]).layout.columns == {}


def _read(row: list[Cell], **changes: object) -> tuple[object, ...] | Problem:
    fields = FIELDS[FigureKind.SEARCH]
    layout = Layout(FigureKind.SEARCH, 0, {each.name: n for n, each in enumerate(fields)}, **changes)  # type: ignore[arg-type]
    return RowReader(layout, SHOP).read(row)


def test_a_row_is_read_into_its_fields() -> None:
    row: list[Cell] = ["2026-11-03", "/a?b#c", " rope  knots ", "Mobile", "-", "12", 1300.0, 3.5]
    assert _read(row) == (date(2026, 11, 3), "https://shop.example/a?b", "rope knots", "phone", None, 12, 1300, 3.5)
    typed: list[Cell] = [datetime(2026, 11, 3, 4, 5), "shop.example/x", None, None, None, 1, 2, None]
    assert _read(typed) == (date(2026, 11, 3), "https://shop.example/x", None, None, None, 1, 2, None)
    assert _read(["2026-11-03", "index.html", None, None, None, 1, 2])[1] == "https://shop.example/index.html"  # type: ignore[index]


@pytest.mark.parametrize(
    ("place", "cell", "said"),
    [
        (0, "Total", "Day: “Total” is no day"), (0, "", "Day is empty"), (5, "many", "Clicks: “many” is no number"), (5, "-4", "Clicks: “-4” is no count"),
        (5, "1.5", "Clicks: “1.5” is no count"), (6, None, "Impressions is empty"), (1, "mailto:a@b.example", "Page: “mailto:a@b.example” is no web address"),
        (1, "http://[", "Page: “http://[” is no address"), (5, True, "Clicks: “True” is no number"),
    ],
)  # fmt: skip
def test_what_cannot_be_read_is_said(place: int, cell: Cell, said: str) -> None:
    row: list[Cell] = ["2026-11-03", "/", "rope", None, None, 7, 8, None]
    row[place] = cell
    assert _read(row) == Problem(said)


def test_what_is_fixed_holds_for_every_row() -> None:
    layout = Layout(FigureKind.POSITIONS, 0, {"keyword": 0, "rank": 1}, {"day": "2026-11-03", "place": "Leeds"}, DayOrder.DMY)
    reader = RowReader(layout, SHOP)
    ranks = {cell: reader.read(["rope", cell]) for cell in ("3", "> 100", "0", "", "-")}
    at = [each.name for each in FIELDS[FigureKind.POSITIONS]].index("rank")
    assert {cell: row[at] for cell, row in ranks.items()} == {"3": 3, "> 100": None, "0": None, "": None, "-": None}  # type: ignore[index]
    assert ranks["3"][:4] == (date(2026, 11, 3), "rope", None, "Leeds")  # type: ignore[index]


def test_no_field_of_a_kind_is_twice_and_every_kind_needs_something() -> None:
    for kind, fields in FIELDS.items():
        assert len({each.name for each in fields}) == len(fields) and any(each.needed for each in fields), kind
        words = [word for each in fields for word in each.words[:1]]
        assert len(set(words)) == len(words) and all(word == word.lower() for each in fields for word in each.words)
    assert field_of(FigureKind.SITE, "clicks") is None
