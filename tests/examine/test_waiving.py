"""Waivers applied to an examined run: the file is the one that an examination with those waivers would have written."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hodcarrier.core.catalogue import Sample, doc, page
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.examine.waiving import apply_waivers
from hodcarrier.runfile.reader import RunFile
from tests.examine.test_summary import SITE
from tests.sample_site import audit

# Pages that share a heavy image, so that a fault of a file counts on several; and what the site as a whole fails.
HEAVY = Sample("/heavy.png", b"\x89PNG" + b"0" * 900_000, 200, (("content-type", "image/png"),))
USING = tuple(page(doc(f'<h1>{n}</h1><img src="/heavy.png" alt="Rope"><a href="/gone">x</a>'), f"/use{n}") for n in range(3))
ANSWERS = (*SITE, *USING, HEAVY)
TABLES = ("finding", "cause", "check_state", "inventory", "unverified", "earlier", "inlink")


@pytest.fixture(scope="module")
def examined() -> RunFile:
    run, _ = audit(ANSWERS)
    return run


def copied(run: RunFile) -> sqlite3.Connection:
    db = sqlite3.connect(":memory:")
    run.db.commit()
    run.db.backup(db)
    return db


def content(db: sqlite3.Connection) -> dict[str, list[tuple[Any, ...]]]:
    """What a run says of its findings, with floats as they are shown, since sums may be taken in another order."""
    found = {table: db.execute(f"SELECT * FROM {table}").fetchall() for table in TABLES}
    said = json.loads(db.execute("SELECT value FROM meta WHERE key = 'summary'").fetchone()[0])
    return {
        **{table: [rounded(row) for row in sorted(rows, key=repr)] for table, rows in found.items()},
        "summary": rounded(said),
    }


def rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, 9)
    if isinstance(value, dict):
        return {key: rounded(item) for key, item in value.items()}
    return type(value)(map(rounded, value)) if isinstance(value, list | tuple) else value


def every_scope(run: RunFile) -> list[Waiver]:
    waivers = []
    for check, subject, fingerprint in run.rows("SELECT check_id, subject, fingerprint FROM finding"):
        waivers += [Waiver(check, fingerprint=fingerprint.hex()), Waiver(check)]
        if subject != "site":
            waivers += [Waiver(check, subject), Waiver(check, "/use*")]
    return list(dict.fromkeys(waivers))


@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.data())
def test_it_is_as_if_examined_with_them(examined: RunFile, data: st.DataObject) -> None:
    chosen = st.lists(st.sampled_from(every_scope(examined)), max_size=6)
    db = copied(examined)
    for waivers in (data.draw(chosen, "first"), data.draw(chosen, "then")):
        apply_waivers(db, waivers)
    expected, _ = audit(ANSWERS, waivers=waivers)
    assert content(db) == content(copied(expected))
    db.close()


def test_every_kind_of_subject_is_waived(examined: RunFile) -> None:
    kinds = {kind for (kind,) in examined.rows("SELECT DISTINCT subject FROM check_state WHERE findings > 0")}
    assert kinds == {"page", "file", "site", "group"}, "the sample site has findings on all of them"
    before = content(copied(examined))
    db = copied(examined)
    summary = apply_waivers(db, [Waiver(check) for (check,) in examined.rows("SELECT id FROM check_state")])
    assert summary is not None and summary.health == 100 and summary.findings == 0 < summary.waived
    assert apply_waivers(db, []) is not None and content(db) == before
    db.close()


@pytest.mark.parametrize("waivers", [[], [Waiver("no-such-check")], [Waiver("link-broken", "/nowhere/*")]])
def test_nothing_is_written_where_nothing_differs(examined: RunFile, waivers: Sequence[Waiver]) -> None:
    db = copied(examined)
    assert apply_waivers(db, waivers) is None
    assert db.execute("SELECT count(*) FROM meta WHERE key = 'revision'").fetchone() == (0,)
    db.close()
