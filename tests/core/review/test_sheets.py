"""Review sheets: items and their keys, what is known beforehand, how fillings differ, and tables."""

from __future__ import annotations

import csv
import io
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core import catalogue
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.figures.series import followed
from hodcarrier.core.review.sheets import (
    ITEMS_MAX,
    Answer,
    Checked,
    Figured,
    Item,
    Section,
    counted,
    difference,
    items_of,
    known_answer,
    sheet_sentence,
    with_keys,
)
from hodcarrier.core.review.shipped import SHIPPED
from hodcarrier.core.review.tables import SHEET_FIELDS, TEMPLATE_FIELDS, read_answers, read_template, sheet_rows, template_rows
from hodcarrier.core.states import CheckOutcome, SheetAsks, SheetDifference, SheetOutcome

DAY = date(2026, 12, 1)
PASSED, RECOMMENDED, APART, OPEN = SheetOutcome.PASSED, SheetOutcome.RECOMMENDED, SheetOutcome.NOT_APPLICABLE, SheetOutcome.OPEN
TEXTS = st.text(st.characters(exclude_categories=["Cs", "Cc"]), min_size=1, max_size=40).filter(lambda text: text.strip())
ITEMS = st.lists(TEXTS.map(Item), min_size=1, max_size=12)


def table_of(rows: object, fields: tuple[str, ...]) -> str:
    out = io.StringIO()
    writer = csv.DictWriter(out, fields)
    writer.writeheader()
    writer.writerows(rows)  # type: ignore[arg-type]
    return out.getvalue()


@given(items=ITEMS)
def test_every_item_has_a_key_of_its_own(items: list[Item]) -> None:
    keys = [item.key for item in items_of(with_keys([Section("", items)]))]
    assert all(keys) and len(set(keys)) == len(items)
    assert all(len(key) <= 60 for key in keys)


def test_keys_are_made_from_words_and_given_ones_stay() -> None:
    sections = [
        Section("A", [Item("Prices can be found!"), Item("Prices, can be found"), Item("!", key=""), Item("x", key="own")])
    ]
    assert [item.key for item in items_of(with_keys(sections))] == ["prices-can-be-found", "prices-can-be-found-2", "item", "own"]
    with pytest.raises(InvalidInput, match="have the key “own”"):
        with_keys([Section("", [Item("x", key="own"), Item("y", key="own")])])
    with pytest.raises(InvalidInput, match="no item"):
        with_keys([Section("Empty", [])])
    with pytest.raises(InvalidInput, match="301 items"):
        with_keys([Section("", [Item(f"{n}") for n in range(ITEMS_MAX + 1)])])


def test_templates_that_ship_are_whole_and_name_what_there_is() -> None:
    assert len(SHIPPED) == 3
    known = catalogue.load()
    for template in SHIPPED.values():
        items = items_of(template.sections)
        assert template.note and len(items) > 12
        for item in items:
            kind, _, name = item.known_by.partition(".")
            assert not kind or (name in known if kind == "check" else followed(name)), item
            assert item.asks == SheetAsks.OUTCOME or item.unit


@pytest.mark.parametrize(
    "outcome, answer",
    [
        (CheckOutcome.PASSED, Answer(PASSED, source="audit of 1 December 2026")),
        (CheckOutcome.NOT_APPLICABLE, Answer(APART, source="audit of 1 December 2026")),
        (CheckOutcome.FAILING, Answer(RECOMMENDED, note="3 of 40 places that were examined", source="audit of 1 December 2026")),
        (CheckOutcome.UNVERIFIED, None),
        (CheckOutcome.WAIVED, None),
        (CheckOutcome.OFF, None),
    ],
)
def test_what_an_audit_knows_is_filled_in_and_nothing_else(outcome: CheckOutcome, answer: Answer | None) -> None:
    item = Item("Titles are there", known_by="check.title-missing")
    assert known_answer(item, {"title-missing": Checked(outcome, 3, 40, DAY)}, {}) == answer
    assert known_answer(item, {}, {}) is None
    assert known_answer(Item("By eye"), {"": Checked(CheckOutcome.PASSED, 0, 1, DAY)}, {}) is None


def test_what_a_figure_knows_is_a_number() -> None:
    item = Item("Reviews", asks=SheetAsks.NUMBER, known_by="figure.site.Reviews")
    assert known_answer(item, {}, {"site.Reviews": Figured(41, DAY)}) == Answer(number=41, source="figure of 1 December 2026")
    assert known_answer(Item("Reviews", known_by="figure.site.Reviews"), {}, {"site.Reviews": Figured(41, DAY)}) is None


@pytest.mark.parametrize(
    "before, now, told",
    [
        (None, Answer(PASSED), SheetDifference.FIRST),
        (Answer(), Answer(PASSED), SheetDifference.FIRST),
        (Answer(PASSED), Answer(), SheetDifference.FIRST),
        (Answer(PASSED), Answer(PASSED, note="other words"), SheetDifference.SAME),
        (Answer(RECOMMENDED), Answer(PASSED), SheetDifference.BETTER),
        (Answer(PASSED), Answer(RECOMMENDED), SheetDifference.WORSE),
        (Answer(PASSED), Answer(APART), SheetDifference.OTHER),
        (Answer(number=3), Answer(number=4), SheetDifference.OTHER),
        (Answer(number=3), Answer(number=3), SheetDifference.SAME),
    ],
)
def test_fillings_are_compared(before: Answer | None, now: Answer, told: SheetDifference) -> None:
    assert difference(before, now) == told


@given(outcomes=st.lists(st.sampled_from(SheetOutcome), min_size=1, max_size=20))
def test_counts_add_up_to_the_items(outcomes: list[SheetOutcome]) -> None:
    sections = with_keys([Section("", [Item(f"Item {n}") for n in range(len(outcomes))])])
    answers = {item.key: Answer(outcome) for item, outcome in zip(items_of(sections), outcomes, strict=True)}
    counts = counted(sections, answers)
    assert sum(counts.values()) == len(outcomes)
    assert all(counts[outcome] == outcomes.count(outcome) for outcome in SheetOutcome)


def test_how_far_a_sheet_is_is_said() -> None:
    sections = with_keys([Section("", [Item("a"), Item("b"), Item("c", asks=SheetAsks.NUMBER)])])
    assert sheet_sentence(counted(sections, {"a": Answer(RECOMMENDED), "c": Answer(number=0)})) == (
        "2 of 3 items looked at: 1 in order, a change recommended for 1."
    )
    whole = {"a": Answer(APART), "b": Answer(PASSED), "c": Answer(number=1)}
    assert sheet_sentence(counted(sections, whole)).startswith("All 3 items looked at: 2 in order,")
    assert sheet_sentence(counted(sections, whole)).endswith("1 not applicable.")


def test_a_template_survives_its_table() -> None:
    for template in SHIPPED.values():
        assert read_template(table_of(template_rows(template.sections), TEMPLATE_FIELDS)) == list(template.sections)


def test_a_table_is_read_as_people_write_it() -> None:
    text = "\ufeffSection;Item;Asks;Known by\r\nShop;Prices can be found;;\r\n;Basket keeps;;\r\n\r\nNumbers;Reviews;number;figure.site.Reviews\r\n"
    found = read_template(text)
    assert [(section.title, len(section.items)) for section in found] == [("Shop", 2), ("Numbers", 1)]
    assert found[1].items[0] == Item("Reviews", asks=SheetAsks.NUMBER, known_by="figure.site.Reviews")


@pytest.mark.parametrize(
    "text, words",
    [
        ("", "no column “item”"),
        ("what\nx", "no column “item”"),
        ("item,asks\nx,colour", "Row 2: “colour” is nothing to ask for"),
        ("item,how\n,Look", "Row 2 names no item"),
    ],
)
def test_a_table_that_is_no_template_says_why(text: str, words: str) -> None:
    with pytest.raises(InvalidInput, match=words):
        read_template(text)


def test_a_sheet_survives_its_table() -> None:
    sections = with_keys([Section("S", [Item("a"), Item("b"), Item("c", asks=SheetAsks.NUMBER, unit="stars")])])
    answers = {"a": Answer(RECOMMENDED, note='Says "now",\nnothing more'), "c": Answer(number=4.5)}
    assert read_answers(table_of(sheet_rows(sections, answers), SHEET_FIELDS), sections) == answers


@pytest.mark.parametrize(
    "text, words",
    [
        ("item\na", "no column “key”"),
        ("key,outcome\nz,passed", "Row 2: the sheet has no item “z”"),
        ("key,outcome\na,fine", "Row 2: “fine” is no outcome"),
        ("key,number\na,4;5", "no number"),
    ],
)
def test_a_table_that_fills_nothing_in_says_why(text: str, words: str) -> None:
    with pytest.raises(InvalidInput, match=words):
        read_answers(text, [Section("", [Item("a", key="a")])])
