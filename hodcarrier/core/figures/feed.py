"""The protocol of figure feeds, version 1: what a feed says that it has, what a page of rows looks like, and which weeks are to be asked for. ``docs/figure-feed.md``
describes it for those who serve one."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.figures.kinds import FIELDS, Field, FieldType
from hodcarrier.core.figures.tables import Cell, Layout, Problem, RowReader, Value
from hodcarrier.core.states import FeedState, FigureKind
from hodcarrier.core.words import fill

VERSION = "v1"
# Figures of the last days still change where a feed does not say how long they do.
SETTLE_DAYS, SETTLE_DAYS_MAX = 3, 31
# A feed that has had nothing newer for so long, beyond the days its figures take to settle, has stopped.
STALE_DAYS = 4
_DAY = re.compile(r"\d{4}-\d{2}-\d{2}")


@dataclass(frozen=True)
class Offer:
    """What a feed has of a kind: first and last day, and for how many days back from the last its figures still change."""

    first: date
    last: date
    settle_days: int = SETTLE_DAYS


@dataclass(frozen=True)
class Manifest:
    """What a feed has, and of which site."""

    site: str
    offers: Mapping[FigureKind, Offer] = field(default_factory=dict)


@dataclass(frozen=True)
class Week:
    """Seven days from a Monday (ISO 8601)."""

    first: date

    @property
    def last(self) -> date:
        """Its Sunday."""
        return self.first + timedelta(days=6)


@dataclass(frozen=True)
class Page:
    """The rows of one answer, and from where the next one goes on; ``after`` is empty at the end."""

    rows: Sequence[Mapping[str, Any]]
    after: str


def read_manifest(text: str) -> Manifest:
    """What a feed says that it has. Kinds that are not known here are passed over. Raises :class:`InvalidInput` for what is no manifest."""
    data = _object(text, "The manifest")
    site, kinds = data.get("site"), data.get("kinds")
    if not isinstance(site, str) or not isinstance(kinds, dict):
        raise InvalidInput("The manifest names no site, or no kinds.", "Compare it with docs/figure-feed.md.")
    known = {kind.value: kind for kind in FigureKind}
    return Manifest(site.lower(), {known[name]: _offer(name, each) for name, each in kinds.items() if name in known})


def _offer(kind: str, given: object) -> Offer:
    found = given if isinstance(given, dict) else {}
    first, last = (_day(found.get(name)) for name in ("first", "last"))
    if first is None or last is None or first > last:
        raise InvalidInput(f"The manifest says no first and last day of {kind}.", "Give both as YYYY-MM-DD.")
    settle = found.get("settle_days", SETTLE_DAYS)
    if not isinstance(settle, int) or isinstance(settle, bool) or not 0 <= settle <= SETTLE_DAYS_MAX:
        raise InvalidInput(f"settle_days of {kind} is no number of days.", f"Give 0 to {SETTLE_DAYS_MAX}.")
    return Offer(first, last, settle)


def check_site(manifest: Manifest, host: str) -> None:
    """Raise :class:`InvalidInput` where a feed has the figures of another site."""
    if manifest.site.removeprefix("www.") != host.removeprefix("www."):
        raise InvalidInput(
            f"The feed has figures of {manifest.site[:200]}, not of {host}.", "Correct its address, or the feed itself."
        )


def read_page(text: str) -> Page:
    """The rows of one answer (JSON Lines). The last line closes it: without one, it was cut off. Raises :class:`InvalidInput`."""
    lines = [line for line in text.splitlines() if line.strip()]
    closing = _object(lines[-1], "The last line") if lines else {}
    if set(closing) != {"rows", "after"}:
        raise InvalidInput("The answer was cut off: no line closes it.", "It is asked again.")
    rows = [_object(line, f"Line {number:,}") for number, line in enumerate(lines[:-1], 1)]
    if closing["rows"] != len(rows):
        raise InvalidInput(f"The answer has {len(rows):,} rows, but says {closing['rows']}.", "It is asked again.")
    after = closing["after"]
    if after is not None and not (isinstance(after, str) and after):
        raise InvalidInput("“after” is neither a text nor null.", "Compare it with docs/figure-feed.md.")
    return Page(rows, after or "")


def weeks_to_ask(offer: Offer, until: date | None) -> list[Week]:
    """The weeks to ask for, the earliest first: all that are missing, and those whose figures were still changing. ``until`` is the last day that was taken in."""
    begin = offer.first if until is None else max(offer.first, min(until, offer.last) - timedelta(days=offer.settle_days))
    monday = begin - timedelta(days=begin.weekday())
    return [Week(monday + timedelta(days=7 * n)) for n in range((offer.last - monday).days // 7 + 1)]


def is_stale(offer: Offer, today: date) -> bool:
    """Whether a feed has had nothing new for longer than its figures take to come."""
    return today - offer.last > timedelta(days=offer.settle_days + STALE_DAYS)


def read_rows(kind: FigureKind, rows: Iterable[Mapping[str, Any]], base: str, within: Week) -> Iterator[tuple[Value, ...]]:
    """Rows of a feed as they are kept, in the order of the kind's fields; fields that are not known here are passed over. Raises :class:`InvalidInput` for a row that cannot be
    read, or that is of another week."""
    fields = FIELDS[kind]
    layout = Layout(kind, -1, {each.name: place for place, each in enumerate(fields)})
    reader = RowReader(layout, base)
    for number, row in enumerate(rows, 1):
        cells = [_cell(row.get(each.name), each, number) for each in fields]
        found = reader.read(cells)
        if isinstance(found, Problem):
            raise InvalidInput(f"Row {number:,}: {found.text}.", "Correct it where the feed gets it from.")
        days = [
            value for value, each in zip(found, fields, strict=True) if each.type == FieldType.DAY and isinstance(value, date)
        ]
        if not any(within.first <= day <= within.last for day in days):
            raise InvalidInput(
                f"Row {number:,} is of no day from {within.first} to {within.last}.", "Rows of other days are not to be sent."
            )
        yield found


def _cell(value: object, each: Field, number: int) -> Cell:
    """A value of JSON as a cell: texts stay texts, numbers numbers."""
    if value is None or (isinstance(value, str | int | float) and not isinstance(value, bool)):
        return value
    raise InvalidInput(f"Row {number:,}: {each.head}: {json.dumps(value)[:80]} is neither a text nor a number.", "Correct it.")


def _object(text: str, what: str) -> dict[str, Any]:
    try:
        found = json.loads(text)
    except (ValueError, RecursionError):
        raise InvalidInput(f"{what} is no JSON.", "Compare it with docs/figure-feed.md.") from None
    if not isinstance(found, dict):
        raise InvalidInput(f"{what} is no object.", "Compare it with docs/figure-feed.md.")
    return found


def _day(value: object) -> date | None:
    try:
        return date.fromisoformat(value) if isinstance(value, str) and _DAY.fullmatch(value) else None
    except ValueError:
        return None


def state_of(offers: Iterable[Offer], failures: int, today: date, *, active: bool, asked: bool) -> FeedState:
    """How a feed fares: switched off, failing, not asked yet, with nothing new for days in any of its kinds, or current."""
    if not active:
        return FeedState.OFF
    if failures:
        return FeedState.FAILING
    if not asked:
        return FeedState.WAITING
    return FeedState.STALE if any(is_stale(offer, today) for offer in offers) else FeedState.CURRENT


def said(state: FeedState, last: date | None, today: date, error: str) -> str:
    """How a feed fares, in a sentence. ``last`` is the last day of its oldest kind."""
    if state == FeedState.OFF:
        return "Switched off."
    if state == FeedState.FAILING:
        return error
    if state == FeedState.WAITING:
        return "Not asked yet; it is asked within a minute."
    if last is None:
        return "It has no figures of the kinds that are wanted."
    days = (today - last).days
    ago = "today" if days <= 0 else "yesterday" if days == 1 else f"{fill('{n:day}', {'n': days})} ago"
    up_to = f"{last.day} {last:%B %Y}, {ago}"
    return f"Nothing newer than {up_to}." if state == FeedState.STALE else f"Figures up to {up_to}."
