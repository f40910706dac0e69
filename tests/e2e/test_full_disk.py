"""The disk fills at any moment of a run: what was fetched stays, the reason is said, and with room again the run ends as if undisturbed."""

from __future__ import annotations

import sqlite3
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path

import pytest

from hodcarrier.audit.worker import EXIT_BROKEN, EXIT_DONE, do_run
from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.plan import read_plan
from hodcarrier.runfile import writer as writing
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.store import LocalRunStore
from tests.e2e.channel import KeptChannel
from tests.running import LocalSite, local_site

STEPS = 8


@pytest.fixture(scope="module")
def site() -> Iterator[LocalSite]:
    links = "".join(f'<a href="/p/{n}">{n}</a>' for n in range(80))
    pages = [page(doc(links))] + [page(doc(f"<p>{f'word{n} ' * (40 * (n % 9))}</p>{links}"), f"/p/{n}") for n in range(80)]
    with local_site(*pages) as found:
        yield found


def run_in(folder: Path, site: LocalSite, pages_max: int | None, monkeypatch: pytest.MonkeyPatch) -> tuple[int, list[str]]:
    """Do the run, on a disk that has room for so many pages of the file; gives the exit code and what was told."""
    real = writing._prepare

    def prepare(db: sqlite3.Connection) -> None:
        real(db)
        if pages_max is not None:
            db.execute(f"PRAGMA max_page_count = {pages_max}")

    plan = read_plan({"start": [site.address], "private_addresses": ["127.0.0.1"], "rate_per_s": 1000, "use_sitemaps": False})
    channel = KeptChannel(LocalRunStore(folder).make(), plan)
    with monkeypatch.context() as patch:
        patch.setattr(writing, "_prepare", prepare)
        return do_run(channel, "r", lambda: False), channel.told


def results(folder: Path) -> tuple[list[object], ...]:
    with RunFile.open(folder / "r.sqlite") as run:
        return (
            run.rows("SELECT url, state FROM address ORDER BY url"),
            run.rows("SELECT check_id, subject, place, waived FROM finding ORDER BY 1, 2, 3"),
            [run.meta("summary")["health"]],
        )


def test_a_disk_that_fills_at_any_moment_loses_nothing(site: LocalSite, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    assert run_in(tmp_path / "whole", site, None, monkeypatch)[0] == EXIT_DONE
    whole = results(tmp_path / "whole")
    with closing(sqlite3.connect(tmp_path / "whole" / "r.sqlite")) as db:
        size = db.execute("PRAGMA page_count").fetchone()[0]
    phases = set()
    for step in range(STEPS):
        folder = tmp_path / str(step)
        room = 1 + (size - 1) * step // STEPS
        code, told = run_in(folder, site, room, monkeypatch)
        assert code == EXIT_BROKEN and "The disk is full" in told[-1], (room, size)
        phases.add("examining" in told)
        part = folder / "r.part"
        if part.exists():
            with closing(sqlite3.connect(part)) as db:
                assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
        code, told = run_in(folder, site, None, monkeypatch)
        assert code == EXIT_DONE, told
        assert results(folder) == whole
    assert phases == {False, True}, "it filled while pages were fetched, and while they were examined"


def test_a_folder_that_cannot_be_written_fails_the_run_in_words(
    site: LocalSite, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refuse(*_: object) -> object:
        raise OSError(30, "Read-only file system")

    with monkeypatch.context() as patch:
        patch.setattr(LocalRunStore, "hold", refuse)
        code, told = run_in(tmp_path, site, None, monkeypatch)
    assert code == EXIT_BROKEN and "Read-only file system" in told[-1] and str(tmp_path) not in told[-1]
