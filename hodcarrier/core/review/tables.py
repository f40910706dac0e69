"""Sheets and their templates as tables (CSV, RFC 4180): what columns there are, and what rows say."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.review.sheets import Answer, Item, Section, items_of
from hodcarrier.core.states import SheetAsks, SheetOutcome

TEMPLATE_FIELDS = ("section", "item", "how", "asks", "unit", "known_by", "key")
SHEET_FIELDS = ("section", "item", "key", "outcome", "number", "unit", "note", "source")
_SEPARATORS = (",", ";", "\t")


def template_rows(sections: Sequence[Section]) -> Iterator[dict[str, Any]]:
    """A row for each item of a template."""
    for section in sections:
        for item in section.items:
            yield {"section": section.title, "item": item.text, **{name: getattr(item, name) for name in TEMPLATE_FIELDS[2:]}}


def sheet_rows(sections: Sequence[Section], answers: Mapping[str, Answer]) -> Iterator[dict[str, Any]]:
    """A row for each item of a sheet, with what came of it."""
    for section in sections:
        for item in section.items:
            answer = answers.get(item.key, Answer())
            given = {"outcome": answer.outcome.value, "number": answer.number, "note": answer.note, "source": answer.source}
            yield {"section": section.title, "item": item.text, "key": item.key, "unit": item.unit, **given}


def read_template(text: str) -> list[Section]:
    """The sections of a template from a table; a section stands until another one is named. Raises :class:`InvalidInput` naming the row."""
    found: dict[str, list[Item]] = {}
    section = ""
    for number, row in _rows(text, ("item",)):
        section = row.get("section", "") or section
        asks = row.get("asks", "") or SheetAsks.OUTCOME
        if asks not in list(SheetAsks):
            raise InvalidInput(f"Row {number}: “{asks[:40]}” is nothing to ask for.", f"Write {' or '.join(SheetAsks)}.", "table")
        if not row["item"]:
            raise InvalidInput(f"Row {number} names no item.", "Fill in the column “item”, or remove the row.", "table")
        given = {name: row.get(name, "") for name in ("how", "unit", "known_by", "key")}
        found.setdefault(section, []).append(Item(row["item"], asks=SheetAsks(asks), **given))
    return [Section(title, items) for title, items in found.items()]


def read_answers(text: str, sections: Sequence[Section]) -> dict[str, Answer]:
    """What came of items, by their keys. Rows without an outcome, a number and a note are passed over. Raises :class:`InvalidInput` naming the row."""
    items = {item.key: item for item in items_of(sections)}
    found: dict[str, Answer] = {}
    for number, row in _rows(text, ("key",)):
        item = items.get(row["key"])
        if item is None:
            raise InvalidInput(
                f"Row {number}: the sheet has no item “{row['key'][:80]}”.", "Leave the keys as they were exported.", "table"
            )
        outcome = row.get("outcome", "") or SheetOutcome.OPEN
        if outcome not in list(SheetOutcome):
            raise InvalidInput(f"Row {number}: “{outcome[:40]}” is no outcome.", f"Write {', '.join(SheetOutcome)}.", "table")
        answer = Answer(SheetOutcome(outcome), _number(row.get("number", ""), number), row.get("note", ""))
        if not answer.is_open or answer.note:
            found[item.key] = answer
    return found


def _number(text: str, row: int) -> float | None:
    if not text:
        return None
    try:
        return float(text)
    except ValueError:
        raise InvalidInput(f"Row {row}: “{text[:40]}” is no number.", "Write decimals after a point.", "table") from None


def _rows(text: str, needed: Sequence[str]) -> Iterator[tuple[int, dict[str, str]]]:
    """Rows by the headings in the first line, each with its number. Raises :class:`InvalidInput` where a column is missing."""
    text = text.removeprefix("\ufeff")
    first = text.partition("\n")[0]
    separator = max(_SEPARATORS, key=first.count)
    try:
        rows = list(csv.reader(io.StringIO(text, newline=""), delimiter=separator))
    except csv.Error as error:
        raise InvalidInput(f"The table cannot be read: {error}.", "Save it as CSV again.", "table") from None
    heads = [head.strip().casefold().replace(" ", "_") for head in rows[0]] if rows else []
    missing = [name for name in needed if name not in heads]
    if missing:
        raise InvalidInput(f"The table has no column “{missing[0]}”.", "Begin with one that was exported.", "table")
    for number, row in enumerate(rows[1:], 2):
        if any(cell.strip() for cell in row):
            yield (
                number,
                {head: cell.strip().removeprefix("'") for head, cell in zip(heads, row, strict=False)}
                | dict.fromkeys(heads[len(row) :], ""),
            )
