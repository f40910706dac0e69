"""To-dos that wait for a client to agree."""

from __future__ import annotations

from datetime import date

from pydantic import Field

from hodcarrier.core.states import Priority, Severity, TodoState
from hodcarrier.wire.base import Wire, Words


class ApprovalOut(Wire):
    """A to-do as it is put to the client: what is to be done, why, what it is worth, until when."""

    todo_id: int
    title: str
    note: str
    client_name: str
    site_host: str
    why: str
    severity: Severity
    priority: Priority
    state: TodoState
    due: date | None
    places: int
    gain: float | None
    version: int


class AnswerBody(Wire):
    """An answer: the client agrees, or asks back, which needs words."""

    agrees: bool
    comment: Words = Field(default="", max_length=5_000)
