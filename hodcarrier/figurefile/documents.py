"""Tables as files: text with separators in any encoding, or workbooks (Office Open XML, ISO/IEC 29500)."""

from __future__ import annotations

import codecs
import csv
import gzip
import io
import zipfile
import zlib
from collections.abc import Iterator, Sequence
from contextlib import closing, contextmanager
from dataclasses import dataclass
from itertools import islice
from pathlib import Path

import charset_normalizer

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.figures.tables import Cell

BYTES_MAX = 400 * 1024 * 1024  # unpacked
ROWS_MAX = 1_500_000
_HEAD_BYTES = 64 * 1024
_PART_BYTES = 1024 * 1024
_SEPARATORS = (",", ";", "\t", "|")
_MARKS = (
    (codecs.BOM_UTF8, "utf-8-sig"), (codecs.BOM_UTF32_LE, "utf-32"), (codecs.BOM_UTF32_BE, "utf-32"),
    (codecs.BOM_UTF16_LE, "utf-16"), (codecs.BOM_UTF16_BE, "utf-16"),
)  # fmt: skip
csv.field_size_limit(1_000_000)


@dataclass(frozen=True)
class Document:
    """A file that was found to hold tables: its sheets (one without a name in a text file), and how a text file is written."""

    path: Path
    sheets: Sequence[str]
    encoding: str = ""
    separator: str = ""

    @property
    def is_workbook(self) -> bool:
        """Whether it is a workbook."""
        return not self.encoding

    @contextmanager
    def rows(self, sheet: str) -> Iterator[Iterator[list[Cell]]]:
        """The rows of a sheet, one after the other. Raises :class:`InvalidInput` for a sheet that is not there, and while reading for what cannot be read."""
        if sheet not in self.sheets:
            raise InvalidInput(f"There is no sheet “{sheet[:80]}”.", "Choose one of: " + ", ".join(self.sheets), "sheet")
        with self._workbook(sheet) if self.is_workbook else self._text() as rows:
            yield _bounded(rows)

    @contextmanager
    def _text(self) -> Iterator[Iterator[list[Cell]]]:
        with self.path.open(encoding=self.encoding, errors="replace", newline="") as file:
            yield _rows_of(file, self.separator)

    @contextmanager
    def _workbook(self, sheet: str) -> Iterator[Iterator[list[Cell]]]:
        from openpyxl import load_workbook

        # Opened here: by its path, a file is judged by what its name ends in.
        with self.path.open("rb") as file, closing(load_workbook(file, read_only=True, data_only=True)) as book:
            found = book[sheet]
            found.reset_dimensions()  # some programs write them wrong
            yield (list(row) for row in found.iter_rows(values_only=True))


def unpack(content: bytes, path: Path) -> None:
    """Write the bytes of a file, those of a gzip unpacked. Raises :class:`InvalidInput` for what is broken, or too large."""
    with path.open("wb") as out:
        if not content.startswith(b"\x1f\x8b"):
            out.write(content)
            return
        total = 0
        try:
            with gzip.GzipFile(fileobj=io.BytesIO(content)) as packed:
                while part := packed.read(_PART_BYTES):
                    total += len(part)
                    if total > BYTES_MAX:
                        raise InvalidInput(
                            f"The file is larger than {BYTES_MAX // 1024**2} MiB.", "Import it in parts.", "content"
                        )
                    out.write(part)
        except (OSError, EOFError, zlib.error):
            raise InvalidInput("The file cannot be unpacked.", "Send it as it is, or pack it again.", "content") from None


def open_document(path: Path) -> Document:
    """What a file is. Raises :class:`InvalidInput` when it holds no table that can be read."""
    with path.open("rb") as file:
        head = file.read(_HEAD_BYTES)
    if not head.strip():
        raise InvalidInput("The file is empty.", "Choose another one.", "content")
    if head.startswith(b"PK\x03\x04"):
        return Document(path, _sheets(path))
    if head.lstrip(b"\xef\xbb\xbf \t\r\n")[:9].lower().startswith((b"<!doctype", b"<html")):
        raise InvalidInput(
            "The file is a web page, no table.",
            "Sign in to where it is from, and save the table itself as CSV or XLSX.",
            "content",
        )
    if head.startswith((b"\xd0\xcf\x11\xe0", b"%PDF", b"\x89PNG")):
        raise InvalidInput("The file is no table.", "Save it as CSV or as an XLSX workbook.", "content")
    encoding = _encoding(path, head)
    text = head.decode(encoding, "ignore")
    return Document(path, [""], encoding, _separator(text))


def _sheets(path: Path) -> list[str]:
    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    try:
        with zipfile.ZipFile(path) as packed:
            if sum(each.file_size for each in packed.infolist()) > BYTES_MAX * 2:
                raise InvalidInput(
                    f"The workbook holds more than {BYTES_MAX * 2 // 1024**2} MiB.", "Import it in parts.", "content"
                )
        with path.open("rb") as file, closing(load_workbook(file, read_only=True)) as book:
            return [sheet.title for sheet in book.worksheets]
    except (zipfile.BadZipFile, InvalidFileException, KeyError, ValueError, OSError):
        raise InvalidInput("The workbook cannot be read.", "Save it again as XLSX, or as CSV.", "content") from None


def _encoding(path: Path, head: bytes) -> str:
    for mark, name in _MARKS:
        if head.startswith(mark):
            return name
    # Every other byte of Western text is empty in UTF-16.
    if head[1::2][:200].count(0) > len(head[1::2][:200]) // 2:
        return "utf-16-le"
    if head[::2][:200].count(0) > len(head[::2][:200]) // 2:
        return "utf-16-be"
    try:
        decoder = codecs.getincrementaldecoder("utf-8")()
        with path.open("rb") as file:
            while part := file.read(_PART_BYTES):
                decoder.decode(part)
        decoder.decode(b"", final=True)
        return "utf-8"
    except UnicodeDecodeError:
        found = charset_normalizer.from_bytes(head).best()
        return found.encoding if found is not None else "cp1252"


def _separator(text: str) -> str:
    """The sign that makes rows alike: the most columns in the most rows."""
    lines = text.splitlines()[:60]

    def alike(sign: str) -> tuple[int, int]:
        widths = [len(row) for row in csv.reader(lines, delimiter=sign) if any(row)]
        usual = max(set(widths), key=lambda width: (widths.count(width), width), default=1)
        return (widths.count(usual) * (usual - 1), usual)

    try:
        return max(_SEPARATORS, key=alike)
    except csv.Error:
        return ","


def _rows_of(file: io.TextIOWrapper, separator: str) -> Iterator[list[Cell]]:
    try:
        yield from csv.reader(file, delimiter=separator)
    except csv.Error as error:
        raise InvalidInput(f"The table cannot be read: {error}.", "Save it as CSV again.", "content") from None


def _bounded(rows: Iterator[list[Cell]]) -> Iterator[list[Cell]]:
    yield from islice(rows, ROWS_MAX)
    if next(rows, None) is not None:
        raise InvalidInput(f"The table has more than {ROWS_MAX:,} rows.", "Import it in parts.", "content")
