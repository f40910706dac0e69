"""The portal: what somebody of a client sees who signs in."""

from __future__ import annotations

from datetime import date

from hodcarrier.wire.approvals import ApprovalOut
from hodcarrier.wire.base import Wire
from hodcarrier.wire.reports import ReportOut
from hodcarrier.wire.trends import TrendOut


class PortalSite(Wire):
    """A site of the client: its health, by how much that differs from the first point of its line, and what that comes to in words."""

    id: int
    host: str
    health: float | None
    change: float | None
    words: str
    trend: TrendOut


class PortalWork(Wire):
    """A piece of work: done and confirmed on a day, or in hand with the day it is due."""

    title: str
    site_host: str
    day: date | None
    cleared: int
    places: int


class PortalOut(Wire):
    """All that a client's own place shows."""

    client_id: int
    client_name: str
    agency: str
    sites: list[PortalSite]
    reports: list[ReportOut]
    approvals: list[ApprovalOut]
    done: list[PortalWork]
    hand: list[PortalWork]
