"""The sheet of a to-do as a web page: to read, to print, and for somebody without an account to answer."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import Any

from jinja2 import Environment
from markdown_it import MarkdownIt
from markupsafe import Markup

from hodcarrier.core.states import PlaceOutcome
from hodcarrier.report.templating import make_environment
from hodcarrier.wire.todos import TodoOut


@dataclass(frozen=True)
class SheetCheck:
    """Why a check matters, and how its findings are fixed."""

    summary: str
    why: str
    fix: str
    standard: str


@dataclass(frozen=True)
class SheetPlace:
    """A place of a to-do, what the latest run says of it, and the element in the source (``before``, ``after``, ``line``, ``selector``)."""

    subject: str
    place: str
    outcome: PlaceOutcome
    message: str
    source: Mapping[str, Any] | None


@dataclass(frozen=True)
class SheetStep:
    """Something that happened to a to-do."""

    at: datetime
    who: str
    text: str


@dataclass(frozen=True)
class TodoSheet:
    """What is on the sheet. ``more`` places are left out, ``run_at`` is the day of the run that speaks of them."""

    todo: TodoOut
    checks: Sequence[SheetCheck]
    places: Sequence[SheetPlace]
    more: int
    steps: Sequence[SheetStep]
    run_at: str


@dataclass(frozen=True)
class Answering:
    """How somebody with a share link may answer. ``said`` thanks for an answer, ``trouble`` says why one was not taken, ``draft`` is what was written."""

    name: str
    may_finish: bool
    asks: bool
    said: str = ""
    trouble: str = ""
    draft: str = ""


@lru_cache(maxsize=1)
def _environment() -> Environment:
    return make_environment({"markdown": markdown, "day": lambda day: f"{day:%a} {day.day} {day:%b %Y}"})


@lru_cache(maxsize=1)
def _markdown() -> MarkdownIt:
    # HTML that people type is shown, not obeyed; the parser itself refuses addresses that run scripts.
    return MarkdownIt("commonmark", {"html": False, "linkify": False}).disable("image")


def markdown(text: str) -> Markup:
    """A note in Markdown (CommonMark) as HTML, without images and without HTML of its own."""
    return Markup(_markdown().render(text))


def draw_sheet(sheet: TodoSheet, answering: Answering | None = None) -> str:
    """The sheet as a page; with ``answering`` it has the form for somebody with a share link."""
    return _environment().get_template("sheet.html").render(s=sheet, t=sheet.todo, a=answering)
