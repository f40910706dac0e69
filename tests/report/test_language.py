"""The languages of reports: complete, with the same placeholders, and right for every number."""

from __future__ import annotations

import re
from datetime import date

import pytest
from babel.messages.pofile import read_po

from hodcarrier.core import catalogue
from hodcarrier.report.language import CHECK_TITLE, CHECK_WHY, FOLDER, language, languages
from tests.report.messages import counted, said

CODES = sorted(path.stem for path in FOLDER.glob("*.po"))
HOLES = re.compile(r"\{(\w+)\}")


def messages(code: str) -> dict[tuple[str, object], object]:
    with (FOLDER / f"{code}.po").open("rb") as file:
        return {(m.context or "", m.id): m.string for m in read_po(file, locale=code) if m.id}


def test_german_is_there() -> None:
    assert CODES == ["de"] and languages() == {"en": "English", "de": "Deutsch"}


@pytest.mark.parametrize("code", CODES)
def test_a_language_has_every_text_and_no_other(code: str) -> None:
    kept = messages(code)
    known = catalogue.load()
    wanted: set[tuple[str, object]] = {("", text) for text in said()} | {("", pair) for pair in counted()}
    wanted |= {(CHECK_TITLE + name, known[name].check.summary) for name in known}
    wanted |= {(CHECK_WHY + name, known[name].check.why) for name in known}
    assert wanted - set(kept) == set(), "not translated"
    assert set(kept) - wanted == set(), "said no more"
    assert [key for key, text in kept.items() if not (all(text) if isinstance(text, tuple) else text)] == []


@pytest.mark.parametrize("code", CODES)
def test_a_translation_has_the_placeholders_of_its_text(code: str) -> None:
    for (_, source), text in messages(code).items():
        forms = text if isinstance(text, tuple) else (text,)
        holes = set(HOLES.findall(source[-1] if isinstance(source, tuple) else str(source)))
        for form in forms:
            found = set(HOLES.findall(str(form)))
            # That there is one of them may be said in a word.
            assert found <= holes and holes - found <= {"n", "names", "dated", "kept"}, form


@pytest.mark.parametrize(
    ("code", "number", "said"),
    [
        ("en", 0, "0 tasks are in hand, without due dates yet."),
        ("en", 1, "One task is in hand, without a due date yet."),
        ("en", 1200, "1,200 tasks are in hand, without due dates yet."),
        ("de", 1, "Eine Aufgabe ist in Arbeit, noch ohne Termin."),
        ("de", 1200, "1.200 Aufgaben sind in Arbeit, noch ohne Termine."),
    ],
)
def test_grammar_is_right_for_every_number(code: str, number: int, said: str) -> None:
    words = language(code)
    one, many = "One task is in hand, without a due date yet.", "{n} tasks are in hand, without due dates yet."
    assert words.count(number, one, many) == said


@pytest.mark.parametrize(
    ("code", "first", "last", "said"),
    [
        ("en", date(2026, 11, 1), date(2026, 11, 30), "November 2026"),
        ("de", date(2026, 3, 1), date(2026, 3, 31), "März 2026"),
        ("en", date(2026, 7, 1), date(2026, 9, 30), "July to September 2026"),
        ("de", date(2026, 7, 1), date(2026, 9, 30), "Juli bis September 2026"),
        ("en", date(2026, 11, 3), date(2026, 11, 17), "3 November to 17 November 2026"),
        ("de", date(2026, 12, 30), date(2027, 1, 5), "30. Dezember 2026 bis 5. Januar 2027"),
        ("en", date(2026, 2, 1), date(2026, 2, 1), "1 February to 1 February 2026"),
    ],
)
def test_spans_of_days(code: str, first: date, last: date, said: str) -> None:
    assert language(code).span(first, last) == said


def test_numbers_are_written_as_the_language_does() -> None:
    english, german = language("en"), language("de")
    assert [english.number(14800.26, 1), german.number(14800.26, 1)] == ["14,800.3", "14.800,3"]
    assert [english.signed(-0.04), german.signed(2.5), english.signed(-3, 0)] == ["0.0", "+2,5", "−3"]
    assert [english.figure(None, "%"), german.figure(80.0, "%"), german.figure(546.0, "words")] == ["–", "80,0 %", "546 Wörter"]


def test_a_language_that_there_is_not_is_english() -> None:
    assert language("xx").code == "en"
    assert language("en").say("Said nowhere else") == "Said nowhere else"


def test_an_older_text_of_a_check_is_told_in_the_words_of_today() -> None:
    assert language("de").check_title("title-missing", "Pages without a title") == "Titel fehlt"
    assert language("de").check_title("long-gone", "Gone for long") == "Gone for long"
    assert language("de").meaning("title-missing", "x").endswith("die Beschriftung des Browser-Tabs.")
