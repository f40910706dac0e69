"""Remarks on a site's timeline."""

from __future__ import annotations

from datetime import date

from pydantic import Field

from hodcarrier.core.states import RemarkOrigin
from hodcarrier.wire.base import Wire, Words


class RemarkBody(Wire):
    """A dated note."""

    day: date
    text: Words = Field(min_length=1, max_length=1000, examples=["New theme went live"])


class RemarkOut(RemarkBody):
    """A remark on a site's timeline."""

    id: int
    origin: RemarkOrigin
    author: str
    run_id: str | None


class LineRemark(Wire):
    """A remark beside a line over runs."""

    day: date
    text: str
