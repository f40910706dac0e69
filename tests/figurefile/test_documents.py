"""Tables as they come: encodings, separators, workbooks, and files that are none."""

from __future__ import annotations

import gzip
import io
from datetime import datetime
from itertools import islice
from pathlib import Path

import pytest
import xlsxwriter

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.figures.tables import Cell
from hodcarrier.figurefile import documents
from hodcarrier.figurefile.documents import Document, open_document, unpack

TEXT = 'Datum;Suchanfrage;Klicks\n03.11.2026;Größe „M“;1.234\n04.11.2026;"seil; dünn";5\n'
ROWS: list[list[Cell]] = [
    ["Datum", "Suchanfrage", "Klicks"],
    ["03.11.2026", "Größe „M“", "1.234"],
    ["04.11.2026", "seil; dünn", "5"],
]


def kept(path: Path, content: bytes) -> Document:
    unpack(content, path)
    return open_document(path)


def rows_of(document: Document, sheet: str = "") -> list[list[Cell]]:
    with document.rows(sheet) as rows:
        return list(rows)


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-16-be", "utf-32", "cp1252", "mac-roman"])
@pytest.mark.parametrize("end", ["\n", "\r\n", "\r"])
def test_text_is_read_in_every_encoding(tmp_path: Path, encoding: str, end: str) -> None:
    if encoding == "mac-roman" and end != "\r":
        return
    document = kept(tmp_path / "table", TEXT.replace("\n", end).encode(encoding))
    found = rows_of(document)
    if encoding == "mac-roman":  # what a guess cannot know is at least a table
        assert [len(row) for row in found] == [3, 3, 3]
    else:
        assert found == ROWS and not document.is_workbook


@pytest.mark.parametrize("encoding", ["cp1251", "iso-8859-7"])
def test_other_scripts_are_recognised(tmp_path: Path, encoding: str) -> None:
    words = {
        "cp1251": "морской канат для лодки",
        "iso-8859-7": "σχοινί για σκάφος και λιμάνι",
    }[encoding]
    lines = [f"2026-11-{day:02d},{words} {day},{day}" for day in range(1, 29)]
    found = rows_of(kept(tmp_path / "table", "\n".join(["date,query,clicks", *lines]).encode(encoding)))
    assert found[3] == ["2026-11-03", f"{words} 3", "3"]


@pytest.mark.parametrize("separator", [",", ";", "\t", "|"])
def test_the_separator_is_the_one_that_makes_rows_alike(tmp_path: Path, separator: str) -> None:
    lines = ["Report, of November; with | all", "", *(separator.join(["day", "a page, or two", "x"]) for _ in range(5))]
    lines = lines[:2] + [line if separator != "," else 'day,"a page, or two",x' for line in lines[2:]]
    document = kept(tmp_path / "table", "\n".join(lines).encode())
    assert document.separator == separator and rows_of(document)[-1] == ["day", "a page, or two", "x"]


def test_what_is_packed_is_unpacked(tmp_path: Path) -> None:
    assert rows_of(kept(tmp_path / "table", gzip.compress(TEXT.encode()))) == ROWS


def test_a_workbook_has_sheets_with_days_and_numbers(tmp_path: Path) -> None:
    out = io.BytesIO()
    book = xlsxwriter.Workbook(out)
    book.add_worksheet("Notes").write_string(0, 0, "nothing here")
    sheet = book.add_worksheet("Search")
    sheet.write_row(0, 0, ["Date", "Page", "Clicks", "Impressions"])
    sheet.write_datetime(1, 0, datetime(2026, 11, 3), book.add_format({"num_format": "dd/mm/yyyy"}))
    sheet.write_row(1, 1, ["/a", 12, 1300])
    book.close()
    document = kept(tmp_path / "table", out.getvalue())
    assert document.is_workbook and document.sheets == ["Notes", "Search"]
    assert rows_of(document, "Search") == [["Date", "Page", "Clicks", "Impressions"], [datetime(2026, 11, 3), "/a", 12, 1300]]
    with pytest.raises(InvalidInput, match="no sheet “Visits”"), document.rows("Visits"):
        pass


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"", "empty"), (b" \n\n ", "empty"), (b"%PDF-1.7 ...", "no table"), (b"\xd0\xcf\x11\xe0old", "no table"), (b"PK\x03\x04broken", "cannot be read"),
        (b"<!DOCTYPE html><p>", "no table"), (b"\x1f\x8bnot gzip", "cannot be unpacked"), (gzip.compress(TEXT.encode(), mtime=0)[:-9], "cannot be unpacked"),
    ],
)  # fmt: skip
def test_what_holds_no_table_is_refused_in_words(tmp_path: Path, content: bytes, said: str) -> None:
    with pytest.raises(InvalidInput, match=said):
        kept(tmp_path / "table", content)


def test_what_is_too_large_is_refused(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(documents, "BYTES_MAX", 10)
    with pytest.raises(InvalidInput, match="larger than"):
        kept(tmp_path / "table", gzip.compress(TEXT.encode()))
    monkeypatch.setattr(documents, "ROWS_MAX", 2)
    document = kept(tmp_path / "table", TEXT.encode())
    with document.rows("") as rows:
        assert list(islice(rows, 2)) == ROWS[:2]
    with document.rows("") as rows, pytest.raises(InvalidInput, match="more than 2 rows"):
        list(rows)
