"""One page of a run in depth: terms, structured data, versions in other languages, the way to it, its source; and how a snippet would stand in results."""

from __future__ import annotations

from typing import Annotated

from pydantic import StringConstraints

from hodcarrier.wire.base import Wire
from hodcarrier.wire.results import FindingRow


class TermOut(Wire):
    """A term of a page: how often it stands in the main text and in other places."""

    text: str
    words: int
    count: int
    share: float
    title: int
    h1: int
    headings: int
    alts: int
    anchors: int


class FocusOut(Wire):
    """Where a term that was asked for stands."""

    term: TermOut
    description: int
    beginning: int
    url: int


class TermsOut(Wire):
    """The main terms of a page, most frequent first within each number of words."""

    words: int
    terms: list[TermOut]
    focus: FocusOut | None = None


class DataValue(Wire):
    """A property of a thing with its value."""

    property: str
    value: str


class DataThing(Wire):
    """A thing in structured data; ``parts`` are things that it names by a property."""

    types: list[str]
    id: str
    values: list[DataValue]
    parts: list[DataPart]


class DataPart(Wire):
    """A thing as the value of a property."""

    property: str
    thing: DataThing


class DataBlock(Wire):
    """Structured data that is written in one place. ``number`` counts the blocks of JSON-LD from 1 on; 0: it is none."""

    form: str
    number: int
    error: str
    things: list[DataThing]


class PageData(Wire):
    """The structured data of a page, with the findings on it."""

    blocks: list[DataBlock]
    findings: list[FindingRow]


class VersionOut(Wire):
    """A version of a page, and which URL it names for each code."""

    url: str
    status: int | None
    lang: str
    indexable: bool | None
    names: list[tuple[str, str]]


class LanguageSet(Wire):
    """A page with the versions that it names, itself first; nothing when it names none. ``missing`` counts versions that do not name others back."""

    codes: list[str]
    versions: list[VersionOut]
    missing: int


class StepOut(Wire):
    """A page on the way to another, with the text of the link to it."""

    url: str
    title: str
    text: str


class ParseErrorOut(Wire):
    """Where the HTML breaks the rules of parsing."""

    line: int
    column: int
    problem: str
    remedy: str


class PageSource(Wire):
    """The source of a page as it was sent, with its findings and where its HTML breaks the rules. ``whole``: nothing was cut off."""

    text: str
    whole: bool
    findings: list[FindingRow]
    errors: list[ParseErrorOut]


class FittedOut(Wire):
    """A text as search results show it."""

    lines: list[str]
    px: int
    limit_px: int
    cut: bool


class SnippetSide(Wire):
    """A search result on one kind of screen."""

    path: list[str]
    title: FittedOut
    description: FittedOut


class SnippetOut(Wire):
    """A title and a description in search results."""

    desktop: SnippetSide
    phone: SnippetSide


class LooksBody(Wire):
    """Pages of a site to fetch and examine now."""

    urls: list[Annotated[str, StringConstraints(max_length=2_000)]]


class LookBrief(Wire):
    """What a fresh look at one page found, against the last run; ``error`` says why it could not be looked at."""

    url: str
    status: int | None = None
    changed: list[str] = []
    fixed: int = 0
    new: int = 0
    still: int = 0
    unverified: int = 0
    error: str = ""
