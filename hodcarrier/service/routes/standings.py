"""Where a site stands for its keywords, and links from other sites."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Depends, Query, Response

from hodcarrier.core.figures.spans import WEEKS
from hodcarrier.core.states import BacklinkState, TableForm
from hodcarrier.report.figure_tables import backlinks_table, positions_table
from hodcarrier.service.deps import Work
from hodcarrier.service.guard import serves
from hodcarrier.service.routes.exports import table_answer
from hodcarrier.service.routes.figures import ALL_ROWS, After, Limit
from hodcarrier.usecases import standings
from hodcarrier.usecases.standings import PositionFilter
from hodcarrier.wire.figures import BacklinksOut, PositionsOut

router = APIRouter()


def _positions_asked(
    weeks: Annotated[int, Query(ge=1, le=standings.WEEKS_MAX)] = WEEKS,
    device: str = "",
    place: str = "",
    text: str = "",
    moved: bool = False,
) -> PositionFilter:
    return PositionFilter(weeks, device=device, place=place, text=text, moved=moved)


PositionsAsked = Annotated[PositionFilter, Depends(_positions_asked)]


@serves(router, "get_positions")
def get_positions(site_id: int, work: Work, which: PositionsAsked, limit: Limit = 100, after: After = 0) -> PositionsOut:
    return standings.get_positions(work, site_id, which, limit=limit, after=after)


@serves(router, "export_positions")
def export_positions(site_id: int, work: Work, which: PositionsAsked, form: TableForm = TableForm.CSV) -> Response:
    found = standings.get_positions(work, site_id, which, limit=ALL_ROWS)
    return table_answer(positions_table(found), form, f"positions-{site_id}")


@serves(router, "get_backlinks")
def get_backlinks(
    site_id: int,
    work: Work,
    state: BacklinkState = BacklinkState.LIVE,
    weeks: Annotated[int, Query(ge=1, le=standings.WEEKS_MAX)] = WEEKS,
    text: str = "",
    limit: Limit = 100,
    after: After = 0,
) -> BacklinksOut:
    return standings.get_backlinks(work, site_id, state, weeks, text, limit=limit, after=after)


@serves(router, "export_backlinks")
def export_backlinks(
    site_id: int,
    work: Work,
    form: TableForm = TableForm.CSV,
    state: BacklinkState = BacklinkState.LIVE,
    weeks: Annotated[int, Query(ge=1, le=standings.WEEKS_MAX)] = WEEKS,
    text: str = "",
) -> Response:
    found = standings.get_backlinks(work, site_id, state, weeks, text, limit=ALL_ROWS)
    return table_answer(backlinks_table(found), form, f"links-{site_id}")
