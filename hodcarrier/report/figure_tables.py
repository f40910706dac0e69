"""Lists of figures from outside as tables."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from hodcarrier.core.states import SearchBy, VisitBy
from hodcarrier.report.workbook import Sheet
from hodcarrier.wire.figures import BacklinksOut, PositionsOut, SearchOut, VisitsOut

# Shares are told to a hundredth of a per cent.
SHARE_DIGITS = 4
POSITIONS = {
    "keyword": "Keyword",
    "device": "Device",
    "place": "Place",
    "rank": "Position",
    "day": "Looked at",
    "before": "Before",
    "before_on": "Looked at before",
    "change": "Change",
    "best": "Best",
    "best_on": "Reached",
    "page": "Page",
    "features": "Features",
    "above": "Above",
}
BACKLINKS = {
    "source_page": "From",
    "domain": "Domain",
    "page": "To",
    "status": "Status",
    "anchor": "Text",
    "rel": "rel",
    "first_seen": "First seen",
    "last_seen": "Last seen",
    "lost_on": "Lost",
}


def search_table(found: SearchOut) -> Sheet:
    """Queries or pages, with their figures now and before."""
    heads = {
        "text": "Page" if found.by == SearchBy.PAGE else "Query",
        "clicks": "Clicks",
        "clicks_before": "Clicks before",
        "change": "Change",
        "movement": "Told",
        "impressions": "Impressions",
        "impressions_before": "Impressions before",
        "ctr": "CTR",
        "position": "Position",
        "position_before": "Position before",
        "brand": "Brand",
        "lost_clicks": "Clicks missed",
    }
    rows = (
        {
            "text": row.text,
            "clicks": row.now.clicks,
            "clicks_before": row.before.clicks,
            "change": _rounded(row.change, SHARE_DIGITS),
            "movement": row.movement,
            "impressions": row.now.impressions,
            "impressions_before": row.before.impressions,
            "ctr": _rounded(row.now.ctr, SHARE_DIGITS),
            "position": _rounded(row.now.position, 2),
            "position_before": _rounded(row.before.position, 2),
            "brand": row.brand,
            "lost_clicks": _rounded(row.lost_clicks, 1),
        }
        for row in found.items
    )
    return _sheet(heads, rows)


def visits_table(found: VisitsOut) -> Sheet:
    """Pages or channels, with their visits now and before."""
    heads = {
        "text": "Page" if found.by == VisitBy.PAGE else "Channel",
        "visits": "Visits",
        "visits_before": "Visits before",
        "change": "Change",
        "movement": "Told",
        "engaged": "Engaged",
        "conversions": "Conversions",
    }
    rows = (
        {
            "text": row.text,
            "visits": row.now.sessions,
            "visits_before": row.before.sessions,
            "change": _rounded(row.change, SHARE_DIGITS),
            "movement": row.movement,
            "engaged": row.now.engaged,
            "conversions": row.now.conversions,
        }
        for row in found.items
    )
    return _sheet(heads, rows)


def positions_table(found: PositionsOut) -> Sheet:
    """Keywords by device and place, with where the site stands; who stands above, in one cell."""
    rows = (
        {**row.model_dump(mode="json"), "above": ", ".join(f"{each.rank} {each.host}" for each in row.above)}
        for row in found.items
    )
    return _sheet(POSITIONS, rows)


def backlinks_table(found: BacklinksOut) -> Sheet:
    """Links from other sites."""
    return _sheet(BACKLINKS, (row.model_dump(mode="json") for row in found.items))


def _rounded(value: float | None, digits: int) -> float | None:
    return None if value is None else round(value, digits)


def _sheet(heads: Mapping[str, str], rows: Iterable[Mapping[str, Any]]) -> Sheet:
    return heads, tuple(heads), rows
