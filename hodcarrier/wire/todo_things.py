"""What belongs to to-dos beside themselves: recurring ones, attachments, tables."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from hodcarrier.core.states import Priority
from hodcarrier.wire.base import Label, Wire, Words
from hodcarrier.wire.todos import Hours, TodoOut

FILE_BYTES_MAX = 5 * 1024 * 1024


class RecurringBody(Wire):
    """A new recurring to-do. ``rule`` says on which days one is made; each is due ``days`` working days later."""

    site_id: int
    title: Words = Field(min_length=1, max_length=300, examples=["Check the opening hours in the footer"])
    rule: str = Field(max_length=300, examples=["monthly:1"], description="daily, weekly:TU, monthly:1 or an RRULE (RFC 5545)")
    days: int = Field(default=5, ge=0, le=1000, examples=[5])
    note: str = Field(default="", max_length=20_000)
    assignee: int | None = None
    priority: Priority = Priority.NORMAL
    estimate_hours: Hours | None = None
    labels: list[Label] = Field(default_factory=list, max_length=20)


class RecurringOut(RecurringBody):
    """A recurring to-do: when the next one is made, and the one that was made last. None is made while that is not done."""

    id: int
    site_host: str
    client_name: str
    assignee_name: str
    words: str
    next_on: date | None
    last_todo: int | None


class TodoFileBody(Wire):
    """An attachment, up to 5 MiB. ``content`` is base64 (RFC 4648, 4)."""

    name: Words = Field(min_length=1, max_length=200, examples=["before.png"])
    content: str = Field(min_length=1, max_length=FILE_BYTES_MAX * 4 // 3 + 4, examples=["aGVsbG8="])


class TodoFileOut(Wire):
    """An attachment of a to-do."""

    id: int
    name: str
    media: str
    size: int
    author: str
    created_at: datetime


class TodoTable(Wire):
    """To-dos as CSV: the columns ``site`` and ``title``, and where wanted ``note``, ``assignee``, ``due``, ``priority``, ``severity``, ``hours`` and
    ``labels`` (with semicolons between them). ``check_only``: only read it."""

    csv: str = Field(max_length=5_000_000, examples=["site,title,due\ntidewrack.example,Ask for the logs,2099-01-05\n"])
    check_only: bool = False


class TodosImported(Wire):
    """What was read of a table: how many to-dos, and those that were made."""

    rows: int
    todos: list[TodoOut]
