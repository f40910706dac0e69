"""Comparisons are kept: they say what comparing says, a part at a time, and are made again when they cannot be used."""

from __future__ import annotations

import sqlite3
from datetime import timedelta
from pathlib import Path

import pytest

from hodcarrier.core.catalogue import doc, gone, page
from hodcarrier.core.states import Change, ComparedList, PartKind, Severity
from hodcarrier.runfile import schema
from hodcarrier.runfile.compared import Chosen, ComparedRuns
from hodcarrier.runfile.comparison import Classed, compare
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.store import LocalRunStore
from tests.runfile.test_reading import whole_reads
from tests.runfile.test_runfile import save
from tests.sample_site import NOW, audit


def site(*names: str, titled: str = "") -> tuple[object, ...]:
    links = "".join(f'<a href="/{name}">{name}</a>' for name in (*names, "gone"))
    head = {name: f"<title>Page {name} of the shop</title>" if name in titled else "" for name in names}
    return (page(doc(links)), *(page(doc(f"<img src=/i.png>{links}", head[name]), f"/{name}") for name in names), gone("/gone"))


@pytest.fixture(scope="module")
def store(tmp_path_factory: pytest.TempPathFactory) -> LocalRunStore:
    """Two runs between which pages came and went and titles were written."""
    found = LocalRunStore(tmp_path_factory.mktemp("runs"))
    base, _ = audit(site(*"abcd", titled="a"), now=NOW - timedelta(days=7))  # type: ignore[arg-type]
    head, _ = audit(site(*"bcdefg", titled="bc"), base=base)  # type: ignore[arg-type]
    for name, run in (("base", base), ("head", head)):
        run.db.executescript(schema.INDEXES)
        save(run, found.whole_path(name))
        with sqlite3.connect(found.whole_path(name)) as db:
            db.execute(f"PRAGMA application_id={schema.APPLICATION_ID}")
            db.execute(f"PRAGMA user_version={schema.VERSION}")
        db.close()
    return found


def kept(store: LocalRunStore, base: RunFile, head: RunFile) -> ComparedRuns:
    found = store.open_comparison("base", "head", base, head)
    assert found is not None
    return found


def order(item: Classed) -> tuple[int, str, str]:
    return list(Change).index(item.change), item.check, "" if item.subject == "site" else item.subject


def test_what_is_kept_is_what_comparing_says(store: LocalRunStore) -> None:
    store.compare("base", "head")
    with store.open("base") as base, store.open("head") as head, kept(store, base, head) as found:
        whole, total, after = found.findings(limit=1_000)
        said = compare(base, head)
        assert whole == said.items and total == len(whole) > 30 and after is None
        assert [order(item) for item in whole] == sorted(order(item) for item in whole)
        figures = found.figures
        assert figures.balance == said.balance and figures.balance.reconciles
        assert (figures.by_check, figures.settings) == (said.by_check(), said.settings)
        assert (figures.health, figures.areas) == (said.health, said.areas)
        alike = found.alike()
        facts = [
            (url, group.field, was, now)
            for group in alike
            for _, url, was, now in found.page_changes(group.id)
            if group.role == 0
        ]
        assert sorted(facts) == sorted(said.page_changes) and figures.page_changes == len(facts) > 1
        assert [len(found.page_changes(group.id)) for group in alike] == [group.pages for group in alike]
        appeared, gone = ([url for _, url in found.urls(kind)] for kind in (ComparedList.APPEARED, ComparedList.GONE))
        assert (appeared, gone) == (said.appeared, said.gone) and len(said.appeared) == figures.listed[ComparedList.APPEARED] == 3
        for change in Change:
            for check in ("", "media-alt-missing", "title-missing", "no-such-check"):
                expected = [i for i in whole if i.change == change and (not check or i.check == check)]
                met: list[Classed] = []
                place: int | None = 0
                while place is not None:
                    part, count, place = found.findings(Chosen(change, check), limit=2, after=place)
                    assert count == len(expected) and len(part) <= 2
                    met += part
                assert met == expected
        worse = found.found((Change.NEW, Change.NEW_WITH_PAGE), (Severity.HIGH,))
        assert worse == [i for i in whole if i.severity == "high" and i.change in ("new", "new-with-page")] and worse


NEITHER = (Change.STILL_THERE, Change.WAIVED)


@pytest.mark.parametrize("kind", list(PartKind))
def test_parts_add_up_and_hold_what_they_say(store: LocalRunStore, kind: PartKind) -> None:
    store.compare("base", "head")
    with store.open("base") as base, store.open("head") as head, kept(store, base, head) as found:
        parts = found.parts(kind, limit=1_000)
        assert len(parts) == found.figures.parts[kind] > 0 and found.parts(kind, limit=1, after=parts[0][0]) == parts[1:2]
        differing = [i for i in found.findings(limit=1_000)[0] if i.change not in NEITHER]
        met: list[Classed] = []
        for number, part in parts:
            assert found.part(number) == part
            own, total, _ = found.findings(Chosen(part=number), limit=1_000)
            assert total == len(own) == sum(n for change, n in part.counts.items() if change not in NEITHER) > 0
            if kind == PartKind.CAUSE:
                assert {i.check for i in own} == {part.check}
            if kind == PartKind.PAGE:
                assert {i.subject for i in own} == {part.name}
            met += own
            came = sum(
                part.counts.get(change, 0) for change in (Change.NEW, Change.NEW_WITH_PAGE, Change.NEW_TO_VIEW, Change.RETURNED)
            )
            went = sum(part.counts.get(change, 0) for change in (Change.FIXED, Change.GONE_WITH_PAGE, Change.UNVERIFIED))
            assert part.now - part.then == came - went
        on_a_page = [i for i in differing if i.subject != "site"] if kind != PartKind.CAUSE else differing
        if kind != PartKind.TEMPLATE:  # what has no document has no template
            assert sorted(i.fingerprint for i in met) == sorted(i.fingerprint for i in on_a_page)


def test_then_and_now_of_the_checks_are_those_of_the_runs(store: LocalRunStore) -> None:
    store.compare("base", "head")
    with store.open("base") as base, store.open("head") as head, kept(store, base, head) as found:
        for run, of in ((base, "then"), (head, "now")):
            said = dict(run.rows("SELECT id, findings FROM check_state"))
            assert {row.check: getattr(row, of) for row in found.figures.by_check} == {
                row.check: said.get(row.check, 0) for row in found.figures.by_check
            }


def test_no_part_reads_a_whole_table(store: LocalRunStore) -> None:
    store.compare("base", "head")
    db = sqlite3.connect(store.folder / "head.base.compared")
    for where in ("id > 5", "id > 5 AND change = 1", "id > 5 AND check_id = 1", "id > 5 AND check_id = 1 AND change = 1"):
        by = "change, id" if "check_id" in where else "id"
        sql = f"SELECT id FROM classed WHERE {where} ORDER BY {by} LIMIT ?"
        said = [detail for *_, detail in db.execute(f"EXPLAIN QUERY PLAN {sql}", (3,))]
        assert not whole_reads([step.replace("classed", "finding") for step in said]) and "TEMP B-TREE" not in " ".join(said)
    db.close()


@pytest.mark.parametrize(
    "spoil",
    [
        lambda path: path.unlink(),
        lambda path: path.write_bytes(b""),
        lambda path: path.write_bytes(path.read_bytes()[:3_000]),
        lambda path: change(path, "UPDATE meta SET value = '\"another\"' WHERE key = 'catalogue'"),
        lambda path: change(path, "PRAGMA user_version = 77"),
    ],
    ids=["missing", "empty", "cut", "other catalogue", "later"],
)
def test_one_that_cannot_be_used_is_none(store: LocalRunStore, spoil: object) -> None:
    store.compare("base", "head")
    spoil(store.folder / "head.base.compared")  # type: ignore[operator]
    with store.open("base") as base, store.open("head") as head:
        assert store.open_comparison("base", "head", base, head) is None
        store.compare("base", "head")
        with kept(store, base, head) as found:
            assert found.findings()[1] > 30


def change(path: Path, sql: str) -> None:
    with sqlite3.connect(path) as db:
        db.execute(sql)
    db.close()


def test_comparisons_go_with_either_run(store: LocalRunStore, tmp_path: Path) -> None:
    other = LocalRunStore(tmp_path)
    for removed in ("base", "head"):
        for name in ("base", "head"):
            other.whole_path(name).write_bytes(store.whole_path(name).read_bytes())
        other.compare("base", "head")
        (tmp_path / "third.base.compared.part").touch()
        other.remove(removed)
        left = {path.name for path in tmp_path.iterdir()}
        assert left == {f"{'head' if removed == 'base' else 'base'}.sqlite"} | (
            set() if removed == "base" else {"third.base.compared.part"}
        )


def test_what_cannot_be_kept_leaves_nothing_behind(store: LocalRunStore, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("hodcarrier.runfile.store.write_comparison", full)
    with pytest.raises(Exception, match="could not be kept"):
        store.compare("base", "head")
    assert not list(store.folder.glob("*.part"))
