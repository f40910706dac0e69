"""What each section says, with none, one and many of everything, in every language."""

from __future__ import annotations

import re
from dataclasses import replace
from datetime import date
from typing import Any

import pytest

from hodcarrier.core.states import EventKind, SectionKind
from hodcarrier.report.blocks import Bars, Block, Heading, Headline, Lines, Listing, Paragraph, Table, Terms
from hodcarrier.report.language import language, languages
from hodcarrier.report.sections import SECTIONS, Told
from hodcarrier.report.sections.happened import WORDS
from hodcarrier.report.sections.month import MonthFacts, sentences
from tests.report.samples import facts, report

SEPTEMBER = date(2026, 9, 1)


def told(code: str = "en") -> Told:
    return Told(language(code), "rope.example", "Rope", date(2026, 11, 1), date(2026, 11, 30))


def texts(blocks: list[Block]) -> list[str]:
    """All that blocks say."""
    found: list[str] = []
    for block in blocks:
        match block:
            case Paragraph(text) | Heading(text):
                found.append(text)
            case Listing(items):
                found += items
            case Headline(label, figure, change):
                found += [label, figure, change]
            case Table(name, columns, rows):
                found += [name, *(c.head for c in columns), *(t for row in rows for cell in row for t in (cell.text, cell.under))]
            case Lines() | Bars():
                found.append(block.says)
            case Terms(items):
                found += [text for pair in items for text in pair]
    return found


@pytest.mark.parametrize("code", languages())
@pytest.mark.parametrize("count", [0, 1, 3])
@pytest.mark.parametrize("kind", list(SectionKind))
def test_a_section_is_drawn_whatever_there_is(kind: SectionKind, count: int, code: str) -> None:
    blocks = list(SECTIONS[kind].blocks(facts(kind, count), told(code)))
    for text in texts(blocks):
        assert "{" not in text and "None" not in text, text
    tables = [block for block in blocks if isinstance(block, Table)]
    assert all(len(row) == len(table.columns) for table in tables for row in table.rows)
    assert all(table.rows for table in tables), "a table without rows is a sentence"


@pytest.mark.parametrize("kind", list(SectionKind))
def test_german_leaves_nothing_of_ours_in_english(kind: SectionKind) -> None:
    """What both languages say alike is a figure, a name, or a word that both have."""
    english, german = (texts(list(SECTIONS[kind].blocks(facts(kind, 3), told(code)))) for code in ("en", "de"))
    shared = {"Audit", "Impression", "Median", "Conversion", "Sitemap", "robots.txt", "Links", "Position", "Rope", "x"}
    alike = {text for text in set(english) & set(german) if text not in shared and ".example" not in text}
    assert {text for text in alike if re.search(r"[a-z]{3}", text)} == set()


def test_every_kind_of_event_has_words() -> None:
    assert set(WORDS) == set(EventKind)


HEALTH = "The health of rope.example is 81.2 of 100, where 100 means that we find nothing to fix."
PLAIN = MonthFacts(health=81.25, audits=2, compared=False, limit=7)


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({}, [HEALTH]),
        ({"health": None}, []),
        ({"audits": 0}, ["No audit ran in these days; at the last one before, the health of rope.example was 81.2 of 100."]),
        ({"health_before": 81.25, "before_day": "2026-11-03"}, ["The health of rope.example is 81.2 of 100, as it was on 3 November 2026; 100 means that we find nothing to fix."]),
        ({"health_before": 80.0, "before_day": "2026-11-03"}, ["The health of rope.example rose by 1.2 points to 81.2 of 100 since 3 November 2026; 100 means that we find nothing to fix."]),
        ({"health_before": 90.0, "before_day": "2026-11-03"}, ["The health of rope.example fell by 8.8 points to 81.2 of 100 since 3 November 2026; 100 means that we find nothing to fix."]),
        ({"compared": True}, [HEALTH, "No fault was fixed, and none appeared."]),
        ({"compared": True, "fixed": 1, "new": 1}, [HEALTH, "One fault was fixed, and one new fault appeared."]),
        ({"compared": True, "fixed": 2, "new": 1200}, [HEALTH, "2 faults were fixed, and 1,200 new faults appeared."]),
        ({"compared": True, "new": 1}, [HEALTH, "No fault was fixed, and one new fault appeared."]),
        ({"done": 1}, [HEALTH, "We completed one task, and a fresh audit confirmed that the fault is gone."]),
        ({"done": 2}, [HEALTH, "We completed 2 tasks, and a fresh audit confirmed that the faults are gone."]),
        ({"clicks": 1}, [HEALTH, "One visitor came from a search engine in 4 weeks."]),
        ({"clicks": 420, "clicks_before": 320}, [HEALTH, "420 visitors came from search engines in 4 weeks, 31 % more than in the weeks before."]),
        ({"clicks": 320, "clicks_before": 420}, [HEALTH, "320 visitors came from search engines in 4 weeks, 24 % fewer than in the weeks before."]),
        ({"clicks": 320, "clicks_before": 320}, [HEALTH, "320 visitors came from search engines in 4 weeks, as many as in the weeks before."]),
        ({"hand": 1, "hand_dated": 1}, [HEALTH, "One task is in hand, with a due date."]),
        ({"hand": 3, "hand_dated": 1}, [HEALTH, "3 tasks are in hand, 1 of them with a due date."]),
        ({"hand": 3}, [HEALTH, "3 tasks are in hand, without due dates yet."]),
        ({"lead": 1, "trail": 0, "competitors": 1}, [HEALTH, "Against its competitor, the site leads on one measure and trails on none."]),
        ({"lead": 0, "trail": 4, "competitors": 3}, [HEALTH, "Against its competitors, the site leads on no measure and trails on 4."]),
        ({"lead": 0, "trail": 0, "competitors": 2}, [HEALTH, "No measure sets the site apart from its competitors."]),
        ({"keywords_up": 1, "keywords_down": 0}, [HEALTH, "In search results, one keyword climbed and none slipped."]),
        ({"keywords_up": 0, "keywords_down": 2}, [HEALTH, "In search results, no keyword climbed and 2 slipped."]),
        ({"done": 1, "hand": 1, "clicks": 5, "limit": 2}, [HEALTH, "We completed one task, and a fresh audit confirmed that the fault is gone."]),
    ],
)  # fmt: skip
def test_the_month_in_sentences(changes: dict[str, Any], said: list[str]) -> None:
    assert sentences(replace(PLAIN, **changes), told()) == said


def test_a_to_do_that_is_called_like_its_check_is_told_in_the_language() -> None:
    item = {"title": "Title missing: /shop", "check": "title-missing", "named": "Title missing"}
    (table,) = SECTIONS[SectionKind.HAND].blocks({"items": [item, {**item, "title": "Ring them"}]}, told("de"))
    assert isinstance(table, Table)
    assert [row[0].text for row in table.rows] == ["Titel fehlt: /shop", "Ring them"]


def test_with_many_competitors_the_best_is_named() -> None:
    table = next(
        b for b in SECTIONS[SectionKind.BENCHMARK].blocks(facts(SectionKind.BENCHMARK, 6), told()) if isinstance(b, Table)
    )
    assert [column.head for column in table.columns] == ["Measure", "", "You", "Best of the others", "Rank"]
    assert [(row[3].text, row[3].under, row[4].text) for row in table.rows] == [
        ("80.0", "rival-0.example", "1 of 7"),
        ("19.5 KiB", "rival-0.example", "2 of 7"),
    ]


def test_a_position_that_was_found_is_told_apart_from_one_that_was_not() -> None:
    table = next(
        b for b in SECTIONS[SectionKind.POSITIONS].blocks(facts(SectionKind.POSITIONS, 1), told()) if isinstance(b, Table)
    )
    assert [[cell.text for cell in row[1:]] for row in table.rows] == [
        ["2", "5", "+3", "1"],
        ["not found", "not found", "–", "not found"],
    ]


def test_sections_with_nothing_to_tell_are_left_out() -> None:
    shown = [section.kind for section in report(0).sections]
    always = {
        SectionKind.HEALTH,
        SectionKind.DONE,
        SectionKind.HAND,
        SectionKind.NEXT,
        SectionKind.APPENDIX,
        SectionKind.GLOSSARY,
        SectionKind.MONTH,
        SectionKind.HAPPENED,
    }
    assert set(shown) == always
