"""Mails and what became of them."""

from __future__ import annotations

from datetime import datetime

from hodcarrier.core.states import DeliveryState
from hodcarrier.wire.base import Wire


class DeliveryOut(Wire):
    """A mail. ``next_at`` is when it is tried next, ``error`` what the last attempt met."""

    id: int
    at: datetime
    run_id: str | None
    site_host: str
    recipient: str
    subject: str
    state: DeliveryState
    attempts: int
    next_at: datetime | None
    sent_at: datetime | None
    error: str
