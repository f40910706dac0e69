"""What must be true is true in the database, however many threads and processes do it at the same moment."""

from __future__ import annotations

import subprocess
import sys
import threading
from collections import Counter
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path

import pytest
from sqlalchemy import func, select, text

from hodcarrier.audit.place import open_place
from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.errors import Conflict
from hodcarrier.core.states import ACTIVE_RUN, TodoState
from hodcarrier.register.models import Member, Run, TodoFinding, WaiverRow
from hodcarrier.usecases import (
    benchmark_setup,
    clients,
    members,
    runs,
    sites,
    todo_changes,
    todo_lists,
    todos,
    waivers,
)
from hodcarrier.wire.benchmarks import BenchmarkBody
from hodcarrier.wire.clients import ClientBody, ClientChange
from hodcarrier.wire.members import MemberBody
from hodcarrier.wire.sites import SiteBody
from hodcarrier.wire.todos import TodoBody, TodoChange
from hodcarrier.wire.waivers import WaiverBody
from tests.usecases.conftest import START, Office

THREADS = 6
CLAIMER = """
import sys
from pathlib import Path
from hodcarrier.audit.place import open_place
from hodcarrier.usecases import runs
work = open_place(Path(sys.argv[1]))
while (run := runs.claim_run(work, sys.argv[2])) is not None:
    print(run, flush=True)
"""


def at_once(*deeds: Callable[[], object]) -> list[object]:
    """Do several things at the same moment; gives what each returned or raised."""
    start = threading.Barrier(len(deeds))
    outcomes: list[object] = [None] * len(deeds)

    def do(number: int, deed: Callable[[], object]) -> None:
        start.wait()
        try:
            outcomes[number] = deed()
        except Exception as error:  # noqa: BLE001
            outcomes[number] = error

    threads = [threading.Thread(target=do, args=pair) for pair in enumerate(deeds)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return outcomes


def unexpected(outcomes: list[object]) -> list[object]:
    return [o for o in outcomes if isinstance(o, Exception) and not isinstance(o, Conflict)]


def many_sites(office: Office, count: int) -> list[int]:
    return [
        sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address=f"https://shop-{n}.example/"), None).id
        for n in range(count)
    ]


def test_many_who_start_a_run_at_once_start_one(office: Office) -> None:
    for site in many_sites(office, 10):
        outcomes = at_once(*[lambda site=site: runs.queue_run(office.work, site)] * THREADS)  # type: ignore[misc]
        assert unexpected(outcomes) == []
        assert sum(not isinstance(o, Exception) for o in outcomes) == 1
    with office.work.reading() as session:
        active = session.execute(select(Run.site_id, func.count()).where(Run.state.in_(ACTIVE_RUN)).group_by(Run.site_id)).all()
        assert {n for _, n in active} == {1}


def test_no_run_is_handed_to_two_workers(office: Office) -> None:
    queued = {runs.queue_run(office.work, site).id for site in many_sites(office, 12)}
    claimed = [c for round_ in range(3) for c in at_once(*[lambda: runs.claim_run(office.work, "w")] * THREADS)]
    assert unexpected(claimed) == []
    got = Counter(c for c in claimed if c is not None)
    assert set(got) == queued and set(got.values()) == {1}


def test_nor_to_workers_in_processes_of_their_own(office: Office, tmp_path: Path) -> None:
    queued = {runs.queue_run(office.work, site).id for site in many_sites(office, 16)}
    processes = [
        subprocess.Popen([sys.executable, "-c", CLAIMER, str(tmp_path), f"worker-{n}"], stdout=subprocess.PIPE, text=True)
        for n in range(3)
    ]
    got = [line for process in processes for line in process.communicate()[0].split()]
    assert sorted(got) == sorted(queued)
    assert all(process.returncode == 0 for process in processes)


SHOP = [
    page(doc("<h1>Shop</h1>" + "".join(f'<a href="/{n}">{n}</a>' for n in range(5)))),
    *(page(doc(), f"/{n}") for n in range(5)),
]


def test_a_finding_is_in_one_live_todo(office: Office) -> None:
    office.audit(START, SHOP)
    body = TodoBody(site_id=office.site.id, check="desc-missing")
    outcomes = at_once(*[lambda: todos.add_todo(office.work, body, None)] * THREADS)
    assert unexpected(outcomes) == []
    made = [o for o in outcomes if not isinstance(o, Exception)]
    assert len(made) == 1
    with office.work.reading() as session:
        most = session.execute(
            select(TodoFinding.fingerprint, func.count()).where(TodoFinding.live).group_by(TodoFinding.fingerprint)
        )
        assert {n for _, n in most} == {1}


def test_a_dropped_todo_comes_back_only_while_its_findings_are_free(office: Office) -> None:
    office.audit(START, SHOP)
    body = TodoBody(site_id=office.site.id, check="desc-missing")
    first = todos.add_todo(office.work, body, None)
    todo_changes.change_todo(
        office.work, first.id, TodoChange(state=TodoState.DROPPED, drop_reason="Later"), None, Member(id=None, name="")
    )
    second = todos.add_todo(office.work, body, None)
    assert second.places == first.places
    with pytest.raises(Conflict, match="another to-do"):
        todo_changes.change_todo(office.work, first.id, TodoChange(state=TodoState.OPEN), None, Member(id=None, name=""))
    assert todo_lists.get_todo(office.work, first.id).state == "dropped", "nothing is half done"


def test_a_scope_is_waived_once_and_again_when_that_has_ended(office: Office) -> None:
    body = WaiverBody(check="text-thin", reason="Short on purpose", pattern="/contact", end=(START + timedelta(days=3)).date())
    outcomes = at_once(*[lambda: waivers.add_waiver(office.work, office.site.id, body, None)] * THREADS)
    assert unexpected(outcomes) == [] and sum(not isinstance(o, Exception) for o in outcomes) == 1
    later = office.at(START + timedelta(days=10))
    again = waivers.add_waiver(later, office.site.id, body.model_copy(update={"end": None}), None)
    assert again.in_force and [w.in_force for w in waivers.list_waivers(later, office.site.id)] == [False, True]
    with later.reading() as session:
        assert session.scalar(select(func.count()).where(~WaiverRow.replaced)) == 1


def test_names_that_are_used_as_keys_are_unique(office: Office) -> None:
    def member(name: str, email: str) -> Callable[[], object]:
        return lambda: members.add_member(office.work, MemberBody(name=name, email=email, password="long enough words"))

    other = sites.add_site(office.work, SiteBody(client_id=office.site.client_id, address="https://other.example/"), None)

    def benchmark(name: str) -> Callable[[], object]:
        body = BenchmarkBody(name=name, site_id=office.site.id, competitor_ids=[other.id])
        return lambda: benchmark_setup.add_benchmark(office.work, body, None)

    for deeds in (
        [
            lambda: clients.add_client(office.work, ClientBody(name="Twine"), None),
            lambda: clients.add_client(office.work, ClientBody(name="twine"), None),
        ],
        [member("Imke", "a@agency.example"), member("imke", "b@agency.example")],
        [benchmark("Rope"), benchmark("ROPE")],
    ):
        outcomes = at_once(*(lambda deed=deed: deed() for deed in deeds))  # type: ignore[misc]
        assert sum(not isinstance(o, Exception) for o in outcomes) == 1, outcomes
    found = next(c for c in clients.list_clients(office.work) if c.name.lower() == "twine")
    with pytest.raises(Conflict, match="already a client"):
        clients.change_client(office.work, found.id, ClientChange(name="ROPE & SAIL"), Member(id=None, name=""))


def test_the_register_itself_refuses(office: Office) -> None:
    """Not only the use cases: whoever writes a second one is refused."""
    run = runs.queue_run(office.work, office.site.id).id
    with pytest.raises(Exception, match="UNIQUE"), office.work.session() as session:
        session.execute(text("INSERT INTO run (id, sequence, site_id, state, purpose, plan, reason, requested_at, clock_offset_s, attempts) SELECT 'x', 99, site_id, state, purpose, plan, reason, requested_at, 0, 0 FROM run WHERE id = :run"), {"run": run})  # fmt: skip


def test_reading_does_not_wait_for_writing(office: Office, tmp_path: Path) -> None:
    other = open_place(tmp_path)
    with office.work.session() as session:
        session.execute(text("UPDATE client SET name = 'being written'"))
        assert [c.name for c in clients.list_clients(other)] == ["Rope & Sail"]
