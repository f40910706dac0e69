"""A register that an earlier release wrote, brought up to today."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

import pytest
from alembic import command
from sqlalchemy import create_engine, select, text
from sqlalchemy.orm import Session, sessionmaker

from bench.large_register import fill
from hodcarrier.core.errors import Unavailable
from hodcarrier.core.web.patterns import matches
from hodcarrier.figurefile.store import FigureStore
from hodcarrier.register.database import ChangeWatch, _config, make_engine, open_register, upgrade
from hodcarrier.register.models import Client, Member, Run, Site, Todo, TodoFinding, WaiverRow
from hodcarrier.register.vault import Vault
from hodcarrier.runfile.store import LocalRunStore
from hodcarrier.usecases.workspace import Workspace

DAY = "2026-11-03 02:04:00"
# What could be there before the database held it: two runs at once, a finding in two to-dos, one waiver given twice.
OLD = f"""
INSERT INTO client (id, name, created_at) VALUES (1, 'Tidewrack', '{DAY}'), (2, 'tidewrack', '{DAY}');
INSERT INTO member (id, name, email, role, password_hash, created_at, active) VALUES
  (1, 'Oona', 'oona@agency.example', 'writer', 'x', '{DAY}', 1), (2, 'Casper', 'casper@agency.example', 'developer', 'x', '{DAY}', 1),
  (3, 'Tobin', 'tobin@agency.example', 'account', 'x', '{DAY}', 1), (4, 'Imke', 'imke@agency.example', 'lead', 'x', '{DAY}', 1);
INSERT INTO site (id, client_id, host, kind, plan, plan_version, created_at) VALUES (1, 1, 'tidewrack.example', 'own', '{{}}', 1, '{DAY}');
INSERT INTO run (id, site_id, purpose, state, reason, plan, requested_at, clock_offset_s) VALUES
  ('first', 1, 'audit', 'crawling', '', '{{}}', '2026-11-03 02:04:00', 0), ('second', 1, 'audit', 'queued', '', '{{}}', '2026-11-03 02:05:00', 0);
INSERT INTO run (id, site_id, purpose, state, reason, plan, requested_at, clock_offset_s, summary) VALUES
  ('whole', 1, 'audit', 'done', '', '{{}}', '2026-11-01 02:04:00', 0, '{{"end": "complete"}}'),
  ('cut', 1, 'audit', 'done', '', '{{}}', '2026-11-02 02:04:00', 0, '{{"end": "stopped"}}');
INSERT INTO todo (id, site_id, title, note, check_id, severity, state, flag, drop_reason, places, cleared, version, created_at) VALUES
  (1, 1, 'One', '', 'link-broken', 'high', 'open', '', '', 2, 0, 1, '{DAY}'), (2, 1, 'Two', '', 'link-broken', 'high', 'done', '', '', 2, 0, 1, '{DAY}'),
  (3, 1, 'Old', '', 'link-broken', 'high', 'confirmed', '', '', 1, 1, 1, '{DAY}');
INSERT INTO todo_finding (todo_id, fingerprint, check_id, subject, place, outcome) VALUES
  (1, x'61', 'link-broken', 'u', 'p', 'still'), (1, x'62', 'link-broken', 'u', 'p', 'still'), (2, x'62', 'link-broken', 'u', 'p', 'still'),
  (2, x'63', 'link-broken', 'u', 'p', 'still'), (3, x'61', 'link-broken', 'u', 'p', 'cleared');
INSERT INTO waiver (id, site_id, check_id, pattern, fingerprint, reason, start, created_at) VALUES
  (1, 1, 'text-thin', 'https://tidewrack.example/a?c/*', '', 'short', '2026-11-03', '{DAY}'),
  (2, 1, 'text-thin', 'https://tidewrack.example/b', '', 'first', '2026-11-03', '{DAY}'),
  (3, 1, 'text-thin', 'https://tidewrack.example/b', '', 'again', '2026-11-04', '{DAY}'),
  (4, 1, 'text-thin', 'https://tidewrack.example/c/*', '', 'all below', '2026-11-04', '{DAY}'),
  (5, 1, 'text-thin', 'the shop', '', 'no pattern of a URL', '2026-11-04', '{DAY}');
"""


def old_register(path: Path) -> None:
    """A register as it was at revision 0002."""
    from alembic import command
    from alembic.config import Config

    import hodcarrier.register.database as database

    config = Config()
    config.set_main_option("script_location", str(Path(database.__file__).parent / "migrations"))
    engine = create_engine(f"sqlite:///{path}")
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0002")
    engine.dispose()
    with sqlite3.connect(path) as db:
        db.executescript(OLD)
    db.close()


@pytest.fixture
def opened(tmp_path: Path) -> sessionmaker[Session]:
    old_register(tmp_path / "register.sqlite")
    return open_register(tmp_path / "register.sqlite")


def test_the_older_run_stays_and_the_other_says_why(opened: sessionmaker[Session]) -> None:
    with opened() as session:
        runs = {run.id: run for run in session.query(Run).where(Run.id.in_(("first", "second")))}
        assert runs["first"].state == "crawling"
        assert (runs["second"].state, runs["second"].reason) == ("failed", "Another run of the site was under way.")


def test_a_run_that_a_person_stopped_says_so(opened: sessionmaker[Session]) -> None:
    with opened() as session:
        states = dict(session.execute(select(Run.id, Run.state).where(Run.id.in_(("whole", "cut")))).all())
    assert states == {"whole": "done", "cut": "stopped"}


def test_a_finding_is_in_one_live_to_do(opened: sessionmaker[Session]) -> None:
    with opened() as session:
        linked = {(f.todo_id, f.fingerprint.decode()): f.live for f in session.query(TodoFinding)}
        assert linked == {(1, "a"): True, (1, "b"): True, (2, "c"): True, (3, "a"): False}
        assert {todo.id: todo.places for todo in session.query(Todo)} == {1: 2, 2: 1, 3: 1}


def test_old_roles_have_their_new_names(opened: sessionmaker[Session]) -> None:
    with opened() as session:
        roles = {member.name: member.role for member in session.query(Member)}
        assert roles == {"Oona": "fixer", "Casper": "fixer", "Tobin": "analyst", "Imke": "lead"}


def test_names_that_were_taken_twice_are_told_apart(opened: sessionmaker[Session]) -> None:
    with opened() as session:
        assert sorted(client.name for client in session.query(Client)) == ["Tidewrack", "tidewrack (2)"]
        assert session.query(Site).one().client_id == 1


def test_waivers_mean_what_they_meant(opened: sessionmaker[Session]) -> None:
    with opened() as session:
        waivers = {waiver.id: waiver for waiver in session.query(WaiverRow)}
    one_sign, exact, below, words = (waivers[n].pattern for n in (1, 3, 4, 5))
    assert matches(one_sign, "https://tidewrack.example/abc/rope")
    assert not matches(one_sign, "https://tidewrack.example/abbc/rope")
    assert exact == "https://tidewrack.example/b"
    assert below == "https://tidewrack.example/c/*"
    assert not matches(words, "https://tidewrack.example/the shop")
    assert [waivers[n].replaced for n in (2, 3)] == [True, False]


def test_a_register_is_copied_before_it_is_upgraded(tmp_path: Path) -> None:
    path = tmp_path / "register.sqlite"
    old_register(path)
    open_register(path)
    (copy,) = tmp_path.glob("register-before-*.sqlite")
    with closing(sqlite3.connect(copy)) as db:
        assert db.execute("SELECT version_num FROM alembic_version").fetchone() == ("0002",)
        assert db.execute("SELECT name FROM client WHERE id = 1").fetchone() == ("Tidewrack",)
    copy.unlink()
    open_register(path)
    assert not list(tmp_path.glob("register-before-*")), "nothing was to be upgraded"


def test_a_register_of_a_later_release_is_refused_in_words(tmp_path: Path) -> None:
    path = tmp_path / "register.sqlite"
    open_register(path)
    with closing(sqlite3.connect(path)) as db:
        db.execute("UPDATE alembic_version SET version_num = '9999'")
        db.commit()
    with pytest.raises(Unavailable, match="later release"):
        open_register(path)


def test_an_upgrade_that_breaks_off_leaves_the_register_as_it_was(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "register.sqlite"
    old_register(path)
    before = dump(path)

    def cut(*_: object, **__: object) -> None:
        raise KeyboardInterrupt

    with monkeypatch.context() as patched:
        patched.setattr("alembic.op.create_table", cut)
        with pytest.raises(KeyboardInterrupt):
            open_register(path)
    assert dump(path) == before
    with open_register(path)() as session:
        assert session.get(Client, 1) is not None


def dump(path: Path) -> list[str]:
    with closing(sqlite3.connect(path)) as db:
        return list(db.iterdump())


def test_a_watch_sees_what_others_write_and_nothing_else(tmp_path: Path) -> None:
    path = tmp_path / "register.sqlite"
    watch = ChangeWatch(path)
    assert watch.has_changed() and watch.has_changed(), "there is no register yet, so nobody can tell"
    register = open_register(path)
    assert watch.has_changed() and not watch.has_changed()
    with register() as session:
        session.execute(text("SELECT count(*) FROM site"))
    assert not watch.has_changed(), "reading changes nothing"
    with register.begin() as session:
        session.add(Client(name="Harbour", created_at=datetime.now(UTC)))
    assert watch.has_changed() and not watch.has_changed()
    watch.close()


HEADLINES = (
    "SELECT id, examined, pages, findings, critical, high, partial, end_words, new, returned, fixed, comparable FROM run ORDER BY sequence",
    "SELECT site_id, runs, last_id, done_id, round(change, 6), json(line) FROM site_state ORDER BY site_id",
)


def test_headlines_and_states_come_out_of_what_was_stored_in_full(tmp_path: Path) -> None:
    """Taken away and made again by the migration, they are what the service writes when runs end."""
    path = tmp_path / "register.sqlite"
    work = Workspace(
        open_register(path),
        LocalRunStore(tmp_path),
        FigureStore(tmp_path / "figures"),
        Vault(tmp_path / "key"),
        lambda: datetime(2026, 11, 24, tzinfo=UTC),
        print,
        bool,
    )
    fill(work, sites=5, runs=20, todos=0)
    with closing(sqlite3.connect(path)) as db:
        before = [db.execute(sql).fetchall() for sql in HEADLINES]
    assert len(before[0]) == 100 and {row[1] for row in before[0]} == {0, 1} and any(row[4] is not None for row in before[1])
    engine = make_engine(path)
    with engine.begin() as connection:
        config = _config()
        config.attributes["connection"] = connection
        command.downgrade(config, "0010")
    upgrade(engine)
    with closing(sqlite3.connect(path)) as db:
        assert [db.execute(sql).fetchall() for sql in HEADLINES] == before
