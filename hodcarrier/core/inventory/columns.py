"""The columns of the inventory: what is known of every page, every file, every address of another site, and every reference of a page."""

from __future__ import annotations

from dataclasses import dataclass
from typing import get_args

from hodcarrier.core.facts.values import Landmark, LinkKind
from hodcarrier.core.states import AddressState, ColumnGroup, ColumnKind, ColumnTotal, InventoryKind, WhyNot


@dataclass(frozen=True)
class Column:
    """A column. ``unit`` is that of its figures; ``steps`` are the borders between which its figures are counted together; ``choices`` all
    texts that it can hold, where these are few and known."""

    name: str
    label: str
    group: ColumnGroup
    kind: ColumnKind = ColumnKind.TEXT
    unit: str = ""
    total: ColumnTotal = ColumnTotal.NONE
    steps: tuple[float, ...] = ()
    text: str = ""
    choices: tuple[str, ...] = ()


def _text(name: str, label: str, group: ColumnGroup, text: str = "", choices: tuple[str, ...] = ()) -> Column:
    return Column(name, label, group, text=text, choices=choices)


def _flag(name: str, label: str, group: ColumnGroup, text: str = "") -> Column:
    return Column(name, label, group, ColumnKind.FLAG, text=text)


def _number(
    name: str,
    label: str,
    group: ColumnGroup,
    unit: str = "",
    total: ColumnTotal = ColumnTotal.NONE,
    steps: tuple[float, ...] = (),
    text: str = "",
) -> Column:
    return Column(name, label, group, ColumnKind.NUMBER, unit, total, steps, text)


_KB = 1024.0
_COPIES = "Pages that have the same one, itself included; 1 where it is the only one."
_URL = (
    _text("url", "URL", ColumnGroup.URL),
    _text("host", "Host", ColumnGroup.URL),
    _text("folder", "Folder", ColumnGroup.URL, "The path up to its last slash."),
    _number("levels", "Levels of the path", ColumnGroup.URL, steps=(1, 2, 3, 4, 5)),
    _number("url_length", "Length of the URL", ColumnGroup.URL, "characters", steps=(50, 75, 100, 150, 200)),
    _number("parameters", "Parameters", ColumnGroup.URL, steps=(1, 2, 3), text="Parameters in the query of the URL."),
    _flag("secure", "HTTPS", ColumnGroup.URL),
)
_ANSWER = (
    _text(
        "state",
        "State",
        ColumnGroup.ANSWER,
        "`done`, `queued` (never reached), `disallowed` by robots.txt, or `skipped` by the plan.",
        tuple(AddressState),
    ),
    _number("status", "Status", ColumnGroup.ANSWER, steps=(200, 300, 400, 500), text="Status code of the answer (RFC 9110)."),
    _text("failure", "Failure", ColumnGroup.ANSWER, "Why no answer came."),
    _text("redirect_to", "Redirects to", ColumnGroup.ANSWER),
    _text("content_type", "Content type", ColumnGroup.ANSWER),
    _text("http_version", "HTTP version", ColumnGroup.ANSWER),
    _text("server", "Server", ColumnGroup.ANSWER, "What the answer's `Server` header says."),
    _text("remote", "IP address", ColumnGroup.ANSWER),
    _text("compression", "Compression", ColumnGroup.ANSWER, "The answer's `Content-Encoding`."),
    _text("cache_control", "Cache-Control", ColumnGroup.ANSWER),
    _number(
        "fresh_s",
        "Fresh for",
        ColumnGroup.ANSWER,
        "s",
        steps=(1, 3600, 86_400, 604_800),
        text="How long a browser may use it without asking (RFC 9111).",
    ),
    Column(
        "last_modified",
        "Last modified",
        ColumnGroup.ANSWER,
        ColumnKind.DAY,
        text="The day that the answer's `Last-Modified` header names.",
    ),
    _number(
        "decoded_bytes",
        "Size",
        ColumnGroup.ANSWER,
        "bytes",
        ColumnTotal.SUM,
        (10 * _KB, 50 * _KB, 100 * _KB, 250 * _KB, 1024 * _KB),
    ),
    _number(
        "wire_bytes",
        "Transferred",
        ColumnGroup.ANSWER,
        "bytes",
        ColumnTotal.SUM,
        (10 * _KB, 50 * _KB, 100 * _KB, 250 * _KB, 1024 * _KB),
    ),
    _number("first_byte_ms", "First byte", ColumnGroup.ANSWER, "ms", ColumnTotal.AVERAGE, (100, 200, 500, 1000, 2000)),
    _number("total_ms", "Whole answer", ColumnGroup.ANSWER, "ms", ColumnTotal.AVERAGE, (100, 200, 500, 1000, 2000)),
)
# What is known of pages from outside: in the four weeks up to the last day with figures. A site without such figures has none of these columns.
OUTSIDE_COLUMNS = (
    _number("clicks", "Clicks", ColumnGroup.OUTSIDE, "clicks", ColumnTotal.SUM, (1, 10, 100, 1000), "From search results, in four weeks."),
    _number("clicks_change", "Change of clicks", ColumnGroup.OUTSIDE, "clicks", ColumnTotal.SUM, (-100, -10, 0, 10, 100), "Against the four weeks before."),
    _number("impressions", "Impressions", ColumnGroup.OUTSIDE, "", ColumnTotal.SUM, (1, 100, 1000, 10_000), "In search results, in four weeks."),
    _number("position", "Position", ColumnGroup.OUTSIDE, "", ColumnTotal.AVERAGE, (2, 4, 11, 21, 51), "Mean position among search results, in four weeks."),
    _number("visits", "Visits", ColumnGroup.OUTSIDE, "visits", ColumnTotal.SUM, (1, 10, 100, 1000), "In four weeks."),
    _number("visits_change", "Change of visits", ColumnGroup.OUTSIDE, "visits", ColumnTotal.SUM, (-100, -10, 0, 10, 100), "Against the four weeks before."),
    _number("conversions", "Conversions", ColumnGroup.OUTSIDE, "", ColumnTotal.SUM, (1, 5, 25), "In four weeks."),
    _number("outside_links", "Links from other sites", ColumnGroup.OUTSIDE, "links", ColumnTotal.SUM, (1, 2, 5, 25), "Those that are there now."),
)  # fmt: skip
PAGE_COLUMNS = (
    *_URL,
    *_ANSWER,
    _number("hops", "Redirects in a row", ColumnGroup.ANSWER, steps=(1, 2, 3), text="Redirects until an answer that is none."),
    _number(
        "final_status",
        "Status at the end",
        ColumnGroup.ANSWER,
        steps=(200, 300, 400, 500),
        text="Status at the end of the redirects.",
    ),
    _number(
        "cookies", "Cookies", ColumnGroup.ANSWER, total=ColumnTotal.SUM, steps=(1, 2, 5), text="Cookies that the answer sets."
    ),
    _flag("indexable", "Indexable", ColumnGroup.INDEXING),
    _text("why_not", "Why not indexable", ColumnGroup.INDEXING, choices=tuple(reason for reason in WhyNot if reason)),
    _text("canonical", "Canonical", ColumnGroup.INDEXING),
    _text(
        "canonical_is",
        "Canonical names",
        ColumnGroup.INDEXING,
        "`nothing`, `itself`, `another page`, or `another site`.",
        ("nothing", "itself", "another page", "another site"),
    ),
    _text("robots", "Robots directives", ColumnGroup.INDEXING, "Of the document."),
    _text("header_robots", "X-Robots-Tag", ColumnGroup.INDEXING),
    _text(
        "blocked_by", "Blocked by", ColumnGroup.INDEXING, "The rule of robots.txt, or the limit of the plan, that keeps it out."
    ),
    _flag("in_sitemap", "In a sitemap", ColumnGroup.INDEXING),
    _text(
        "found_by",
        "Found by",
        ColumnGroup.INDEXING,
        "`start`, `link`, `sitemap`, `list`, `redirect`, `earlier run`, or several of them.",
    ),
    _number(
        "depth",
        "Click depth",
        ColumnGroup.PLACE,
        "clicks",
        ColumnTotal.AVERAGE,
        (1, 2, 3, 4, 5, 6),
        "Clicks from the start page.",
    ),
    _number("inlinks", "Links in", ColumnGroup.PLACE, "pages", ColumnTotal.SUM, (1, 2, 5, 10, 50), "Pages that link to it."),
    _number(
        "links_out", "Links out", ColumnGroup.PLACE, "", ColumnTotal.SUM, (1, 10, 25, 50, 100, 200), "Links to pages of the site."
    ),
    _number("links_external", "Links to other sites", ColumnGroup.PLACE, "", ColumnTotal.SUM, (1, 5, 10, 25)),
    _number("links_nofollow", "Links with nofollow", ColumnGroup.PLACE, "", ColumnTotal.SUM, (1, 5, 10, 25)),
    _number(
        "link_flow",
        "Link flow",
        ColumnGroup.PLACE,
        "× average",
        steps=(0.25, 0.5, 1, 2, 5, 10),
        text="How much of what flows over the links of the site reaches it: 1 is the average page.",
    ),
    _number(
        "link_group",
        "Group",
        ColumnGroup.PLACE,
        steps=(2, 3),
        text="Pages that links join, in whichever direction, are in one group; group 1 is the largest.",
    ),
    _text("reached_from", "Reached from", ColumnGroup.PLACE, "The page before it on the shortest way from the start."),
    _text("template", "Template", ColumnGroup.PLACE),
    _text("kind", "Kind of page", ColumnGroup.PLACE),
    _text("title", "Title", ColumnGroup.CONTENT),
    _number("title_length", "Length of the title", ColumnGroup.CONTENT, "characters", ColumnTotal.AVERAGE, (1, 20, 40, 60, 80)),
    _number("title_px", "Width of the title", ColumnGroup.CONTENT, "px", ColumnTotal.AVERAGE, (1, 200, 400, 580)),
    _number("title_copies", "Same title", ColumnGroup.CONTENT, "pages", steps=(2, 3, 10), text=_COPIES),
    _text("description", "Description", ColumnGroup.CONTENT),
    _number(
        "description_length",
        "Length of the description",
        ColumnGroup.CONTENT,
        "characters",
        ColumnTotal.AVERAGE,
        (1, 50, 100, 160, 200),
    ),
    _number("description_px", "Width of the description", ColumnGroup.CONTENT, "px", ColumnTotal.AVERAGE, (1, 400, 700, 1000)),
    _number("description_copies", "Same description", ColumnGroup.CONTENT, "pages", steps=(2, 3, 10), text=_COPIES),
    _text("h1", "H1", ColumnGroup.CONTENT),
    _number("h1_count", "H1 headings", ColumnGroup.CONTENT, steps=(1, 2)),
    _number("h1_copies", "Same H1", ColumnGroup.CONTENT, "pages", steps=(2, 3, 10), text=_COPIES),
    _number("headings", "Headings", ColumnGroup.CONTENT, "", ColumnTotal.SUM, (1, 5, 10, 20)),
    _number(
        "words",
        "Words",
        ColumnGroup.CONTENT,
        "words",
        ColumnTotal.SUM,
        (50, 100, 200, 500, 1000, 2000),
        "Words of the main text.",
    ),
    _number("text_copies", "Same text", ColumnGroup.CONTENT, "pages", steps=(2, 3, 10), text=_COPIES),
    _text("lang", "Declared language", ColumnGroup.CONTENT),
    _text("language", "Language of the text", ColumnGroup.CONTENT, "As the text itself tells."),
    _number("hreflang", "hreflang annotations", ColumnGroup.CONTENT, "", steps=(1, 2, 5, 10)),
    _number("images", "Images", ColumnGroup.CONTENT, "", ColumnTotal.SUM, (1, 5, 10, 25)),
    _number("images_without_alt", "Images without alt", ColumnGroup.CONTENT, "", ColumnTotal.SUM, (1, 5, 10)),
    _flag("author", "Names an author", ColumnGroup.CONTENT),
    _flag("dated", "Names a date", ColumnGroup.CONTENT),
    _text("data_types", "Structured data", ColumnGroup.DATA, "Types of the vocabulary, with commas between."),
    _number("data_errors", "Errors in structured data", ColumnGroup.DATA, "", ColumnTotal.SUM, (1, 2, 5)),
    _number(
        "social", "Preview properties", ColumnGroup.DATA, "", text="Open Graph and other properties for previews.", steps=(1, 4)
    ),
    _number(
        "html_bytes", "HTML", ColumnGroup.BUILD, "bytes", ColumnTotal.SUM, (10 * _KB, 50 * _KB, 100 * _KB, 250 * _KB, 1024 * _KB)
    ),
    _number("text_share", "Text in the HTML", ColumnGroup.BUILD, "%", ColumnTotal.AVERAGE, (5, 10, 25, 50)),
    _number("elements", "Elements", ColumnGroup.BUILD, "", ColumnTotal.AVERAGE, (200, 500, 1000, 1500, 3000)),
    _number("scripts", "Scripts", ColumnGroup.BUILD, "files", ColumnTotal.AVERAGE, (1, 5, 10, 25)),
    _number("styles", "Style sheets", ColumnGroup.BUILD, "files", ColumnTotal.AVERAGE, (1, 3, 5, 10)),
    _number("blocking_scripts", "Render-blocking scripts", ColumnGroup.BUILD, "", ColumnTotal.SUM, (1, 2, 5)),
    _number("inline_bytes", "Inline code", ColumnGroup.BUILD, "bytes", ColumnTotal.AVERAGE, (1, 10 * _KB, 50 * _KB, 100 * _KB)),
    _number("iframes", "Frames", ColumnGroup.BUILD, "", ColumnTotal.SUM, (1, 2)),
    _flag("viewport", "Viewport", ColumnGroup.BUILD),
    _flag("doctype", "Doctype", ColumnGroup.BUILD),
    _text("encoding", "Encoding", ColumnGroup.BUILD),
    _number("health", "Health", ColumnGroup.FINDINGS, "points", ColumnTotal.AVERAGE, (50, 70, 80, 90, 95)),
    _number("findings", "Findings", ColumnGroup.FINDINGS, "", ColumnTotal.SUM, (1, 5, 10, 25)),
    _number("critical", "Critical", ColumnGroup.FINDINGS, "findings", ColumnTotal.SUM, (1, 2)),
    _number("high", "High", ColumnGroup.FINDINGS, "findings", ColumnTotal.SUM, (1, 2, 5)),
    _number("medium", "Medium", ColumnGroup.FINDINGS, "findings", ColumnTotal.SUM, (1, 2, 5, 10)),
    _number("low", "Low", ColumnGroup.FINDINGS, "findings", ColumnTotal.SUM, (1, 2, 5, 10)),
    *OUTSIDE_COLUMNS,
)
FILE_COLUMNS = (
    *_URL,
    *_ANSWER,
    _text("blocked_by", "Blocked by", ColumnGroup.INDEXING, "The rule of robots.txt that keeps it out."),
    _text("used_as", "Used as", ColumnGroup.PLACE, "What pages use it as: image, script, style and so on."),
    _number("used_by", "Used by", ColumnGroup.PLACE, "pages", ColumnTotal.SUM, (1, 2, 5, 10, 50)),
    _text("file_type", "Type by its bytes", ColumnGroup.CONTENT, "The media type that its bytes tell."),
    _number("width", "Width", ColumnGroup.CONTENT, "px", steps=(100, 500, 1000, 2000)),
    _number("height", "Height", ColumnGroup.CONTENT, "px", steps=(100, 500, 1000, 2000)),
    _number(
        "copies",
        "Same bytes",
        ColumnGroup.CONTENT,
        "files",
        steps=(2, 3, 10),
        text="Files that hold the same bytes, itself included.",
    ),
    _number("findings", "Findings", ColumnGroup.FINDINGS, "", ColumnTotal.SUM, (1, 2, 5)),
)
EXTERNAL_COLUMNS = (
    *(column for column in _URL if column.name != "folder"),
    *(
        column
        for column in _ANSWER
        if column.name in ("state", "status", "failure", "redirect_to", "content_type", "server", "remote", "total_ms")
    ),
    _number("used_by", "Linked from", ColumnGroup.PLACE, "pages", ColumnTotal.SUM, (1, 2, 5, 10, 50)),
)
LINK_COLUMNS = (
    _text("source", "From", ColumnGroup.URL, "The page that the reference stands on."),
    _text("target", "To", ColumnGroup.URL, "Empty where the attribute is no URL."),
    _text("target_host", "Host linked to", ColumnGroup.URL),
    _text(
        "target_is",
        "Leads to",
        ColumnGroup.URL,
        "A `page` or `file` of the site, or an `other site`.",
        ("page", "file", "other site"),
    ),
    _text("kind", "Kind", ColumnGroup.LINK, "What makes the reference: anchor, image, script and so on.", get_args(LinkKind)),
    _text("text", "Text", ColumnGroup.LINK, "The anchor text; of images and of links made of one, the alternative text."),
    _text("rel", "rel", ColumnGroup.LINK, "The tokens of the attribute, with blanks between."),
    _flag("follow", "Followed", ColumnGroup.LINK, "A link without `nofollow`, over which search engines go on."),
    _text("landmark", "Part of the page", ColumnGroup.LINK, choices=get_args(Landmark)),
    _number(
        "number", "Place", ColumnGroup.LINK, steps=(2, 10, 25, 50, 100), text="Which reference of its page it is, from the top."
    ),
    _number("status", "Status", ColumnGroup.ANSWER, steps=(200, 300, 400, 500), text="What the target answered."),
    _text("failure", "Failure", ColumnGroup.ANSWER, "Why the target gave no answer."),
    _text("redirect_to", "Redirects to", ColumnGroup.ANSWER),
    _number(
        "target_bytes",
        "Size",
        ColumnGroup.ANSWER,
        "bytes",
        steps=(10 * _KB, 50 * _KB, 100 * _KB, 250 * _KB, 1024 * _KB),
        text="Of the target.",
    ),
    _flag("target_indexable", "Target indexable", ColumnGroup.INDEXING),
    _flag("source_indexable", "Source indexable", ColumnGroup.INDEXING),
    _number("target_depth", "Click depth of the target", ColumnGroup.PLACE, "clicks", steps=(1, 2, 3, 4, 5, 6)),
    _number("source_depth", "Click depth of the source", ColumnGroup.PLACE, "clicks", steps=(1, 2, 3, 4, 5, 6)),
    _text("source_template", "Template of the source", ColumnGroup.PLACE),
    _text("target_template", "Template of the target", ColumnGroup.PLACE),
)
COLUMNS: dict[InventoryKind, dict[str, Column]] = {
    InventoryKind.PAGE: {column.name: column for column in PAGE_COLUMNS},
    InventoryKind.FILE: {column.name: column for column in FILE_COLUMNS},
    InventoryKind.EXTERNAL: {column.name: column for column in EXTERNAL_COLUMNS},
    InventoryKind.LINK: {column.name: column for column in LINK_COLUMNS},
}
