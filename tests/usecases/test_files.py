"""Run files and the folder: retention, damage, the doctor, daily backups, and what the desk says of them."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from dataclasses import replace
from datetime import timedelta
from pathlib import Path

import pytest

from hodcarrier.audit.backup import check, restore
from hodcarrier.audit.doctor import examine_folder
from hodcarrier.audit.place import KEY, REGISTER, make_place
from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import DamagedRun, InvalidInput, NotFound
from hodcarrier.core.states import FileState, RunState
from hodcarrier.register.models import Member, Run
from hodcarrier.service.housekeeper import Housekeeper, backups_in
from hodcarrier.service.postman import deliver_due
from hodcarrier.service.settings import Settings
from hodcarrier.usecases import comparisons, desk, figure_feeds, files, outbox, plans, reports, results, runs, trends
from hodcarrier.wire.feeds import FigureFeedBody
from hodcarrier.wire.plans import AccessBody
from hodcarrier.wire.reports import ReportBody
from tests.usecases.conftest import START, Office
from tests.usecases.test_figures import imported

SHOP = [page(doc("<h1>Shop</h1>"))]
WEEK = timedelta(weeks=1)


def weekly(office: Office, count: int) -> list[str]:
    return [office.audit(START + number * WEEK, SHOP) for number in range(count)]


def damage(office: Office, run: str) -> None:
    path = office.work.store.whole_path(run)
    content = bytearray(path.read_bytes())
    content[20_000:60_000] = b"\xff" * 40_000
    path.write_bytes(content)


def state_of(office: Office, run: str) -> FileState:
    with office.work.reading() as session:
        return session.get_one(Run, run).file


# Retention


def test_what_a_rule_frees_is_shown_first_and_then_removed(office: Office) -> None:
    ids = weekly(office, 9)  # 3 November to 29 December
    late = office.at(START + 9 * WEEK)
    shown = files.plan_retention(late, 2)
    assert [file.run_id for file in shown.removable] == [ids[1], ids[2], ids[4], ids[5], ids[6]]
    assert shown.kept == 4 and shown.removable_bytes == sum(file.size_bytes for file in shown.removable) > 0
    assert all(office.work.store.has(run) for run in ids), "nothing was removed yet"
    removed = files.apply_retention(late, 2, None)
    assert removed == shown
    assert [office.work.store.has(run) for run in ids] == [True, False, False, True, False, False, False, True, True]
    assert files.plan_retention(late, 2).removable == []


def test_a_run_without_its_file_keeps_its_figures_and_says_why_it_has_no_pages(office: Office) -> None:
    ids = weekly(office, 5)
    files.apply_retention(office.at(START + 60 * WEEK), 1, None)
    assert runs.get_run(office.work, ids[1]).summary is not None
    assert [point.value is not None for point in trends.get_trend(office.work, office.site.id).points] == [True] * 5
    for look in (lambda: results.list_checks(office.work, ids[1]), lambda: comparisons.compare_runs(office.work, ids[1], ids[4])):
        with pytest.raises(NotFound, match="as the rule of retention says"):
            look()
    office.audit(START + 61 * WEEK, SHOP)
    assert runs.list_runs(office.work, office.site.id).items[0].state == RunState.DONE


def test_what_a_report_compares_stays(office: Office) -> None:
    ids = weekly(office, 6)
    body = ReportBody(site_id=office.site.id, from_day=(START + 2 * WEEK).date(), to_day=(START + 2 * WEEK).date())
    reports.add_report(office.work, body, None, "Agency")
    gone = [file.run_id for file in files.plan_retention(office.at(START + 60 * WEEK), 1).removable]
    assert ids[1] not in gone and ids[2] not in gone


def test_mails_that_were_sent_long_ago_are_forgotten_and_others_stay(office: Office) -> None:
    with office.work.session() as session:
        for name in ("old", "given up"):
            outbox.post(session, START, None, [f"{name.replace(' ', '-')}@agency.example"], name, "text")
    deliver_due(office.work, office.mail)
    (given_up, old) = outbox.list_deliveries(office.work, None, 10)
    outbox.note_failed(office.work, given_up.id, "no such mailbox", final=True)
    files.apply_retention(office.at(START + 2 * WEEK), 2, None)
    assert len(outbox.list_deliveries(office.work, None, 10)) == 2, "just as old as the rule says"
    files.apply_retention(office.at(START + 2 * WEEK + timedelta(seconds=1)), 2, None)
    assert [mail.id for mail in outbox.list_deliveries(office.work, None, 10)] == [given_up.id] != [old.id]


# Damage


@pytest.fixture
def imke() -> Member:
    return Member(id=1, name="Imke", role="owner")


def test_a_damaged_file_is_set_aside_and_locks_nothing(office: Office, tmp_path: Path, imke: Member) -> None:
    first, second = weekly(office, 2)
    damage(office, second)
    found = examine_folder(tmp_path)
    assert len(found.problems) == 1 and second in found.problems[0] and found.can_repair and found.files == 2
    assert state_of(office, second) == FileState.KEPT, "nothing is changed unasked"
    mended = examine_folder(tmp_path, repair=True)
    assert any("set aside" in line for line in mended.repaired)
    assert examine_folder(tmp_path).problems == []
    with pytest.raises(DamagedRun, match="set aside"):
        results.list_checks(office.work, second)
    assert results.list_checks(office.work, first) is not None
    (item,) = [i for i in desk.get_desk(office.work, imke).items if "set aside" in i.text]
    assert item.site_id == office.site.id
    third = office.audit(START + 2 * WEEK, SHOP)
    assert runs.get_run(office.work, third).state == RunState.DONE
    assert [i for i in desk.get_desk(office.work, imke).items if "set aside" in i.text] == [], "a newer run can be opened"


def test_a_file_that_was_restored_is_taken_back(office: Office, tmp_path: Path) -> None:
    (run,) = weekly(office, 1)
    path = office.work.store.whole_path(run)
    whole = path.read_bytes()
    path.unlink()
    assert "is not there" in examine_folder(tmp_path).problems[0] and str(tmp_path) not in examine_folder(tmp_path).problems[0]
    examine_folder(tmp_path, repair=True)
    path.write_bytes(whole[:50_000])
    assert state_of(office, run) == FileState.DAMAGED and examine_folder(tmp_path, repair=True).repaired == []
    path.write_bytes(whole)
    assert examine_folder(tmp_path, repair=True).repaired == [f"The file of run {run} is back and is used again."]
    assert results.list_checks(office.work, run) is not None


def test_the_doctor_finds_what_is_wrong_with_register_key_and_strays(office: Office, tmp_path: Path) -> None:
    weekly(office, 1)
    plans.set_access(office.work, office.site.id, AccessBody(username="u", password="p"), Member(id=None, name=""))
    stray = tmp_path / "runs" / "0123456789.sqlite"
    stray.write_bytes(b"left over")
    (tmp_path / KEY).rename(tmp_path / "elsewhere")
    said = examine_folder(tmp_path).problems
    assert len(said) == 2 and KEY in said[0] and said[1] == "0123456789.sqlite belongs to no run."
    (tmp_path / "elsewhere").rename(tmp_path / KEY)
    assert examine_folder(tmp_path, repair=True).repaired == ["0123456789.sqlite belonged to no run and is removed."]
    assert not stray.exists() and examine_folder(tmp_path).problems == []
    with closing(sqlite3.connect(tmp_path / REGISTER)) as db:
        db.execute("PRAGMA foreign_keys=OFF")
        db.execute("INSERT INTO remark (site_id, day, text, created_at) VALUES (999, '2026-11-03', 'x', '2026-11-03 00:00:00')")
        db.commit()
    assert examine_folder(tmp_path).problems == ["The register has a record in remark that belongs to nothing in site."]
    with pytest.raises(InvalidInput, match="no service's folder"):
        examine_folder(tmp_path / "nowhere")


def test_the_doctor_looks_at_figures_and_at_the_tokens_of_feeds(office: Office, tmp_path: Path) -> None:
    imported(office, [["2026-11-29", "https://shop.example/", "rope", 1, 10, 2]])
    body = FigureFeedBody(url="https://figures.example/", token="secret")
    figure_feeds.add_figure_feed(office.work, office.site.id, body, Member(id=None, name=""))
    assert examine_folder(tmp_path).problems == []
    path = office.work.figures.path(office.site.id)
    path.with_name("77.sqlite").write_bytes(path.read_bytes())
    path.write_bytes(b"something else" * 500)
    for end in ("-wal", "-shm"):
        path.with_name(path.name + end).unlink(missing_ok=True)
    (tmp_path / KEY).unlink()
    found = examine_folder(tmp_path).problems
    assert any("the access of 0 sites and the tokens of 1 feed have to be entered again" in said for said in found)
    assert any("77.sqlite in the folder of figures belongs to no site" in said for said in found)
    assert any("The figures of shop.example are damaged" in said for said in found)


def test_a_register_that_is_no_database_is_said(tmp_path: Path) -> None:
    (tmp_path / REGISTER).write_bytes(b"nothing of ours" * 100)
    (said,) = examine_folder(tmp_path).problems
    assert "cannot be read" in said and "Restore a backup" in said


# The house


def keeper(office: Office, tmp_path: Path, days: float, **settings: object) -> Housekeeper:
    return Housekeeper(office.at(START + timedelta(days=days)), Settings(data=tmp_path, **settings))  # type: ignore[arg-type]


def test_a_backup_a_day_of_which_so_many_are_kept(office: Office, tmp_path: Path) -> None:
    folder = tmp_path.parent / f"{tmp_path.name}-backups"
    weekly(office, 1)
    for day in (0, 0.5, 1, 2, 3):
        keeper(office, tmp_path, day, backups=folder, backups_kept=3).keep_house()
    assert [path.name for path in backups_in(folder)] == ["2026-11-04", "2026-11-05", "2026-11-06"]
    assert all(check(path) == [] for path in backups_in(folder))
    (run,) = runs.list_runs(office.work).items
    kept = [path / "runs" / f"{run.id}.sqlite" for path in backups_in(folder)]
    assert len({path.stat().st_ino for path in kept}) == 1, "what did not change takes no room of its own"
    again = tmp_path.parent / f"{tmp_path.name}-again"
    restore(backups_in(folder)[-1], again)
    assert results.list_checks(make_place(again, ""), run.id) == results.list_checks(office.work, run.id)


def test_a_backup_that_cannot_be_made_is_told_until_it_can(office: Office, tmp_path: Path, imke: Member) -> None:
    folder = tmp_path.parent / f"{tmp_path.name}-taken"
    folder.write_text("a file where the folder should be")
    house = keeper(office, tmp_path, 0, backups=folder, keep_weeks=1)
    house.keep_house()
    assert "daily backup failed" in house.troubles["backup"] and "retention" not in house.troubles
    (item,) = desk.get_desk(office.work, imke, troubles=list(house.troubles.values())).items
    assert item.kind == "service" and "daily backup" in item.text
    folder.unlink()
    house.keep_house()
    assert house.troubles == {} and len(backups_in(folder)) == 1


def test_retention_is_kept_daily_when_it_is_set(office: Office, tmp_path: Path) -> None:
    ids = weekly(office, 5)
    keeper(office, tmp_path, 300).keep_house()
    assert all(office.work.store.has(run) for run in ids), "without a setting everything is kept"
    keeper(office, tmp_path, 300, keep_weeks=4).keep_house()
    assert [office.work.store.has(run) for run in ids] == [True, False, False, True, True]


def test_other_things_beside_the_backups_are_left_alone(office: Office, tmp_path: Path) -> None:
    folder = tmp_path.parent / f"{tmp_path.name}-mixed"
    for name in ("2026-11-01", "notes", "2026-11-1"):
        (folder / name).mkdir(parents=True)
    for day in (0, 1):
        keeper(office, tmp_path, day, backups=folder, backups_kept=1).keep_house()
    assert sorted(path.name for path in folder.iterdir()) == ["2026-11-01", "2026-11-04", "2026-11-1", "notes"]


def test_the_house_is_kept_in_a_thread_that_ends(office: Office, tmp_path: Path) -> None:
    (run,) = weekly(office, 1)
    office.work.store.whole_path(run).write_bytes(b"not a run file at all")
    house = replace(keeper(office, tmp_path, 0))
    house.start()
    house.end()
    assert state_of(office, run) == FileState.DAMAGED
