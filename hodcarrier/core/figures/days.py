"""Days as tables write them: which order they are in, and which day each is."""

from __future__ import annotations

import re
from collections.abc import Iterable
from datetime import date
from functools import lru_cache

from hodcarrier.core.states import DayOrder

_PARTS = re.compile(r"(\d{1,4})[-./ ]+(\d{1,2})[-./ ]+(\d{1,4})")
_RUN = re.compile(r"(\d{4})(\d{2})(\d{2})")
_TIME = re.compile(r"(?:[T ,]+|\s+)\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?(?:\s*(?:[AaPp]\.?[Mm]\.?|Z|[+-]\d{2}:?\d{2}|UTC))*$")
_WEEKDAY = re.compile(r"^[^\W\d]+\.?,\s*(?=\d)")
_WORD = re.compile(r"[^\W\d_]+")
_NUMBER = re.compile(r"\d+")
_MONTHS = {
    word: number
    for number, words in enumerate(
        (
            "jan january januar jänner janvier enero", "feb february februar février febrero", "mar march märz mär mrz mars marzo",
            "apr april avril abril", "may mai mayo", "jun june juni juin junio", "jul july juli juillet julio",
            "aug august août agosto", "sep sept september septembre septiembre", "oct october okt oktober octobre octubre",
            "nov november novembre noviembre", "dec december dez dezember décembre diciembre",
        ),
        1,
    )
    for word in words.split()
}  # fmt: skip
# Where the parts of each order stand: year, month, day.
_PLACES = {DayOrder.YMD: (0, 1, 2), DayOrder.DMY: (2, 1, 0), DayOrder.MDY: (2, 0, 1), DayOrder.YDM: (0, 2, 1)}
# What is likelier where values fit several orders.
LIKELY = (DayOrder.YMD, DayOrder.DMY, DayOrder.MDY, DayOrder.YDM, DayOrder.WORDS)
_FIRST_YEAR, _LAST_YEAR = 1990, 2099


@lru_cache(20_000)
def read_day(text: str, order: DayOrder) -> date | None:
    """The day that a text names in an order; ``None`` when it names none. A time of day behind it and the weekday before it are passed over."""
    plain = _WEEKDAY.sub("", _TIME.sub("", text.strip()))
    if order == DayOrder.WORDS:
        return _in_words(plain)
    if found := _RUN.fullmatch(plain):
        return _day(found.groups(), _PLACES[order]) if order == DayOrder.YMD else None
    found = _PARTS.fullmatch(plain)
    return _day(found.groups(), _PLACES[order]) if found else None


def day_orders(texts: Iterable[str]) -> list[DayOrder]:
    """The orders in which every text is a day, the likeliest first: the one whose days lie closest together, as a wrong order spreads the days of a month
    over a year. A year that stands first is followed by the month, wherever that fits."""
    values = list(dict.fromkeys(text for text in texts if text.strip()))
    spreads: dict[DayOrder, int] = {}
    for order in LIKELY if values else ():
        days = [day for text in values if (day := read_day(text, order)) is not None]
        if len(days) == len(values):
            spreads[order] = (max(days) - min(days)).days
    if DayOrder.YMD in spreads:
        spreads.pop(DayOrder.YDM, None)
    return sorted(spreads, key=lambda order: spreads[order])


def _day(parts: tuple[str, ...], places: tuple[int, int, int]) -> date | None:
    year, month, day = (parts[place] for place in places)
    return _made(year, int(month), day)


def _in_words(text: str) -> date | None:
    words = [_MONTHS.get(word.lower()) for word in _WORD.findall(text)]
    months, numbers = [month for month in words if month], _NUMBER.findall(text)
    if len(months) != 1 or len(numbers) != 2:
        return None
    year, day = (numbers[0], numbers[1]) if len(numbers[0]) == 4 else (numbers[1], numbers[0])
    return _made(year, months[0], day)


def _made(year: str, month: int, day: str) -> date | None:
    if len(year) not in (2, 4) or len(day) > 2:
        return None
    number = int(year) + (2000 if len(year) == 2 else 0)
    try:
        return date(number, month, int(day)) if _FIRST_YEAR <= number <= _LAST_YEAR else None
    except ValueError:
        return None
