"""Views of the inventory that ship: what people look for most, each a filter with the columns that show it."""

from __future__ import annotations

from dataclasses import dataclass

from hodcarrier.core.states import InventoryKind


@dataclass(frozen=True)
class InventoryView:
    """A filter and columns under a name, of one kind of list. Without a ``sort`` references stand page by page."""

    name: str
    of: InventoryKind
    where: str
    columns: tuple[str, ...]
    sort: str = "url"


_PAGE, _FILE, _OTHER, _LINK = InventoryKind
# How lists are sorted where nothing else is asked for; references stand page by page.
DEFAULT_SORT: dict[InventoryKind, str] = {_PAGE: "url", _FILE: "url", _OTHER: "url", _LINK: ""}
# What is shown where nothing else is asked for.
DEFAULT_COLUMNS: dict[InventoryKind, tuple[str, ...]] = {
    _PAGE: ("url", "status", "title", "words", "depth", "inlinks", "decoded_bytes", "first_byte_ms", "health"),
    _FILE: ("url", "status", "used_as", "content_type", "decoded_bytes", "used_by", "compression", "findings"),
    _OTHER: ("url", "status", "failure", "used_by", "total_ms"),
    _LINK: ("source", "target", "status", "kind", "follow", "text", "landmark"),
}
VIEWS = (
    InventoryView("Broken", _PAGE, "status >= 400 or failure is not empty", ("url", "status", "failure", "inlinks", "found_by", "in_sitemap")),
    InventoryView("Redirects", _PAGE, "status >= 300 and status < 400", ("url", "status", "redirect_to", "hops", "final_status", "inlinks")),
    InventoryView("Not indexable", _PAGE, "not indexable", ("url", "why_not", "status", "robots", "header_robots", "canonical", "blocked_by", "inlinks"), "why_not"),
    InventoryView("Deep", _PAGE, "depth > 4", ("url", "depth", "inlinks", "in_sitemap", "title", "health"), "-depth"),
    InventoryView("No links lead here", _PAGE, "inlinks = 0 and depth is empty and status = 200", ("url", "found_by", "in_sitemap", "indexable", "title")),
    InventoryView("Thin", _PAGE, "indexable and words < 200", ("url", "words", "text_share", "template", "title", "inlinks"), "words"),
    InventoryView("Slow", _PAGE, "first_byte_ms > 500 or total_ms > 1000", ("url", "first_byte_ms", "total_ms", "decoded_bytes", "server"), "-total_ms"),
    InventoryView("Heavy", _PAGE, "html_bytes > 250 KiB or elements > 1500", ("url", "html_bytes", "elements", "inline_bytes", "scripts", "images"), "-html_bytes"),
    InventoryView(
        "Titles missing or shared",
        _PAGE,
        "indexable and (title is empty or title_copies > 1)",
        ("url", "title", "title_copies", "title_length", "h1", "template"),
        "title",
    ),
    InventoryView(
        "Descriptions missing or shared",
        _PAGE,
        "indexable and (description is empty or description_copies > 1)",
        ("url", "description", "description_copies", "description_length", "template"),
        "description",
    ),
    InventoryView("Canonical elsewhere", _PAGE, 'canonical_is in ("another page", "another site")', ("url", "canonical", "canonical_is", "indexable", "inlinks")),
    InventoryView("In several languages", _PAGE, "hreflang > 0", ("url", "lang", "language", "hreflang", "canonical_is", "title")),
    InventoryView("With structured data", _PAGE, "data_types is not empty", ("url", "data_types", "data_errors", "template"), "data_types"),
    InventoryView("Images without alt", _PAGE, "images_without_alt > 0", ("url", "images", "images_without_alt", "template"), "-images_without_alt"),
    InventoryView("Blocked by robots.txt", _PAGE, "state = disallowed", ("url", "blocked_by", "inlinks", "in_sitemap", "found_by")),
    InventoryView("Without HTTPS", _PAGE, "not secure", ("url", "status", "redirect_to", "inlinks")),
    InventoryView("Content", _PAGE, "indexable", ("url", "title", "words", "last_modified", "clicks", "clicks_change", "visits", "findings"), "-clicks"),
    InventoryView("Nobody comes here", _PAGE, "indexable and (clicks = 0 or visits = 0) and not (clicks > 0 or visits > 0)", ("url", "title", "words", "last_modified", "impressions", "inlinks", "depth")),
    InventoryView("Worth updating", _PAGE, "indexable and (clicks_change <= -10 or (impressions >= 100 and position >= 4 and position <= 15))", ("url", "title", "words", "last_modified", "clicks", "clicks_change", "impressions", "position", "findings"), "-impressions"),
    InventoryView("Clicked, with severe findings", _PAGE, "clicks > 0 and (critical > 0 or high > 0)", ("url", "title", "clicks", "clicks_change", "critical", "high", "health"), "-clicks"),
    InventoryView("Gone, but linked from other sites", _PAGE, "status >= 400 and outside_links > 0", ("url", "status", "outside_links", "inlinks"), "-outside_links"),
    InventoryView("Broken files", _FILE, "status >= 400 or failure is not empty", ("url", "status", "failure", "used_as", "used_by"), "-used_by"),
    InventoryView("Blocked files", _FILE, "state = disallowed", ("url", "blocked_by", "used_as", "used_by"), "-used_by"),
    InventoryView("Heavy images", _FILE, 'used_as contains "image" and decoded_bytes > 200 KB', ("url", "decoded_bytes", "width", "height", "content_type", "used_by"), "-decoded_bytes"),
    InventoryView("Uncompressed", _FILE, 'compression is empty and status = 200 and content_type matches "text|javascript|json|xml|svg"', ("url", "content_type", "decoded_bytes", "used_by"), "-decoded_bytes"),
    InventoryView("Not kept by browsers", _FILE, "status = 200 and (fresh_s is empty or fresh_s < 3600)", ("url", "cache_control", "fresh_s", "decoded_bytes", "used_by"), "-used_by"),
    InventoryView("Broken", _OTHER, "status >= 400 or failure is not empty", ("url", "status", "failure", "used_by"), "-used_by"),
    InventoryView("Broken links", _LINK, "status >= 400 or failure is not empty", ("target", "status", "failure", "source", "text", "kind", "landmark"), "target"),
    InventoryView("Links to redirects", _LINK, "target_is = page and status >= 300 and status < 400", ("target", "redirect_to", "source", "text", "landmark"), "target"),
    InventoryView("Links to pages that are not indexable", _LINK, "follow and target_is = page and not target_indexable", ("target", "status", "source", "text", "landmark"), "target"),
    InventoryView("Not followed inside the site", _LINK, 'target_is = page and rel contains "nofollow"', ("source", "target", "rel", "text", "landmark"), ""),
    InventoryView("Links without text", _LINK, 'kind in ("anchor", "image-link") and text is empty', ("source", "target", "kind", "landmark", "number"), ""),
    InventoryView("Links to other sites", _LINK, 'target_is = "other site" and kind in ("anchor", "image-link")', ("target", "target_host", "status", "source", "text", "rel"), "target"),
    InventoryView("Insecure", _LINK, 'source starts with "https:" and target starts with "http:"', ("source", "target", "kind", "status", "landmark"), ""),
    InventoryView("Images over 200 KB where they are used", _LINK, 'kind in ("image", "srcset") and target_bytes > 200 KB', ("target", "target_bytes", "source", "text", "landmark"), "-target_bytes"),
)  # fmt: skip

# What asks the inventory for the pages that drop out before a step of the funnel (:class:`~hodcarrier.core.summary.FunnelStep`).
DROPPED = {
    "allowed": "state = disallowed",
    "answered": "state != disallowed and (status != 200 or title_length is empty)",
    "indexable": "not indexable and status = 200 and state != disallowed and title_length is not empty",
    "free": "indexable and (critical > 0 or high > 0)",
}
