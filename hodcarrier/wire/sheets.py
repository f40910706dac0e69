"""Review sheets: what a person looks at, and what came of it."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from hodcarrier.core.states import Priority, SheetAsks, SheetDifference, SheetOutcome
from hodcarrier.wire.base import Wire, Words
from hodcarrier.wire.results import TodoRef
from hodcarrier.wire.todo_things import FILE_BYTES_MAX

TABLE_CHARS_MAX = 500_000
NOTE_CHARS_MAX = 20_000
SECTIONS_MAX, ITEMS_MAX = 50, 300


class SheetItem(Wire):
    """Something to look at. ``known_by`` is what may know the answer: ``check.ID`` or ``figure.NAME``. Without a ``key`` it gets one from its words."""

    text: Words = Field(min_length=1, max_length=300)
    how: str = Field(default="", max_length=2000)
    asks: SheetAsks = SheetAsks.OUTCOME
    unit: Words = Field(default="", max_length=40)
    known_by: Words = Field(default="", max_length=100, pattern=r"^((check|figure)\..+)?$")
    key: Words = Field(default="", max_length=60, pattern=r"^[\w-]*$")


class SheetSection(Wire):
    """Items under a heading."""

    title: Words = Field(default="", max_length=100)
    items: list[SheetItem] = Field(max_length=ITEMS_MAX)


class SheetTemplateBody(Wire):
    """A template: its sections, or a ``table`` of them as CSV with the columns section, item, how, asks, unit, known_by, key."""

    name: Words = Field(min_length=1, max_length=100)
    note: str = Field(default="", max_length=2000)
    sections: list[SheetSection] = Field(default=[], max_length=SECTIONS_MAX)
    table: str = Field(default="", max_length=TABLE_CHARS_MAX)


class SheetTemplateOut(Wire):
    """A template; one that ships cannot be changed, but copied. ``id`` is a name, or the number of one of the agency's."""

    id: str
    name: str
    note: str
    ships: bool
    sections: list[SheetSection]
    items: int
    version: int = 1


class SheetStart(Wire):
    """A sheet to begin. Without a day it is of today."""

    template: str = Field(min_length=1, max_length=40)
    day: date | None = None


class SheetBrief(Wire):
    """A sheet in a list: how far it is, in a sentence and in counts by outcome."""

    id: int
    site_id: int
    template: str
    name: str
    day: date
    author: str
    sentence: str
    counts: dict[str, int]


class SheetFileOut(Wire):
    """A file that shows what was found."""

    id: int
    name: str
    media: str
    size: int


class SheetLine(Wire):
    """An item of a sheet and what came of it; ``source`` says what knew it, where nobody of the agency did. ``before`` is what came of it at the last filling."""

    key: str
    text: str
    how: str
    asks: SheetAsks
    unit: str
    outcome: SheetOutcome = SheetOutcome.OPEN
    number: float | None = None
    note: str = ""
    source: str = ""
    author: str = ""
    at: datetime | None = None
    before_outcome: SheetOutcome | None = None
    before_number: float | None = None
    difference: SheetDifference = SheetDifference.FIRST
    todo: TodoRef | None = None
    files: list[SheetFileOut] = []


class SheetPart(Wire):
    """A section of a sheet."""

    title: str
    lines: list[SheetLine]


class SheetOut(SheetBrief):
    """A sheet with its items, compared with the last filling of the same template on an earlier day."""

    site_host: str
    before_id: int | None = None
    before_day: date | None = None
    parts: list[SheetPart]


class SheetAnswerBody(Wire):
    """What came of an item; what is left out stays."""

    item: str = Field(min_length=1, max_length=80)
    outcome: SheetOutcome | None = None
    number: float | None = Field(default=None, allow_inf_nan=False)
    note: str | None = Field(default=None, max_length=NOTE_CHARS_MAX)


class SheetAnswers(Wire):
    """What came of some items, or a ``table`` as CSV with the columns key, outcome, number, note."""

    answers: list[SheetAnswerBody] = Field(default=[], max_length=ITEMS_MAX)
    table: str = Field(default="", max_length=TABLE_CHARS_MAX)


class SheetTodos(Wire):
    """To-dos to make of items, one each."""

    items: list[str] = Field(min_length=1, max_length=ITEMS_MAX)
    assignee: int | None = None
    due: date | None = None
    priority: Priority = Priority.NORMAL


class SheetFileBody(Wire):
    """A file for an item, up to 5 MiB. ``content`` is base64 (RFC 4648, 4)."""

    item: str = Field(min_length=1, max_length=80)
    name: Words = Field(min_length=1, max_length=200)
    content: str = Field(min_length=1, max_length=FILE_BYTES_MAX * 4 // 3 + 4)
