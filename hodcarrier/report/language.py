"""The languages that reports are written in.

English is written beside the code. Any other language is one file, ``languages/CODE.po`` (GNU gettext, PO files), which holds the rule for its plurals
too; numbers and days follow the Unicode Common Locale Data Repository. A text that has no translation stays English.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from datetime import date, timedelta
from functools import lru_cache
from gettext import c2py
from pathlib import Path
from typing import Any

from babel import Locale
from babel.dates import format_date
from babel.messages.pofile import read_po
from babel.numbers import format_decimal

from hodcarrier.core.errors import InvalidInput

FOLDER = Path(__file__).parent / "languages"
ENGLISH = "en"
# English as it is written where the product comes from: days before months.
_LOCALES = {ENGLISH: "en_GB"}
# What texts of checks are found by in a file of a language, whatever release they are of.
CHECK_TITLE, CHECK_WHY = "title of ", "why of "
_KIB = 1024
_SENTENCE = re.compile(r"(?<=[.!?])\s+(?=[A-ZÀ-Þ“„])")


class Language:
    """A language of reports: texts, numbers and days as it writes them."""

    def __init__(self, code: str) -> None:
        self.code = code
        self.locale = Locale.parse(_LOCALES.get(code, code))
        self._texts: dict[str, str | tuple[str, ...]] = {}
        self._of_checks: dict[str, str] = {}
        self._form: Callable[[int], int] = lambda number: int(number != 1)
        if code != ENGLISH:
            with (FOLDER / f"{code}.po").open("rb") as file:
                catalogue = read_po(file, locale=code)
            self._form = c2py(catalogue.plural_expr)
            for message in catalogue:
                if message.id and message.context:
                    self._of_checks[message.context] = str(message.string or "")
                elif message.id:
                    key, said = message.id, message.string or ""
                    self._texts[key if isinstance(key, str) else key[0]] = said if isinstance(said, str) else tuple(said)

    @property
    def name(self) -> str:
        """What it calls itself."""
        return str(self.locale.get_language_name(self.code) or self.code).capitalize()

    def say(self, text: str, /, **values: object) -> str:
        """A text with its placeholders filled in: whole numbers and days as the language writes them, all else as it comes."""
        found = self._texts.get(text)
        return self._filled(found if isinstance(found, str) and found else text, values)

    def count(self, number: int, one: str, many: str, /, **values: object) -> str:
        """A text for a number of things, which stands in it as ``{n}``, in the form that the grammar asks for."""
        found = self._texts.get(one)
        forms = found if isinstance(found, tuple) and all(found) else (one, many)
        form = self._form(number) if forms != (one, many) else int(number != 1)
        return self._filled(forms[form], {"n": number, **values})

    def check_title(self, check: str, title: str) -> str:
        """What a check is called; ``title`` is what a run calls it."""
        return self._of(CHECK_TITLE + check, title)

    def check_why(self, check: str, why: str) -> str:
        """Why a check matters."""
        return self._of(CHECK_WHY + check, why)

    def meaning(self, check: str, why: str) -> str:
        """Why a check matters, in one sentence."""
        return _SENTENCE.split(self.check_why(check, why), maxsplit=1)[0]

    def _of(self, context: str, text: str) -> str:
        return self._of_checks.get(context) or text

    def number(self, value: float, digits: int = 0) -> str:
        """A number with so many decimals."""
        shown = round(value, digits) or 0.0
        text: str = format_decimal(shown, format="#,##0." + "0" * digits if digits else "#,##0", locale=self.locale)
        return text.replace("-", "−")

    def signed(self, value: float, digits: int = 1) -> str:
        """A change with its sign."""
        return ("+" if round(value, digits) > 0 else "") + self.number(value, digits)

    def percent(self, value: float, digits: int = 0) -> str:
        """A share in percent."""
        return f"{self.number(value, digits)} %"

    def figure(self, value: float | None, unit: str, digits: int = 1) -> str:
        """A figure with its unit as it is shown in tables; a dash for none."""
        if value is None:
            return "–"
        if unit == "points":
            return self.number(value, digits)
        if unit == "%":
            return self.percent(value, digits)
        if unit == "bytes":
            return f"{self.number(value / _KIB, digits)} KiB"
        return f"{self.number(value)} {self.say(unit) if unit else ''}".rstrip()

    def day(self, day: date) -> str:
        """A day: 26 November 2026."""
        return str(format_date(day, "long", locale=self.locale))

    def short_day(self, day: date) -> str:
        """A day for tables: 26 Nov 2026."""
        return str(format_date(day, "medium", locale=self.locale))

    def span(self, first: date, last: date) -> str:
        """Days from one to another; a whole month by its name, a whole quarter by its months."""
        whole = first.day == 1 and (last + timedelta(days=1)).day == 1
        if whole and (first.year, first.month) == (last.year, last.month):
            return str(format_date(first, "LLLL y", locale=self.locale))
        if whole and first.year == last.year:
            return self.say(
                "{first} to {last}",
                first=format_date(first, "LLLL", locale=self.locale),
                last=format_date(last, "LLLL y", locale=self.locale),
            )
        begins = "d MMMM y" if first.year != last.year else "d MMMM"
        if self.code != ENGLISH:
            begins = begins.replace("d ", "d. ")
        return self.say("{first} to {last}", first=format_date(first, begins, locale=self.locale), last=self.day(last))

    def listed(self, words: list[str]) -> str:
        """Words one after the other: one, two and three."""
        if len(words) < 2:
            return "".join(words)
        return self.say("{first} and {last}", first=", ".join(words[:-1]), last=words[-1])

    def _filled(self, text: str, values: Mapping[str, Any]) -> str:
        return text.format(**{name: self._shown(value) for name, value in values.items()})

    def _shown(self, value: object) -> object:
        if isinstance(value, int) and not isinstance(value, bool):
            return self.number(value)
        return self.day(value) if isinstance(value, date) else value


@lru_cache(maxsize=1)
def languages() -> dict[str, str]:
    """The languages there are: their codes, and what they call themselves."""
    codes = [ENGLISH, *sorted(path.stem for path in FOLDER.glob("*.po"))]
    return {code: language(code).name for code in codes}


@lru_cache(maxsize=16)
def language(code: str) -> Language:
    """A language by its code; one that there is not (any more) is English."""
    return Language(code if code == ENGLISH or (FOLDER / f"{code}.po").is_file() else ENGLISH)


def known_language(code: str) -> str:
    """A code, if reports are written in it. Raises :class:`InvalidInput`."""
    if code not in languages():
        raise InvalidInput(f"Reports are not written in “{code}”.", f"There are {', '.join(languages())}.", "language")
    return code
