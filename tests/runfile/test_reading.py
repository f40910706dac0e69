"""Lists of a run are read along indexes, a part at a time: together the parts are the whole list, and nothing reads a whole table."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

import pytest

from hodcarrier.core.catalogue import doc, gone, moved, page
from hodcarrier.core.errors import InvalidInput
from hodcarrier.core.inventory.columns import COLUMNS
from hodcarrier.core.judge.waivers import Waiver
from hodcarrier.core.states import ColumnKind, InventoryKind
from hodcarrier.runfile import results, schema
from hodcarrier.runfile.causes import causes as causes_in
from hodcarrier.runfile.listing import ListPart
from hodcarrier.runfile.reader import RunFile
from tests.listing import listed
from tests.sample_site import ORIGIN, audit

LINKS = "".join(f'<a href="/{name}">{name}</a>' for name in (*"abcdefgh", "gone", "lost", "old"))
SITE = (
    page(doc(LINKS, "<title>Home</title>")),
    *(
        page(
            doc(f"<h1>{n % 3}</h1>{LINKS}<img src=/i{n}.png><p>{'word ' * (n // 2)}", f"<title>Title {n % 4}</title>"), f"/{name}"
        )
        for n, name in enumerate("abcdefgh")
    ),
    gone("/gone"),
    gone("/lost"),
    moved("/old", "/a"),
)
RUN_SIZED = ("inventory", "finding", "cause", "address", "answer", "page", "earlier", "inlink", "listed", "unverified")
FILTERS = [
    [],
    [("words", "lt", "3")],
    [("status", "", "200"), ("words", "ge", "1")],
    [("status", "not", "404"), ("title", "has", "title"), ("depth", "le", "1")],
    [("description", "", "")],
    [("title", "not", "")],
    [("words", "", "")],
    [("state", "", "done"), ("h1", "", "1")],
]


@pytest.fixture(scope="module")
def run() -> RunFile:
    """A run with waived findings, a run before it and all indexes."""
    base, _ = audit(SITE[:6])
    waiver = Waiver("media-alt-missing", "/a")
    found, _ = audit(SITE, base=base, waivers=[waiver])
    found.db.executescript(schema.INDEXES)
    return found


@pytest.fixture
def plans(run: RunFile, monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """What SQLite says of every statement that is carried out."""
    said: list[str] = []
    rows, each = RunFile.rows, RunFile.each

    def noting(way: Callable[..., Any]) -> Callable[..., Any]:
        def carried_out(self: RunFile, sql: str, *values: Any) -> Any:
            told = self.db.execute(f"EXPLAIN QUERY PLAN {sql}", values).fetchall()
            said.extend(f"{detail} | {sql}" for *_, detail in told)
            return way(self, sql, *values)

        return carried_out

    monkeypatch.setattr(RunFile, "rows", noting(rows))
    monkeypatch.setattr(RunFile, "each", noting(each))
    return said


def whole_reads(plans: list[str]) -> list[str]:
    """Steps that go through a table whose size is that of the run, without a bound."""
    found = []
    for step in plans:
        scanned = re.match(rf"SCAN ({'|'.join(RUN_SIZED)})\b", step)
        if scanned and not ("USING INDEX" in step and step.endswith("LIMIT ?")):
            found.append(step)
    return found


def everything(run: RunFile, part_of: Callable[[int], ListPart]) -> list[dict[str, Any]]:
    rows, after = [], 0
    while True:
        part = part_of(after)
        rows += part.rows
        if part.after is None:
            assert part.total == len(rows)
            return rows
        after = part.after


@pytest.mark.parametrize("filters", FILTERS, ids=str)
@pytest.mark.parametrize("column", COLUMNS[InventoryKind.PAGE])
def test_the_parts_are_the_whole_list_in_order(run: RunFile, column: str, filters: list[tuple[str, str, str]]) -> None:
    whole = listed(run, filters, column, 1_000).rows
    chosen = {row["id"] for row in whole}
    assert chosen == {row["id"] for row in listed(run, limit=1_000).rows if passes(row, filters)}
    rows = everything(run, lambda after: listed(run, filters, column, 2, after))
    assert rows == whole
    values = [row[column] for row in rows]
    there = [value for value in values if value not in (None, "")]
    assert there == sorted(there) and all(value in (None, "") for value in values[len(there) :])
    back = everything(run, lambda after: listed(run, filters, "-" + column, 2, after))
    kept = [row["id"] for row in rows if row[column] not in (None, "")]
    assert [row["id"] for row in back][: len(kept)] == kept[::-1] and len(back) == len(rows)


def passes(row: dict[str, Any], filters: list[tuple[str, str, str]]) -> bool:
    """What the filters say, without SQL."""

    def one(name: str, operator: str, value: str) -> bool:
        there = row[name]
        if operator == "has":
            return there is not None and value.lower() in there.lower()
        if value == "" and operator in ("", "not"):
            return bool((there in (None, "")) == (operator == ""))
        wanted = value if COLUMNS[InventoryKind.PAGE][name].kind == ColumnKind.TEXT else float(value)
        if operator == "not":
            return bool(there != wanted)
        if there is None:
            return False
        return bool({"": there == wanted, "lt": there < wanted, "le": there <= wanted, "ge": there >= wanted}[operator])

    return all(one(*chosen) for chosen in filters)


def test_a_place_that_is_not_in_the_list_is_refused(run: RunFile) -> None:
    with pytest.raises(InvalidInput):
        listed(run, after=99_999)
    with pytest.raises(InvalidInput):
        causes_in(run, after=99_999)


@pytest.mark.parametrize("check", ["", "media-alt-missing", "link-broken"])
def test_causes_come_in_parts(run: RunFile, check: str) -> None:
    whole = causes_in(run, check, 1_000)
    assert [c["id"] for c in whole] == [c["id"] for c in sorted(whole, key=lambda c: (-c["gain"], -c["findings"], c["id"]))]
    rows: list[dict[str, Any]] = []
    while part := causes_in(run, check, 2, rows[-1]["id"] if rows else 0):
        rows += part
    assert rows == whole and all(row["since"] for row in rows)


@pytest.mark.parametrize("waived", [None, False, True])
@pytest.mark.parametrize("severity", ["", "high", "medium"])
@pytest.mark.parametrize("check", ["", "media-alt-missing", "link-broken"])
@pytest.mark.parametrize("by_cause", [False, True])
def test_findings_come_in_parts_and_are_counted(
    run: RunFile, waived: bool | None, severity: str, check: str, by_cause: bool
) -> None:
    every = results.findings(run, waived=None)
    cause = next(f["cause"] for f in every if f["check"] == (check or "link-broken")) if by_cause else None
    filters = {"check_id": check, "severity": severity, "cause": cause, "waived": waived}
    expected = [
        f
        for f in every
        if (waived is None or f["waived"] == waived)
        and (not severity or f["severity"] == severity)
        and (not check or f["check"] == check)
        and (cause is None or f["cause"] == cause)
    ]
    rows: list[dict[str, Any]] = []
    while part := results.findings(run, limit=2, after=rows[-1]["id"] if rows else 0, **filters):
        rows += part
    assert rows == expected and results.count_findings(run, **filters) == len(expected)


def test_no_list_reads_a_whole_table(run: RunFile, plans: list[str]) -> None:
    first = results.findings(run, waived=None)
    plans.clear()
    for filters in FILTERS:
        listed(run, filters)
        listed(run, filters[:1] if filters == FILTERS[2] else (), role="file")
    for check in ("", "link-broken"):
        for severity in ("", "high"):
            for cause in (None, first[0]["cause"]):
                for waived in (None, False, True):
                    results.findings(run, check_id=check, severity=severity, cause=cause, waived=waived, limit=2, after=1)
                    results.count_findings(run, check_id=check, severity=severity, cause=cause, waived=waived)
        for after in (0, causes_in(run, check)[0]["id"]):
            causes_in(run, check, 2, after)
    results.checks(run)
    results.check(run, "link-broken")
    results.findings_by_print(run, [bytes.fromhex(f["fingerprint"]) for f in first[:3]])
    results.causes_of(run, [bytes.fromhex(f["fingerprint"]) for f in first[:3]])
    results.worth_doing_first(run)
    for path in ("/", "/a", "/gone", "/old"):
        results.page(run, ORIGIN + path)
    assert len(plans) > 500
    assert not whole_reads(plans)


def test_the_watch_over_plans_notices_a_whole_read(run: RunFile, plans: list[str]) -> None:
    run.rows("SELECT count(*) FROM finding WHERE place = 'x'")
    run.rows("SELECT id FROM inventory ORDER BY canonical LIMIT ?", 3)
    assert len(whole_reads(plans)) == 2
