"""A report as a web page, PDF, document and workbook, each opened with a reader of its own."""

from __future__ import annotations

import io
import re
from zipfile import ZipFile

import docx
import openpyxl
import pytest
from PIL import Image
from pypdf import PdfReader
from selectolax.lexbor import LexborHTMLParser

from hodcarrier.core.states import SectionKind, Typeface
from hodcarrier.report.document import draw_html, draw_pdf
from hodcarrier.report.drawn import DrawnReport, Logo, Marks, line_colour
from hodcarrier.report.tables_book import write_tables
from hodcarrier.report.word_file import draw_docx
from tests.report.samples import HEBREW, LONG, report

SVG = b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20" width="40" height="20"><rect width="40" height="20" fill="#b00"/></svg>'


def png() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (40, 20), "#00b").save(out, "PNG")
    return out.getvalue()


MARKS = Marks(Logo("image/svg+xml", SVG), Logo("image/png", png()))


def tags(reader: PdfReader) -> list[str]:
    """The structure of a tagged document (ISO 32000-1, 14.7), depth first."""
    found: list[str] = []

    def walk(node: object) -> None:
        node = node.get_object() if hasattr(node, "get_object") else node
        if isinstance(node, list):
            for each in node:
                walk(each)
        elif isinstance(node, dict):
            if "/S" in node:
                found.append(str(node["/S"]))
            if "/K" in node:
                walk(node["/K"])

    walk(reader.trailer["/Root"]["/StructTreeRoot"])
    return found


@pytest.mark.parametrize(("count", "name"), [(0, ""), (1, ""), (12, LONG), (3, HEBREW)])
def test_a_pdf_has_its_text_outline_tags_and_page_numbers(count: int, name: str) -> None:
    drawn = report(count, name=name, marks=MARKS if count else Marks())
    reader = PdfReader(io.BytesIO(draw_pdf(drawn)))
    root = reader.trailer["/Root"]
    assert root["/MarkInfo"]["/Marked"] and root["/Lang"] == "en"
    assert reader.metadata is not None and reader.metadata.title == drawn.values.title
    said = " ".join(" ".join(page.extract_text() for page in reader.pages).split())
    assert f"Page {len(reader.pages)} of {len(reader.pages)}" in said
    if name != HEBREW:
        assert all(section.title in said for section in drawn.sections)
    outline = [entry.title for entry in reader.outline if not isinstance(entry, list)]
    below = [entry.title for part in reader.outline if isinstance(part, list) for entry in part if not isinstance(entry, list)]
    assert outline == [drawn.values.title] and below == [section.title for section in drawn.sections]
    kinds = tags(reader)
    assert {"/H1", "/H2", "/P"} <= set(kinds)
    if count > 1:
        assert {"/Table", "/TR", "/TH", "/TD", "/Figure", "/L", "/LI"} <= set(kinds)


def test_every_chart_of_a_pdf_says_what_it_shows() -> None:
    reader = PdfReader(io.BytesIO(draw_pdf(report(5, marks=MARKS))))
    alternatives: list[str] = []

    def walk(node: object) -> None:
        node = node.get_object() if hasattr(node, "get_object") else node
        for each in node if isinstance(node, list) else [node.get("/K")] if isinstance(node, dict) and "/K" in node else []:
            walk(each)
        if isinstance(node, dict) and node.get("/S") == "/Figure":
            alternatives.append(str(node.get("/Alt", "")))

    walk(reader.trailer["/Root"]["/StructTreeRoot"])
    assert "Keywords by position now and before" in alternatives
    assert any(text.startswith("Health from") for text in alternatives)


def test_charts_of_a_pdf_are_no_pictures() -> None:
    reader = PdfReader(io.BytesIO(draw_pdf(report(5))))
    assert [image.name for page in reader.pages for image in page.images] == []


def test_no_row_is_cut_and_heads_are_repeated() -> None:
    reader = PdfReader(io.BytesIO(draw_pdf(report(60, without=tuple(k for k in SectionKind if k != SectionKind.DONE)))))
    pages = [page.extract_text() for page in reader.pages]
    assert len(pages) > 2
    assert all("What it means for you" in text for text in pages), "the head of the table is on each of its pages"


@pytest.mark.parametrize("code", ["en", "de"])
@pytest.mark.parametrize("face", list(Typeface))
def test_a_page_needs_nothing_else(code: str, face: Typeface) -> None:
    page = draw_html(report(3, code, marks=MARKS, face=face))
    tree = LexborHTMLParser(page)
    assert tree.css_first("html").attributes["lang"] == code  # type: ignore[union-attr]
    assert not tree.css("script, link, iframe") and "http-equiv" not in page
    assert all((image.attributes["src"] or "").startswith("data:") and image.attributes["alt"] for image in tree.css("img"))
    assert set(re.findall(r"url\((?!data:)", page)) == set()
    assert tree.css_first('meta[name="robots"]').attributes["content"] == "noindex, nofollow"  # type: ignore[union-attr]
    assert [h.text(strip=True) for h in tree.css("h2")] == [s.title for s in report(3, code).sections]


def test_names_and_notes_are_never_taken_for_markup() -> None:
    page = draw_html(report(2, name="<script>x</script> & Sons"))
    assert "<script>x" not in page and "&lt;script&gt;x" in page


def test_without_a_cover_the_marks_stand_above_the_title() -> None:
    tree = LexborHTMLParser(draw_html(report(1, without=(SectionKind.COVER,), marks=MARKS)))
    assert not tree.css(".cover") and len(tree.css(".head img")) == 2
    assert LexborHTMLParser(draw_html(report(1, marks=MARKS))).css(".cover img")


def test_a_report_without_sections_says_so() -> None:
    drawn = report(0, without=tuple(SectionKind))
    assert "This report has no sections yet." in draw_html(drawn)
    assert "This report has no sections yet." in [p.text for p in docx.Document(io.BytesIO(draw_docx(drawn))).paragraphs]


@pytest.mark.parametrize(("count", "name"), [(0, ""), (1, HEBREW), (4, LONG)])
def test_a_document_has_contents_headings_tables_and_described_pictures(count: int, name: str) -> None:
    drawn = report(count, "de", name, marks=MARKS)
    content = draw_docx(drawn)
    book = docx.Document(io.BytesIO(content))
    assert [p.text for p in book.paragraphs if p.style is not None and p.style.name == "Heading 1"] == [
        s.title for s in drawn.sections
    ]
    body = ZipFile(io.BytesIO(content)).read("word/document.xml").decode()
    assert 'TOC \\o "1-2"' in body, "a table of contents that the word processor keeps"
    assert book.core_properties.title == drawn.values.title and book.core_properties.language == "de"
    descriptions = re.findall(r'<wp:docPr [^>]*descr="([^"]+)"', body)
    assert len(descriptions) == body.count("<wp:docPr ") >= 2
    if count:
        assert book.tables and all(table.rows[0]._tr.xpath("./w:trPr/w:tblHeader") for table in book.tables)
        assert all(row._tr.xpath("./w:trPr/w:cantSplit") for table in book.tables for row in table.rows[1:])
        assert "Was wir getan haben" in [p.text for p in book.paragraphs]


def workbook(drawn: DrawnReport) -> openpyxl.Workbook:
    out = io.BytesIO()
    write_tables(out, drawn)
    return openpyxl.load_workbook(io.BytesIO(out.getvalue()))


def test_a_workbook_has_every_table_with_figures_as_figures() -> None:
    book = workbook(report(3))
    assert {"What we did", "Positions", "All findings", "Faults explained"} <= set(book.sheetnames)
    rows = list(book["Positions"].values)
    assert rows[0] == ("Keyword", "Position", "Before", "Change", "Best") and rows[1][1:] == (2, 5, 3, 1)


def test_a_workbook_of_a_report_without_tables_is_one_all_the_same() -> None:
    assert workbook(report(0, without=tuple(SectionKind))).sheetnames == ["Tables"]


@pytest.mark.parametrize(
    ("colour", "lines"), [("#0d5c5f", "#0d5c5f"), ("#ffe000", None), ("#ffffff", None), ("#000000", "#000000")]
)
def test_lines_can_be_seen_in_any_colour(colour: str, lines: str | None) -> None:
    from hodcarrier.core.colours import contrast

    found = line_colour(colour)
    assert contrast(found, "#ffffff") >= 3 and (lines is None or found == lines)
