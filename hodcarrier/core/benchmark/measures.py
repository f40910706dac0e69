"""What sites are compared by in a benchmark: each measure with its unit, the direction that is good, and the least difference that tells.

All but scores are said in the filters and columns of the inventory (:mod:`hodcarrier.core.inventory`), so the pages behind a figure can be listed.
"""

from __future__ import annotations

from dataclasses import dataclass

from hodcarrier.core.catalogue import AREAS
from hodcarrier.core.states import Area, InventoryKind, MeasureGroup, Statistic

_PAGE, _FILE, _LINK = InventoryKind.PAGE, InventoryKind.FILE, InventoryKind.LINK
# Documents that answer; addresses that are not redirects; links that readers click.
DOCUMENTS = "status = 200 and html_bytes is not empty and not why_not = refresh"
KNOWN = 'state in ("done", "disallowed") and not (status >= 300 and status < 400) and not why_not = refresh'
_CLICKED = 'kind in ("anchor", "image-link") and (status is not empty or failure is not empty)'
_KIB = 1024.0


@dataclass(frozen=True, slots=True)
class Measure:
    """A figure that sites are compared by. A difference below ``resolution``, in its ``unit``, is no difference.

    A share counts, of the rows of a list (``of``) that meet ``among``, those that meet ``where`` too; a median or percentile is of a ``column`` of
    them. A score comes from the run's summary: health, or that of an ``area``. What only the whole site can tell ``needs_whole``: of a part, pages far from
    the start, links to a page, and pages like it are missing.
    """

    id: str
    name: str
    group: MeasureGroup
    unit: str
    high_is_good: bool
    resolution: float
    statistic: Statistic = Statistic.SHARE
    of: InventoryKind = _PAGE
    among: str = DOCUMENTS
    where: str = ""
    column: str = ""
    area: Area | None = None
    needs_whole: bool = False


def _share(
    key: str,
    name: str,
    group: MeasureGroup,
    where: str,
    among: str = DOCUMENTS,
    *,
    good: bool = True,
    of: InventoryKind = _PAGE,
    whole: bool = False,
) -> Measure:
    return Measure(key, name, group, "%", good, 1.0, of=of, among=among, where=where, needs_whole=whole)


def _figure(
    key: str,
    name: str,
    group: MeasureGroup,
    unit: str,
    least: float,
    column: str,
    among: str = DOCUMENTS,
    *,
    good: bool = False,
    of: InventoryKind = _PAGE,
    p90: bool = False,
    whole: bool = False,
) -> Measure:
    statistic = Statistic.P90 if p90 else Statistic.MEDIAN
    return Measure(key, name, group, unit, good, least, statistic, of, among, column=column, needs_whole=whole)


_HEALTH, _INDEX, _CONTENT, _LINKS = MeasureGroup.HEALTH, MeasureGroup.INDEXING, MeasureGroup.CONTENT, MeasureGroup.LINKS
_SPEED, _HTTPS, _DATA = MeasureGroup.SPEED, MeasureGroup.HTTPS, MeasureGroup.DATA
_MOBILE, _LANGUAGES = MeasureGroup.MOBILE, MeasureGroup.LANGUAGES
MEASURES: tuple[Measure, ...] = (
    Measure("health", "Health", _HEALTH, "points", True, 0.5, Statistic.SCORE),
    _share("severe_free_ratio", "Pages free of severe findings", _HEALTH, "critical = 0 and high = 0", "health is not empty"),
    *(Measure(f"area_{area}", f"{name}, score", _HEALTH, "points", True, 1.0, Statistic.SCORE, area=area) for area, name in AREAS.items()),
    _share("indexable_ratio", "Indexable pages", _INDEX, "indexable", KNOWN),
    _share("listed_ratio", "Indexable pages in a sitemap", _INDEX, "in_sitemap", "indexable"),
    _share("error_ratio", "Pages that answer with an error", _INDEX, "status >= 400", KNOWN, good=False),
    _share("redirect_ratio", "URLs that redirect", _INDEX, "status >= 300 and status < 400", "state = done", good=False),
    _share("canonical_ratio", "Pages with a canonical", _INDEX, "canonical is not empty"),
    _share("title_unique_ratio", "Titles no other page has", _CONTENT, "title_copies <= 1", "indexable and title is not empty", whole=True),
    _share("title_fits_ratio", "Titles shown whole in results", _CONTENT, "title_px <= 580", "indexable and title is not empty"),
    _share("description_ratio", "Pages with a meta description", _CONTENT, "description is not empty"),
    _share("description_unique_ratio", "Descriptions no other page has", _CONTENT, "description_copies <= 1", "indexable and description is not empty", whole=True),
    _share("h1_ratio", "Pages with an H1", _CONTENT, "h1 is not empty"),
    _share("alt_page_ratio", "Pages whose images all have alt text", _CONTENT, "images_without_alt = 0", f"{DOCUMENTS} and images > 0"),
    _share("thin_ratio", "Pages under 200 words", _CONTENT, "words < 200", "indexable", good=False),
    _share("text_unique_ratio", "Texts no other page has", _CONTENT, "text_copies <= 1", "indexable and words > 0", whole=True),
    _figure("words_median", "Words in the main text, median", _CONTENT, "words", 10, "words", good=True),
    _share("near_ratio", "Pages within three clicks", _LINKS, "depth <= 3", f"{DOCUMENTS} and depth is not empty", whole=True),
    _figure("depth_p90", "Click depth, 90th percentile", _LINKS, "clicks", 1, "depth", p90=True, whole=True),
    _share("unlinked_ratio", "Indexable pages no link leads to", _LINKS, "inlinks = 0 and depth is empty", "indexable", good=False, whole=True),
    _figure("inlinks_median", "Pages that link to a page, median", _LINKS, "pages", 1, "inlinks", "indexable", good=True, whole=True),
    _share("broken_link_ratio", "Links that lead to an error", _LINKS, "status >= 400 or failure is not empty", _CLICKED, good=False, of=_LINK),
    _share("redirect_link_ratio", "Internal links that are redirected", _LINKS, "status >= 300 and status < 400", f"{_CLICKED} and target_is = page", good=False, of=_LINK),
    _share("anchor_text_ratio", "Links with a text", _LINKS, "text is not empty", _CLICKED, of=_LINK),
    _figure("first_byte_ms_median", "Time to first byte, median", _SPEED, "ms", 20, "first_byte_ms"),
    _figure("first_byte_ms_p90", "Time to first byte, 90th percentile", _SPEED, "ms", 50, "first_byte_ms", p90=True),
    _figure("html_bytes_median", "HTML size, median", _SPEED, "bytes", 2 * _KIB, "html_bytes"),
    _figure("html_bytes_p90", "HTML size, 90th percentile", _SPEED, "bytes", 5 * _KIB, "html_bytes", p90=True),
    _share("compressed_ratio", "Pages sent compressed", _SPEED, "compression is not empty"),
    _figure("scripts_median", "Scripts on a page, median", _SPEED, "", 1, "scripts"),
    _figure("blocking_scripts_median", "Scripts that block rendering, median", _SPEED, "", 1, "blocking_scripts"),
    _figure("elements_median", "Elements on a page, median", _SPEED, "", 50, "elements"),
    _figure("file_bytes_p90", "File size, 90th percentile", _SPEED, "bytes", 10 * _KIB, "decoded_bytes", "status = 200", of=_FILE, p90=True),
    _share("kept_file_ratio", "Files browsers keep for a day or longer", _SPEED, "fresh_s >= 86400", "status = 200", of=_FILE),
    _share("https_ratio", "Pages on HTTPS", _HTTPS, "secure"),
    _share("https_file_ratio", "Files on HTTPS", _HTTPS, "secure", "status = 200", of=_FILE),
    _share("data_ratio", "Pages with structured data", _DATA, "data_types is not empty"),
    _share("data_valid_ratio", "Structured data without errors", _DATA, "data_errors = 0", f"{DOCUMENTS} and data_types is not empty"),
    _share("social_ratio", "Pages with data for previews", _DATA, "social > 0"),
    _share("viewport_ratio", "Pages with a viewport", _MOBILE, "viewport"),
    _share("lang_ratio", "Pages that declare their language", _LANGUAGES, "lang is not empty"),
    _share("encoding_ratio", "Pages in UTF-8", _LANGUAGES, 'encoding = "utf-8"'),
)  # fmt: skip
# Those that a report to a client shows.
HEADLINE = frozenset(
    {
        "health",
        "severe_free_ratio",
        "indexable_ratio",
        "listed_ratio",
        "description_ratio",
        "alt_page_ratio",
        "words_median",
        "depth_p90",
        "first_byte_ms_median",
        "html_bytes_median",
        "compressed_ratio",
        "https_ratio",
        "data_ratio",
    }
)
BY_ID = {measure.id: measure for measure in MEASURES}


def behind(measure: Measure, best: float | None) -> str:
    """The filter of the rows that keep a site from the ``best`` figure of a measure; empty when no list says it."""
    if measure.statistic == Statistic.SCORE:
        return ""
    if measure.statistic == Statistic.SHARE:
        return f"{measure.among} and " + (f"not ({measure.where})" if measure.high_is_good else f"({measure.where})")
    if best is None:
        return ""
    return f"{measure.among} and {measure.column} {'<' if measure.high_is_good else '>'} {best:g}"
