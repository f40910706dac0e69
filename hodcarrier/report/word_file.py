"""A report as a document for word processors (Office Open XML, ISO/IEC 29500), with a table of contents that they keep up to date."""

from __future__ import annotations

import io
from typing import Any

import docx
import pypdfium2
from docx.enum.text import WD_ALIGN_PARAGRAPH, WD_TAB_ALIGNMENT
from docx.oxml import OxmlElement
from docx.oxml.ns import qn
from docx.shared import Cm, Pt, RGBColor
from markdown_it import MarkdownIt
from markdown_it.token import Token

from hodcarrier.core.words import visible
from hodcarrier.report.blocks import Bars, Block, Cell, Heading, Headline, Lines, Listing, Note, Paragraph, Table, Terms
from hodcarrier.report.document import block_svg, data_url, html_to_pdf
from hodcarrier.report.drawn import DrawnReport, Logo
from hodcarrier.report.widths import column_shares

TONES = {"good": RGBColor(0x46, 0x66, 0x28), "bad": RGBColor(0xA3, 0x4D, 0x28), "quiet": RGBColor(0x4A, 0x57, 0x5B)}
PAGE_CM, CHART_DPI = 17.0, 200
# How thick lines are (eighths of a point).
HEAD_RULE, ROW_RULE = 10, 5
_FACES = {"sans": "IBM Plex Sans", "serif": "IBM Plex Serif"}


def draw_docx(report: DrawnReport) -> bytes:
    """The document: cover or head, contents, then the sections under headings."""
    book = docx.Document()
    _set_up(book, report)
    _front(book, report)
    _contents(book, report)
    for section in report.sections:
        book.add_heading(visible(section.title), 1)
        for block in section.blocks:
            _block(book, block, report)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _set_up(book: Any, report: DrawnReport) -> None:
    """Paper, typeface and colours, the language that is spelt in, and the foot with its page numbers."""
    page = book.sections[0]
    page.page_width, page.page_height = Cm(21), Cm(29.7)
    page.left_margin = page.right_margin = Cm(2)
    page.top_margin = page.bottom_margin = Cm(2)
    face = _FACES[report.family]
    colour = RGBColor.from_string(report.line.lstrip("#").upper())
    for name in ("Normal", "Heading 1", "Heading 2", "Title"):
        style = book.styles[name]
        style.font.name = face
        fonts = style.element.get_or_add_rPr().get_or_add_rFonts()
        for each in ("w:ascii", "w:hAnsi", "w:eastAsia", "w:cs"):
            fonts.set(qn(each), face)
        if name != "Normal":
            style.font.color.rgb = colour
    book.styles["Normal"].font.size = Pt(10.5)
    spelt = OxmlElement("w:lang")
    spelt.set(qn("w:val"), str(report.language.locale).replace("_", "-"))
    book.styles["Normal"].element.get_or_add_rPr().append(spelt)
    book.core_properties.title, book.core_properties.author = visible(report.values.title), visible(report.values.agency)
    book.core_properties.language = report.values.language
    foot = page.footer.paragraphs[0]
    foot.paragraph_format.tab_stops.clear_all()
    foot.paragraph_format.tab_stops.add_tab_stop(Cm(PAGE_CM), WD_TAB_ALIGNMENT.RIGHT)
    foot.style = book.styles["Normal"]
    foot.text = visible(report.foot) + "\t"
    foot.add_run(report.language.say("Page") + " ")
    _field(foot, "PAGE")
    for run in foot.runs:
        run.font.size = Pt(8.5)


def _field(paragraph: Any, code: str, shown: str = "1") -> None:
    """A field that the word processor works out."""
    for kind, text in (("begin", ""), ("", code), ("separate", ""), ("text", shown), ("end", "")):
        run = paragraph.add_run()
        if kind == "text":
            run.text = text
        elif kind:
            mark = OxmlElement("w:fldChar")
            mark.set(qn("w:fldCharType"), kind)
            if kind == "begin":
                mark.set(qn("w:dirty"), "true")
            run._r.append(mark)
        else:
            said = OxmlElement("w:instrText")
            said.set(qn("xml:space"), "preserve")
            said.text = f" {text} "
            run._r.append(said)


def _front(book: Any, report: DrawnReport) -> None:
    for logo, name in ((report.marks.agency, report.values.agency), (report.marks.client, report.values.client)):
        if logo is not None:
            _add_picture(book, logo_png(logo), 4.5, name)
    if report.marks.agency is None:
        book.add_paragraph(visible(report.values.agency))
    book.add_paragraph(visible(report.values.title), style="Title")
    book.add_paragraph(visible(report.subtitle))
    said = report.language.say("Made by {agency} on {day}", agency=report.values.agency, day=report.made)
    _toned(book.add_paragraph(), said, "quiet")


def _contents(book: Any, report: DrawnReport) -> None:
    """A table of contents over the headings; until it is brought up to date it lists them without pages."""
    if not report.sections:
        book.add_paragraph(report.language.say("This report has no sections yet."))
        return
    _toned(book.add_paragraph(), report.language.say("Contents"), "", bold=True)
    listed = "\n".join(visible(section.title) for section in report.sections)
    _field(book.add_paragraph(), 'TOC \\o "1-2" \\h \\z \\u', listed)
    if report.cover:
        book.add_page_break()


def _block(book: Any, block: Block, report: DrawnReport) -> None:
    match block:
        case Paragraph(text, tone):
            _toned(book.add_paragraph(), text, tone)
        case Heading(text):
            book.add_heading(visible(text), 2)
        case Listing(items, numbered):
            for each in items:
                book.add_paragraph(visible(each), style="List Number" if numbered else "List Bullet")
        case Note(text):
            _markdown(book, text)
        case Headline(label, figure, change, tone, _):
            line = book.add_paragraph()
            line.add_run(visible(label) + "  ")
            shown = line.add_run(visible(figure))
            shown.font.size, shown.bold = Pt(26), True
            if change:
                _toned(line, "  " + change, tone)
        case Lines() | Bars():
            _add_picture(book, chart_png(block_svg(block, report)), PAGE_CM, block.says)
            if isinstance(block, Lines):
                for mark in block.marks:
                    _toned(book.add_paragraph(), f"{mark.shown}: {mark.text}", "quiet")
        case Table():
            _table(book, block)
        case Terms(items):
            for term, meaning in items:
                line = book.add_paragraph()
                _toned(line, f"{term}: ", "", bold=True)
                line.add_run(visible(meaning))


def _toned(paragraph: Any, text: str, tone: str, *, bold: bool = False) -> None:
    run = paragraph.add_run(visible(text))
    run.bold = bold or None
    if tone:
        run.font.color.rgb = TONES[tone]


def _table(book: Any, block: Table) -> None:
    """A table whose head is repeated on every page and whose rows are not cut; columns of pictures are left out."""
    kept = [n for n, column in enumerate(block.columns) if column.head or not any(row[n].dots for row in block.rows)]
    table = book.add_table(rows=1, cols=len(kept))
    table.autofit = False
    widths = [Cm(PAGE_CM * share) for share in column_shares(block, kept)]
    for place, width in enumerate(widths):
        table.columns[place].width = width
    for place, n in enumerate(kept):
        _fill(table.rows[0].cells[place], Cell(block.columns[n].head, strong=True), number=block.columns[n].number)
    _mark_row(table.rows[0], "w:tblHeader")
    for row in block.rows:
        cells = table.add_row()
        _mark_row(cells, "w:cantSplit")
        for place, n in enumerate(kept):
            _fill(cells.cells[place], row[n], number=block.columns[n].number)
    for number, row in enumerate(table.rows):
        for place, cell in enumerate(row.cells):
            cell.width = widths[place]
            _rule_below(cell, HEAD_RULE if number == 0 else ROW_RULE)
    book.add_paragraph()


def _rule_below(cell: Any, eighths: int) -> None:
    """A line under a cell, in eighths of a point."""
    borders, bottom = OxmlElement("w:tcBorders"), OxmlElement("w:bottom")
    for name, value in (("w:val", "single"), ("w:sz", str(eighths)), ("w:color", "D9DEDD")):
        bottom.set(qn(name), value)
    borders.append(bottom)
    cell._tc.get_or_add_tcPr().append(borders)


def _mark_row(row: Any, name: str) -> None:
    mark = OxmlElement(name)
    mark.set(qn("w:val"), "true")
    row._tr.get_or_add_trPr().append(mark)


def _fill(cell: Any, shown: Cell, *, number: bool) -> None:
    line = cell.paragraphs[0]
    _toned(line, shown.text, shown.tone, bold=shown.strong)
    line.paragraph_format.space_before = line.paragraph_format.space_after = Pt(2)
    line.runs[0].font.size = Pt(9.5)
    if shown.under:
        under = cell.add_paragraph()
        _toned(under, shown.under, "quiet")
        under.runs[0].font.size = Pt(8.5)
    if number:
        for each in cell.paragraphs:
            each.alignment = WD_ALIGN_PARAGRAPH.RIGHT


def _markdown(book: Any, text: str) -> None:
    """A note in Markdown as paragraphs; what it cannot be (images, HTML) stays as it was typed."""
    style = ""
    for token in MarkdownIt("commonmark", {"html": False}).disable("image").parse(text):
        if token.type in ("bullet_list_open", "ordered_list_open"):
            style = "List Bullet" if token.type.startswith("bullet") else "List Number"
        elif token.type in ("bullet_list_close", "ordered_list_close"):
            style = ""
        elif token.type == "heading_open":
            style = "Heading 2"
        elif token.type == "inline":
            _inline(book.add_paragraph(style=style or None), token.children or [])
            style = "" if style == "Heading 2" else style
        elif token.type in ("code_block", "fence"):
            book.add_paragraph(visible(token.content))


def _inline(paragraph: Any, tokens: list[Token]) -> None:
    bold = italic = False
    target = ""
    for token in tokens:
        match token.type:
            case "strong_open" | "strong_close":
                bold = token.type == "strong_open"
            case "em_open" | "em_close":
                italic = token.type == "em_open"
            case "link_open":
                target = str(token.attrGet("href") or "")
            case "link_close":
                paragraph.add_run(f" ({visible(target)})")
            case "softbreak" | "hardbreak":
                paragraph.add_run("\n" if token.type == "hardbreak" else " ")
            case _:
                run = paragraph.add_run(visible(token.content))
                run.bold, run.italic = bold or None, italic or None


def _add_picture(book: Any, png: bytes, width_cm: float, says: str) -> None:
    shape = book.add_picture(io.BytesIO(png), width=Cm(width_cm))
    shape._inline.docPr.set("descr", visible(says))


def chart_png(svg: str) -> bytes:
    """A chart as a picture, set in the typeface of reports."""
    width, height = (float(part) for part in svg.split('viewBox="0 0 ', 1)[1].split('"', 1)[0].split(" "))
    return _png(svg, width, height)


def logo_png(logo: Logo) -> bytes:
    """A mark as a picture: as it is, or drawn where it is an SVG."""
    if logo.media == "image/png":
        return logo.content
    return _png(f'<img src="{data_url(logo)}" style="max-width:300px;max-height:120px">', 300, 120)


def _png(inside: str, width: float, height: float) -> bytes:
    page = (
        f"<style>@page {{ size: {width}px {height}px; margin: 0 }} body {{ margin: 0 }} svg {{ display: block }}</style>{inside}"
    )
    opened = pypdfium2.PdfDocument(html_to_pdf(page))
    try:
        picture = opened[0].render(scale=CHART_DPI / 72).to_pil()
    finally:
        opened.close()
    out = io.BytesIO()
    picture.save(out, "PNG")
    return out.getvalue()
