"""A report as a web page and as a PDF: one template for both."""

from __future__ import annotations

import base64
from functools import lru_cache
from pathlib import Path
from typing import Any

from jinja2 import Environment
from markupsafe import Markup

from hodcarrier.core.errors import Unavailable
from hodcarrier.report.blocks import Bars, Block, Dots, Headline, Lines
from hodcarrier.report.charts import Ink, bars_svg, course_svg, dots_svg, lines_svg
from hodcarrier.report.drawn import DrawnReport, Logo
from hodcarrier.report.sheet import markdown
from hodcarrier.report.templating import make_environment
from hodcarrier.report.widths import column_shares

FONTS = Path(__file__).parent / "fonts"
# What PDFs promise to those who have them read aloud (ISO 14289-1).
PDF_VARIANT = "pdf/ua-1"


@lru_cache(maxsize=1)
def _environment() -> Environment:
    return make_environment(
        {
            "css_string": css_string,
            "markdown": markdown,
            "kind": lambda block: type(block).__name__,
            "data": data_url,
            "widths": lambda table: [round(100 * share, 2) for share in column_shares(table)],
        }
    )


def css_string(text: str) -> Markup:
    """A text as a string of CSS (CSS Syntax, 4.3.7): what could end the string or the style element is escaped."""
    return Markup('"' + "".join(c if c.isalnum() or c in " .,:;'()-" else f"\\{ord(c):06x} " for c in text) + '"')


def data_url(logo: Logo) -> str:
    """A mark as the address of an image (RFC 2397). As an image, an SVG runs no script and fetches nothing."""
    return f"data:{logo.media};base64,{base64.b64encode(logo.content).decode()}"


@lru_cache(maxsize=4)
def _fonts(family: str) -> list[dict[str, str]]:
    found = []
    for path in sorted(FONTS.glob(f"ibm-plex-{family}-*.woff2")):
        weight = path.stem.split("-")[-2]
        span = "U+0100-02FF, U+1E00-1EFF, U+2C60-2C7F" if "latin-ext" in path.stem else ""
        found.append({"weight": weight, "data": base64.b64encode(path.read_bytes()).decode(), "span": span})
    return found


def block_svg(block: Block | Dots, report: DrawnReport) -> str:
    """The chart of a block as SVG; empty for one that has none."""
    ink: Ink = report.ink
    if isinstance(block, Lines):
        return lines_svg(block, ink, lambda step: report.language.number(step, 0 if float(step).is_integer() else 1))
    if isinstance(block, Bars):
        return bars_svg(block, ink)
    if isinstance(block, Dots):
        return dots_svg(block, ink)
    if isinstance(block, Headline) and block.filled is not None:
        return course_svg(block.filled, f"{block.label}: {block.figure}", ink)
    return ""


def _picture(says: str, svg: str, *, for_print: bool) -> Markup:
    """A chart inside a page; in print as an image with its words, which readers of tagged documents are told."""
    if not svg or not for_print:
        return Markup(svg)
    alt = Markup.escape(says)
    return Markup(f'<img alt="{alt}" src="data:image/svg+xml;base64,{base64.b64encode(svg.encode()).decode()}">')


def draw_html(report: DrawnReport, *, for_print: bool = False, pdf_address: str = "") -> str:
    """The report as one HTML page that needs nothing else: fonts and pictures are inside it. ``pdf_address`` is where it is as a PDF."""

    def picture(block: Any, says: str = "") -> Markup:
        return _picture(says or getattr(block, "says", ""), block_svg(block, report), for_print=for_print)

    template = _environment().get_template("report.html")
    return template.render(
        r=report,
        v=report.values,
        say=report.language.say,
        fonts=_fonts(report.family),
        picture=picture,
        for_print=for_print,
        pdf_address=pdf_address,
    )


def draw_pdf(report: DrawnReport) -> bytes:
    """The report as a tagged PDF. Raises :class:`Unavailable` when the system lacks the text layout library."""
    return html_to_pdf(draw_html(report, for_print=True))


def html_to_pdf(page: str) -> bytes:
    """A page as a tagged PDF; nothing is fetched for it. Raises :class:`Unavailable` when the system lacks the text layout library."""
    try:
        from weasyprint import HTML
        from weasyprint.urls import URLFetcher
    except OSError as error:
        raise Unavailable(
            f"PDFs cannot be made here: {error}.", "Install the Pango library (Debian: libpango-1.0-0 libpangoft2-1.0-0)."
        ) from error
    fetcher = URLFetcher(allowed_protocols=["data"], fail_on_errors=False)
    document: bytes = HTML(string=page, url_fetcher=fetcher).write_pdf(pdf_variant=PDF_VARIANT)
    return document
