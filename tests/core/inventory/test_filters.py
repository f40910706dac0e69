"""The language of filters: what is written is read, what is read is written, and what cannot be read says where."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.inventory.filters import (
    CONDITIONS_MAX,
    EVERYTHING,
    OPERATORS,
    AllOf,
    AnyOf,
    Condition,
    Filter,
    Not,
    read_filter,
    read_parameter,
    write_filter,
)
from hodcarrier.core.inventory.views import DEFAULT_COLUMNS, VIEWS
from hodcarrier.core.states import ColumnKind, InventoryKind, Operator

PAGES = COLUMNS[InventoryKind.PAGE]
THIN = Condition("words", Operator.LESS, (200.0,))
NAMELESS = Condition("title", Operator.EMPTY)
GONE = Condition("status", Operator.IS, (404.0,))
OPEN = Condition("indexable", Operator.IS, (True,))


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("", EVERYTHING),
        ("  ", EVERYTHING),
        ("status = 404", GONE),
        ("STATUS = 404", None),
        ("status=404", GONE),
        ("indexable", OPEN),
        ("not indexable", Not(OPEN)),
        ("indexable = no", Condition("indexable", Operator.IS, (False,))),
        ("title is empty", NAMELESS),
        ("title IS NOT EMPTY", Not(NAMELESS)),
        ("status = 404 and words < 200 or title is empty", AnyOf((AllOf((GONE, THIN)), NAMELESS))),
        ("status = 404 and (words < 200 or title is empty)", AllOf((GONE, AnyOf((THIN, NAMELESS))))),
        ("not (words < 200)", Not(THIN)),
        ("depth between 3 and 6 and indexable", AllOf((Condition("depth", Operator.BETWEEN, (3.0, 6.0)), OPEN))),
        ("status in (404, 410)", Condition("status", Operator.IN, (404.0, 410.0))),
        ('title not in ("a b", c)', Not(Condition("title", Operator.IN, ("a b", "c")))),
        ('url contains "/shop/"', Condition("url", Operator.CONTAINS, ("/shop/",))),
        ("url not contains shop", Not(Condition("url", Operator.CONTAINS, ("shop",)))),
        (r'title starts with "say \"hi\""', Condition("title", Operator.STARTS, ('say "hi"',))),
        ('h1 matches "^[0-9]+$"', Condition("h1", Operator.MATCHES, ("^[0-9]+$",))),
        ("decoded_bytes >= 1.5 MiB", Condition("decoded_bytes", Operator.LEAST, (1_572_864.0,))),
        ("decoded_bytes > 200KB", Condition("decoded_bytes", Operator.MORE, (200_000.0,))),
        ("first_byte_ms > 0.5 s", Condition("first_byte_ms", Operator.MORE, (500.0,))),
        ("fresh_s < 2 d", Condition("fresh_s", Operator.LESS, (172_800.0,))),
        ("last_modified <= 2026-01-31", Condition("last_modified", Operator.MOST, ("2026-01-31",))),
        ("state = disallowed", Condition("state", Operator.IS, ("disallowed",))),
    ],
)
def test_what_is_written_is_read(text: str, found: Filter | None) -> None:
    if found is None:
        with pytest.raises(InvalidInput, match="no column"):
            read_filter(text, PAGES)
    else:
        assert read_filter(text, PAGES) == found


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("status = ", "cannot be read"),
        ("words << 3", "cannot be read at “< 3”"),
        ("status = 404 and", "cannot be read"),
        ("(status = 404", "cannot be read"),
        ("colour = red", "no column “colour”"),
        ("title < 3", "cannot be compared by “<”"),
        ("indexable contains x", "cannot be compared"),
        ("status = many", "“many” is not a number"),
        ("status = nan", "not a number"),
        ("words < 200 KiB", "not a number"),
        ("indexable = perhaps", "is yes or no"),
        ("last_modified > 2026-02-30", "not a day"),
        ('h1 matches "("', "not a regular expression"),
        (r'h1 matches "(?=a)"', "not a regular expression"),
        ("state = asleep", "is never “asleep”"),
        ("status", "is not a number"),
        ("words > 1 or " * CONDITIONS_MAX + "words > 1", "more than 50 conditions"),
        ('url contains "' + "x" * 2_000 + '"', "more than 2,000 characters"),
    ],
)
def test_what_cannot_be_read_says_why(text: str, words: str) -> None:
    with pytest.raises(InvalidInput, match="(?i)" + words.replace("(", r"\(")) as refused:
        read_filter(text, PAGES)
    assert refused.value.hint and refused.value.field == "where"


TEXTS = st.text(st.characters(exclude_categories=("Cs",), exclude_characters="\x00"), max_size=12)
VALUES = {
    ColumnKind.TEXT: TEXTS,
    ColumnKind.NUMBER: st.floats(-1e9, 1e9, allow_nan=False).map(lambda x: round(x, 3)),
    ColumnKind.DAY: st.dates().map(lambda day: day.isoformat()),
    ColumnKind.FLAG: st.booleans(),
}
COUNT = {Operator.EMPTY: 0, Operator.BETWEEN: 2, Operator.IN: 3}


@st.composite
def conditions(draw: st.DrawFn) -> Condition:
    """A condition that can be: on a column without a closed set of values, and no pattern."""
    column = draw(st.sampled_from([column for column in PAGES.values() if not column.choices]))
    operator = draw(st.sampled_from([op for op in OPERATORS[column.kind] if op != Operator.MATCHES]))
    values = draw(st.lists(VALUES[column.kind], min_size=COUNT.get(operator, 1), max_size=COUNT.get(operator, 1)))
    return Condition(column.name, operator, tuple(values))


def several(parts: st.SearchStrategy[Filter]) -> st.SearchStrategy[Filter]:
    lists = st.lists(parts, min_size=2, max_size=3).map(tuple)
    return lists.map(AllOf) | lists.map(AnyOf) | parts.map(Not)


@given(st.recursive(conditions(), several, max_leaves=8))
def test_a_filter_that_is_written_out_is_read_as_it_was(found: Filter) -> None:
    assert read_filter(write_filter(found), PAGES) == found


@pytest.mark.parametrize(
    ("parameter", "text"),
    [
        (("status", "", "404"), "status = 404"),
        (("words", "lt", "200"), "words < 200"),
        (("words", "ge", "200"), "words >= 200"),
        (("title", "has", "rope"), 'title contains "rope"'),
        (("title", "not", "rope"), 'title != "rope"'),
        (("title", "", ""), "title is empty"),
        (("title", "not", ""), "title is not empty"),
    ],
)
def test_a_parameter_is_short_for_a_condition(parameter: tuple[str, str, str], text: str) -> None:
    assert read_parameter(*parameter, PAGES) == read_filter(text, PAGES)
    with pytest.raises(InvalidInput, match="no operator “near”"):
        read_parameter("words", "near", "3", PAGES)


@pytest.mark.parametrize("view", VIEWS, ids=lambda view: f"{view.of} {view.name}")
def test_views_that_ship_can_be_read(view: object) -> None:
    columns = COLUMNS[view.of]  # type: ignore[attr-defined]
    assert read_filter(view.where, columns) != EVERYTHING  # type: ignore[attr-defined]
    assert set(view.columns) <= set(columns) and view.sort.removeprefix("-") in {"", *columns}  # type: ignore[attr-defined]


def test_columns_are_named_once_and_there_are_sixty_at_least() -> None:
    assert len(PAGES) >= 60
    for role, columns in COLUMNS.items():
        labels = [column.label for column in columns.values()]
        assert len(set(labels)) == len(labels), "the table tells columns apart by their heads"
        assert set(DEFAULT_COLUMNS[role]) <= set(columns)
        assert all(tuple(sorted(column.steps)) == column.steps for column in columns.values())
