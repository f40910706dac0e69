"""Lists of figures from outside as tables."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from hodcarrier.core.states import SearchBy, VisitBy
from hodcarrier.report.workbook import Sheet
from hodcarrier.wire.figures import BacklinksOut, PositionsOut, SearchOut, VisitsOut

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
            **row.model_dump(mode="json", include={"text", "change", "movement", "brand", "lost_clicks"}),
            **row.now.model_dump(),
            "clicks_before": row.before.clicks,
            "impressions_before": row.before.impressions,
            "position_before": row.before.position,
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
            "change": row.change,
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


def _sheet(heads: Mapping[str, str], rows: Iterable[Mapping[str, Any]]) -> Sheet:
    return heads, tuple(heads), rows
