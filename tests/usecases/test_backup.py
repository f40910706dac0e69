"""Backups: made under load, brought up to date, found damaged, put back."""

from __future__ import annotations

import json
import threading
from datetime import timedelta
from pathlib import Path

import pytest

from hodcarrier.audit.backup import LIST, back_up, check, restore
from hodcarrier.audit.place import KEY, REGISTER, hold_folder, make_place
from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import InvalidInput, Unavailable
from hodcarrier.core.states import FigureKind
from hodcarrier.register.models import Client, Member
from hodcarrier.usecases import clients, figure_files, plans, results, runs, search_figures, sites
from hodcarrier.wire.figures import FigureRows
from hodcarrier.wire.plans import AccessBody
from tests.usecases.conftest import START, Office

SHOP = [page(doc("<h1>Shop</h1>"))]
WEEK = timedelta(weeks=1)


def test_a_backup_put_back_is_the_service_as_it_was(office: Office, tmp_path: Path) -> None:
    data, kept, back = tmp_path, tmp_path.parent / f"{tmp_path.name}-kept", tmp_path.parent / f"{tmp_path.name}-back"
    run = office.audit(START, SHOP)
    plans.set_access(office.work, office.site.id, AccessBody(username="u", password="p"), Member(id=None, name=""))
    rows = [{"day": "2026-11-02", "query": "rope", "clicks": "4", "impressions": "90"}]
    figure_files.add_figures(office.work, office.site.id, FigureRows(kind=FigureKind.SEARCH, rows=rows), Member(id=None, name=""))
    found = back_up(data, kept)
    assert (found.runs, found.copied) == (1, 1) and check(kept) == []
    assert {path.stat().st_mode & 0o077 for path in (kept, kept / REGISTER, kept / KEY)} == {0}, "nobody else reads it"
    restore(kept, back)
    again = make_place(back, "")
    assert runs.get_run(again, run) == runs.get_run(office.work, run)
    assert results.list_checks(again, run) == results.list_checks(office.work, run)
    assert search_figures.list_figures(again, office.site.id) == search_figures.list_figures(office.work, office.site.id) != []
    access = plans.open_access(again, office.site.id)
    assert access is not None and access["password"] == "p"


def test_a_further_backup_copies_new_runs_and_drops_removed_ones(office: Office, tmp_path: Path) -> None:
    kept = tmp_path.parent / f"{tmp_path.name}-kept"
    office.audit(START, SHOP)
    back_up(tmp_path, kept)
    second = office.audit(START + WEEK, SHOP)
    found = back_up(tmp_path, kept)
    assert (found.runs, found.copied) == (2, 1)
    office.work.store.whole_path(second).unlink()
    assert back_up(tmp_path, kept).runs == 1 and check(kept) == []
    sites.remove_site(office.work, office.site.id, Member(id=None, name=""))
    assert back_up(tmp_path, kept).runs == 0 and check(kept) == []
    assert not list((kept / "figures").iterdir()), "figures go with their site"


def test_a_backup_under_load_holds_one_moment(office: Office, tmp_path: Path) -> None:
    """Clients are added in pairs while it is made: the copy never has half a pair."""
    kept, stop = tmp_path.parent / f"{tmp_path.name}-kept", threading.Event()

    def write() -> None:
        number = 0
        while not stop.is_set():
            number += 1
            with office.work.session() as session:
                for half in "ab":
                    session.add(Client(name=f"{number}{half}", created_at=START, holidays=[]))

    writer = threading.Thread(target=write)
    writer.start()
    try:
        for _ in range(5):
            back_up(tmp_path, kept)
            assert check(kept) == []
    finally:
        stop.set()
        writer.join()
    back = tmp_path.parent / f"{tmp_path.name}-back"
    restore(kept, back)
    names = [c.name for c in clients.list_clients(make_place(back, "")) if c.name[:-1].isdigit()]
    assert len(names) % 2 == 0 and {n[:-1] for n in names if n[-1] == "a"} == {n[:-1] for n in names if n[-1] == "b"}


@pytest.mark.parametrize("harm", ["cut", "gone", "changed"])
def test_a_damaged_backup_is_found_and_not_put_back(office: Office, tmp_path: Path, harm: str) -> None:
    kept, back = tmp_path.parent / f"{tmp_path.name}-kept", tmp_path.parent / f"{tmp_path.name}-back"
    office.audit(START, SHOP)
    back_up(tmp_path, kept)
    (victim,) = (kept / "runs").iterdir()
    whole = victim.read_bytes()
    if harm == "gone":
        victim.unlink()
    else:
        victim.write_bytes(whole[:-1] if harm == "cut" else whole[:-1] + b"\x00" + b"")
    if harm == "changed" and whole[-1:] == b"\x00":
        victim.write_bytes(whole[:-1] + b"\x01")
    assert check(kept) == [f"runs/{victim.name}"]
    with pytest.raises(InvalidInput, match="damaged"):
        restore(kept, back)
    assert not back.exists()


def test_what_is_in_the_way_is_said(office: Office, tmp_path: Path) -> None:
    kept = tmp_path.parent / f"{tmp_path.name}-kept"
    with pytest.raises(InvalidInput, match="no service's folder"):
        back_up(tmp_path / "nowhere", kept)
    kept.mkdir()
    (kept / "mine.txt").write_text("x")
    with pytest.raises(InvalidInput, match="holds something else"):
        back_up(tmp_path, kept)
    with pytest.raises(InvalidInput, match="no backup"):
        restore(kept, tmp_path / "back")
    (kept / "mine.txt").unlink()
    back_up(tmp_path, kept)
    with pytest.raises(InvalidInput, match="not empty"):
        restore(kept, tmp_path)
    with hold_folder(tmp_path.parent / f"{tmp_path.name}-held"), pytest.raises(Unavailable, match="Another service"):
        restore(kept, tmp_path.parent / f"{tmp_path.name}-held")
    listed = json.loads((kept / LIST).read_text())
    (kept / LIST).write_text(json.dumps({"sha256": {**listed["sha256"], "../../etc/passwd": "0"}}))
    with pytest.raises(InvalidInput, match="outside"):
        restore(kept, tmp_path / "back")
