"""Saved views: filters of a screen under a name."""

from __future__ import annotations

from pydantic import Field

from hodcarrier.core.states import ViewPlace
from hodcarrier.wire.base import Wire, Words


class ViewBody(Wire):
    """A new view. ``query`` is the query of the screen's address. ``shared``: everybody at the agency sees it."""

    place: ViewPlace
    name: Words = Field(min_length=1, max_length=100, examples=["Overdue at Tidewrack"])
    query: str = Field(max_length=2000, examples=["client=1&due=overdue"])
    shared: bool = False


class ViewOut(ViewBody):
    """A saved view; ``own``: it is the member's, who may remove it."""

    id: int
    author: str
    own: bool
