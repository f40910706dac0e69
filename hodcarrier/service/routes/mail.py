"""Mails."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from hodcarrier.core.states import DeliveryState
from hodcarrier.service.deps import Work
from hodcarrier.service.guard import Asker, serves
from hodcarrier.usecases import outbox
from hodcarrier.wire.deliveries import DeliveryOut

router = APIRouter()


@serves(router, "list_deliveries")
def list_deliveries(
    work: Work, state: DeliveryState | None = None, limit: Annotated[int, Query(ge=1, le=1000)] = 100
) -> list[DeliveryOut]:
    return outbox.list_deliveries(work, state, limit)


@serves(router, "send_again")
def send_again(delivery_id: int, work: Work, member: Asker) -> DeliveryOut:
    return outbox.send_again(work, delivery_id, member)
