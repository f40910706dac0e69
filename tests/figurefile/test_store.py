"""Files of figures: begun, added to by one at a time, and those that are none."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from datetime import UTC, date, datetime
from pathlib import Path

import pytest

from hodcarrier.core.errors import Unavailable
from hodcarrier.core.figures.kinds import FIELDS
from hodcarrier.core.figures.tables import Value
from hodcarrier.core.states import FigureKind
from hodcarrier.figurefile.reading import chosen, kept
from hodcarrier.figurefile.schema import KEPT, columns_of, grain_of, keys_of
from hodcarrier.figurefile.store import FigureStore
from hodcarrier.figurefile.writer import Merged, merge

NOW = datetime(2026, 12, 1, tzinfo=UTC)
DAY = date(2026, 11, 30)


def row(**given: Value) -> tuple[Value, ...]:
    return tuple(given.get(each.name) for each in FIELDS[FigureKind.SEARCH])


@pytest.fixture
def store(tmp_path: Path) -> FigureStore:
    return FigureStore(tmp_path / "figures")


def test_what_breaks_off_leaves_nothing_and_others_go_on(store: FigureStore) -> None:
    with pytest.raises(RuntimeError), store.write(1) as db:
        merge(db, FigureKind.SEARCH, [row(day=DAY, clicks=1, impressions=2)], NOW, "x")
        raise RuntimeError("the machine stops")
    with store.read(1) as db:
        assert db is None, "there is a file, and nothing in it"
    with store.write(1) as db:
        assert merge(db, FigureKind.SEARCH, [row(day=DAY, clicks=1, impressions=2)], NOW, "x") == Merged(new=1)
        with store.read(1) as before:
            assert before is None, "who reads meanwhile sees what was"
    with store.read(1) as db:
        assert db is not None and [(each.kind, each.rows, each.sources) for each in kept(db)] == [(FigureKind.SEARCH, 1, ["x"])]
    assert store.sites() == [1]


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"no database at all" * 100, "damaged"),
        ("CREATE TABLE t (x)", "no file of figures"),
        ("PRAGMA user_version = 9", "no file of figures"),
    ],
)
def test_files_that_are_none_of_ours_are_told(store: FigureStore, content: bytes | str, said: str) -> None:
    store.folder.mkdir()
    if isinstance(content, bytes):
        store.path(1).write_bytes(content)
    else:
        with closing(sqlite3.connect(store.path(1))) as db:
            db.execute(content)
    with pytest.raises(Unavailable, match=said), store.read(1):
        pass
    with pytest.raises(Unavailable), store.write(1):
        pass


def test_a_file_of_a_later_release_is_left_alone(store: FigureStore) -> None:
    with store.write(1):
        pass
    with closing(sqlite3.connect(store.path(1))) as db:
        db.execute("PRAGMA user_version = 9")
    with pytest.raises(Unavailable, match="later release"), store.read(1):
        pass


def test_of_each_day_the_rows_answer_that_say_it_shortest(store: FigureStore) -> None:
    rows = [
        row(day=DAY, clicks=9, impressions=90), row(day=DAY, query="rope", clicks=4, impressions=40), row(day=DAY, page="/", query="rope", clicks=4, impressions=40),
        row(day=date(2026, 11, 29), page="/", query="rope", device="phone", clicks=1, impressions=2),
    ]  # fmt: skip
    with store.write(1) as db:
        merge(db, FigureKind.SEARCH, rows, NOW, "x")
        grains = {}
        for needed in ([], ["query"], ["page"], ["device"], ["country"]):
            with chosen(db, FigureKind.SEARCH, needed, date(2026, 11, 1), DAY):
                grains[tuple(needed)] = [grain for _, grain in db.execute("SELECT day, grain FROM temp.chosen ORDER BY day DESC")]
    both, all_three = grain_of(FigureKind.SEARCH, "page", "query"), grain_of(FigureKind.SEARCH, "page", "query", "device")
    assert grains == {
        (): [0, all_three],
        ("query",): [grain_of(FigureKind.SEARCH, "query"), all_three],
        ("page",): [both, all_three],
        ("device",): [all_three],
        ("country",): [],
    }


def test_tables_have_the_columns_of_their_fields() -> None:
    for kind in KEPT:
        names = {each.name for each in FIELDS[kind]}
        assert names <= set(columns_of(kind)) and set(keys_of(kind)) <= set(columns_of(kind))
        assert columns_of(kind)[: len(keys_of(kind))] == keys_of(kind), "keys stand first"
