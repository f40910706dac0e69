"""Sheets that a person fills in: items in sections, what is known of them beforehand, and how fillings differ."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.states import CheckOutcome, SheetAsks, SheetDifference, SheetOutcome
from hodcarrier.core.words import fill

KEY_CHARS = 60
ITEMS_MAX = 300
CHECK, FIGURE = "check", "figure"


@dataclass(frozen=True)
class Item:
    """Something to look at. ``how`` is how to judge it; ``known_by`` is what may know the answer: ``check.ID`` for an outcome, ``figure.NAME`` for a number. ``key`` is its name
    in every filling of the sheet."""

    text: str
    how: str = ""
    asks: SheetAsks = SheetAsks.OUTCOME
    unit: str = ""
    known_by: str = ""
    key: str = ""


@dataclass(frozen=True)
class Section:
    """Items under a heading."""

    title: str
    items: Sequence[Item]


@dataclass(frozen=True)
class Answer:
    """What came of an item. ``source`` says what knew it, where no person did."""

    outcome: SheetOutcome = SheetOutcome.OPEN
    number: float | None = None
    note: str = ""
    source: str = ""

    @property
    def is_open(self) -> bool:
        """Whether nobody has looked yet."""
        return self.outcome == SheetOutcome.OPEN and self.number is None


@dataclass(frozen=True)
class Checked:
    """What became of a check in a run: its outcome, on how many of the pages examined it fails, and when."""

    outcome: CheckOutcome
    failing: int
    examined: int
    on: date


@dataclass(frozen=True)
class Figured:
    """A figure, and the day that it is of."""

    value: float
    on: date


def items_of(sections: Iterable[Section]) -> list[Item]:
    """All items, in their order."""
    return [item for section in sections for item in section.items]


def with_keys(sections: Sequence[Section]) -> list[Section]:
    """Sections whose items all have keys: those without one get it from their words. Raises :class:`InvalidInput` for a key that stands twice, and for no or too many items."""
    found = items_of(sections)
    if not found:
        raise InvalidInput("The sheet has no item.", "Give at least one.", "sections")
    if len(found) > ITEMS_MAX:
        raise InvalidInput(f"The sheet has {len(found):,} items.", f"Give {ITEMS_MAX} at most.", "sections")
    taken: set[str] = set()
    for item in found:
        if item.key in taken:
            raise InvalidInput(f"Two items have the key “{item.key}”.", "Give each its own, or leave them out.", "sections")
        taken |= {item.key} if item.key else set()
    return [Section(section.title, [_with_key(item, taken) for item in section.items]) for section in sections]


def _with_key(item: Item, taken: set[str]) -> Item:
    if item.key:
        return item
    words = re.sub(r"[^\w]+", "-", item.text.casefold()).strip("-")[:KEY_CHARS] or "item"
    key, number = words, 2
    while key in taken:
        key, number = f"{words[: KEY_CHARS - 4]}-{number}", number + 1
    taken.add(key)
    return replace(item, key=key)


def known_answer(item: Item, checks: Mapping[str, Checked], figures: Mapping[str, Figured]) -> Answer | None:
    """What a run or a figure knows of an item, and says that it does; ``None`` where neither knows anything, or what it knows is no answer."""
    kind, _, name = item.known_by.partition(".")
    if kind == CHECK and item.asks == SheetAsks.OUTCOME and name in checks:
        return _of_check(checks[name])
    if kind == FIGURE and item.asks == SheetAsks.NUMBER and name in figures:
        figure = figures[name]
        return Answer(number=figure.value, source=f"figure of {_day(figure.on)}")
    return None


def _of_check(checked: Checked) -> Answer | None:
    source = f"audit of {_day(checked.on)}"
    if checked.outcome == CheckOutcome.PASSED:
        return Answer(SheetOutcome.PASSED, source=source)
    if checked.outcome == CheckOutcome.NOT_APPLICABLE:
        return Answer(SheetOutcome.NOT_APPLICABLE, source=source)
    if checked.outcome == CheckOutcome.FAILING:
        note = f"{checked.failing:,} of {fill('{n:place}', {'n': checked.examined})} that were examined"
        return Answer(SheetOutcome.RECOMMENDED, note=note, source=source)
    return None  # waived, switched off or not verified: a person has to look


def _day(day: date) -> str:
    return f"{day.day} {day:%B %Y}"


def difference(before: Answer | None, now: Answer) -> SheetDifference:
    """How an answer differs from the last one."""
    if before is None or before.is_open or now.is_open:
        return SheetDifference.FIRST
    if (before.outcome, before.number) == (now.outcome, now.number):
        return SheetDifference.SAME
    if before.outcome == SheetOutcome.RECOMMENDED and now.outcome == SheetOutcome.PASSED:
        return SheetDifference.BETTER
    if now.outcome == SheetOutcome.RECOMMENDED and before.outcome == SheetOutcome.PASSED:
        return SheetDifference.WORSE
    return SheetDifference.OTHER


def counted(sections: Iterable[Section], answers: Mapping[str, Answer]) -> dict[SheetOutcome, int]:
    """How many items have each outcome; a number that was typed in counts as passed: somebody has looked."""
    counts = dict.fromkeys(SheetOutcome, 0)
    for item in items_of(sections):
        answer = answers.get(item.key, Answer())
        outcome = SheetOutcome.PASSED if answer.number is not None and answer.outcome == SheetOutcome.OPEN else answer.outcome
        counts[outcome] += 1
    return counts


def sheet_sentence(counts: Mapping[SheetOutcome, int]) -> str:
    """How far a sheet is, in a sentence."""
    total = sum(counts.values())
    left = counts[SheetOutcome.OPEN]
    looked = f"{total - left:,} of {fill('{n:item}', {'n': total})} looked at" if left else f"All {total:,} items looked at"
    parts = [f"{counts[SheetOutcome.PASSED]:,} in order", f"a change recommended for {counts[SheetOutcome.RECOMMENDED]:,}"]
    if apart := counts[SheetOutcome.NOT_APPLICABLE]:
        parts.append(f"{apart:,} not applicable")
    return f"{looked}: {', '.join(parts)}."
