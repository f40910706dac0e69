"""Tables as they come from other tools and other people's hands: each is understood without a word from anybody, or it is said what is wrong with it."""

from __future__ import annotations

import gzip
import io
from collections.abc import Callable
from datetime import datetime
from typing import Any

import pytest
import xlsxwriter

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import FigureKind
from tests.usecases.conftest import Office
from tests.usecases.test_figures import added

# What every table below says: two queries on the third and the fourth, and one on the twenty-fifth of November.
SAID = [("2026-11-03", "hemp rope", 1234, 56_000, 2.5), ("2026-11-04", "anchor “M”", 5, 310, 11.0), ("2026-11-25", "knots", 0, 12, None)]  # fmt: skip
HEAD = ["date", "query", "clicks", "impressions", "position"]


def table(
    day: str = "%Y-%m-%d",
    separator: str = ",",
    head: list[str] = HEAD,
    number: Callable[[float | None], str] = lambda n: "" if n is None else f"{n:g}",
    end: str = "\n",
    quoted: bool = False,
) -> str:
    """The figures as text; what has the separator in it is quoted."""

    def cell(text: str) -> str:
        return f'"{text}"' if quoted or separator in text else text

    lines = [separator.join(cell(each) for each in head)]
    for when, query, *numbers in SAID:
        cells = [f"{datetime.fromisoformat(str(when)):{day}}", str(query), *(number(n) for n in numbers)]  # type: ignore[arg-type]
        lines.append(separator.join(cell(each) for each in cells))
    return end.join(lines) + end


def german(number: float | None) -> str:
    return "" if number is None else f"{number:,.1f}".replace(",", " ").replace(".", ",").replace(" ", ".").removesuffix(",0")


def french(number: float | None) -> str:
    return "" if number is None else f"{number:,.1f}".replace(",", "\u202f").replace(".", ",").removesuffix(",0")


def swiss(number: float | None) -> str:
    return "" if number is None else f"{number:,.1f}".replace(",", "’").removesuffix(".0")


def british(number: float | None) -> str:
    return "–" if number is None else f"{number:,.1f}".removesuffix(".0")


def workbook(fill: Callable[[Any, Any], None]) -> bytes:
    out = io.BytesIO()
    book = xlsxwriter.Workbook(out, {"in_memory": True})
    fill(book, book.add_worksheet("Queries"))
    book.close()
    return out.getvalue()


def _rows(book: Any, sheet: Any, first: int = 0, *, as_text: bool = False) -> None:
    day = book.add_format({"num_format": "dd.mm.yyyy"})
    for place, name in enumerate(HEAD):
        sheet.write(first, place, name)
    for n, (when, query, *numbers) in enumerate(SAID, first + 1):
        if as_text:
            sheet.write_string(n, 0, str(when))
        else:
            sheet.write_datetime(n, 0, datetime.fromisoformat(str(when)), day)
        sheet.write(n, 1, query)
        for place, number in enumerate(numbers, 2):
            if number is not None:
                sheet.write(n, place, number)


def plain_workbook(book: Any, sheet: Any) -> None:
    _rows(book, sheet)


def workbook_of_texts(book: Any, sheet: Any) -> None:
    _rows(book, sheet, as_text=True)


def workbook_with_a_merged_title(book: Any, sheet: Any) -> None:
    sheet.merge_range(0, 0, 0, 4, "Search figures, November")
    _rows(book, sheet, 2)


def workbook_whose_first_sheet_is_a_cover(book: Any, sheet: Any) -> None:
    sheet.write(0, 0, "Made for Rope & Sail")
    _rows(book, book.add_worksheet("Figures"))


def workbook_with_merged_heads(book: Any, sheet: Any) -> None:
    sheet.merge_range(0, 2, 0, 4, "In search results")
    sheet.write(0, 0, "When and what")
    _rows(book, sheet, 1)


ODD: dict[str, bytes | str] = {
    "plain": table(),
    "with a mark of its byte order": table().encode("utf-8-sig"),
    "UTF-16, tabs": table(separator="\t").encode("utf-16"),
    "UTF-16 without a mark": table(separator="\t").encode("utf-16-le"),
    "Windows, semicolons, German numbers and days": table("%d.%m.%Y", ";", ["Datum", "Suchanfrage", "Klicks", "Impressionen", "Position"], german, "\r\n").encode("cp1252"),
    "old lines": table(end="\r"),
    "semicolons": table(separator=";"),
    "bars": table(separator="|"),
    "everything quoted": table(quoted=True),
    "days first, slashes": table("%d/%m/%Y"),
    "months first, slashes": table("%m/%d/%Y"),
    "days with dots": table("%d.%m.%Y"),
    "years first, slashes": table("%Y/%m/%d"),
    "days without anything between": table("%Y%m%d"),
    "months by name": table("%d %b %Y"),
    "months by name, first": table("%B %d, %Y"),
    "with times": table("%Y-%m-%dT00:00:00Z"),
    "years of two digits": table("%d.%m.%y"),
    "French numbers": table("%d/%m/%Y", ";", ["Date", "Requête", "Clics", "Impressions", "Position"], french),
    "Swiss numbers": table("%d.%m.%Y", ";", HEAD, swiss),
    "British numbers and dashes for nothing": table("%d/%m/%Y", ",", HEAD, british),
    "a title above": "Search figures of Rope & Sail\n\n" + table(),
    "notes above": "# made on 1 December 2026\n# all countries\n" + table(),
    "empty lines between": table().replace("\n", "\n\n"),
    "a separator at the end of each line": table().replace("\n", ",\n"),
    "other words for the heads": table(head=["Date", "Queries", "Clicks", "Impressions", "Avg. position"]),
    "heads with blanks and in capitals": table(head=[" DATE ", "SEARCH  QUERY", "Clicks ", "IMPRESSIONS", "Average Position"]),
    "packed": gzip.compress(table().encode()),
    "a workbook": workbook(plain_workbook),
    "a workbook of texts": workbook(workbook_of_texts),
    "a workbook with a merged title": workbook(workbook_with_a_merged_title),
    "a workbook behind a cover": workbook(workbook_whose_first_sheet_is_a_cover),
    "a workbook with merged heads": workbook(workbook_with_merged_heads),
}  # fmt: skip


@pytest.mark.parametrize("name", ODD)
def test_it_is_understood(office: Office, name: str) -> None:
    found = added(office, ODD[name], name).preview
    assert found is not None
    assert (found.layout.kind, found.missing, found.readable, found.unreadable) == (FigureKind.SEARCH, [], 3, 0), found.problems
    read = [tuple(row[key] for key in ("day", "query", "clicks", "impressions", "position")) for row in found.rows]
    wanted = [
        (day, query, f"{clicks:,}", f"{shown:,}", "" if place is None else f"{place:g}")
        for day, query, clicks, shown, place in SAID
    ]
    assert read == wanted


REFUSED: dict[str, tuple[bytes, str]] = {
    "nothing but blanks": (b" \n\n \n", "empty"),
    "a picture": (b"\x89PNG\r\n\x1a\n" + bytes(range(256)), "no table"),
    "a page": (b"\r\n<!doctype html><title>Sign in</title><p>Please sign in.</p>", "web page"),
    "a broken workbook": (workbook(plain_workbook)[:900], "workbook"),
    "a broken package": (gzip.compress(table().encode() * 50)[:-40], "packed"),
}


@pytest.mark.parametrize("name", REFUSED)
def test_what_is_no_table_is_told_so(office: Office, name: str) -> None:
    content, word = REFUSED[name]
    with pytest.raises(InvalidInput) as refused:
        added(office, content, name)
    assert word in f"{refused.value.message} {refused.value.hint}".lower()
    assert not office.work.figures.waiting(), "nothing is left of it"
