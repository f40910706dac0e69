"""The service and its worker are killed hard in the middle of a crawl; started again, the run completes as if undisturbed."""

from __future__ import annotations

import asyncio
import os
import signal
import sqlite3
import threading
from pathlib import Path

import pytest

from hodcarrier.audit.worker import EXIT_DONE, do_run
from hodcarrier.core.catalogue import doc, page
from hodcarrier.core.plan import read_plan
from hodcarrier.core.states import Change
from hodcarrier.crawl.session import crawl_into
from hodcarrier.runfile.reader import RunFile
from hodcarrier.runfile.store import LocalRunStore
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.sites import SiteBody
from tests.e2e.channel import KeptChannel
from tests.running import children, free_ports, local_site, start_service, wait_for_end
from tests.sample_site import NOW

PAGES = 120


def pages() -> list[object]:
    """A tree of pages, each linking to two further ones and to its parent."""
    return [
        page(
            doc(f'<a href="/p/{2 * n + 1}">a</a><a href="/p/{2 * n + 2}">b</a><a href="/p/{(n - 1) // 2}">up</a>'),
            f"/p/{n}" if n else "/",
        )
        for n in range(PAGES)
    ]


@pytest.mark.parametrize("victims", ["service and worker", "worker", "service", "nursery"])
def test_a_run_goes_on_after_a_hard_kill(tmp_path: Path, victims: str) -> None:
    reached, go_on = threading.Event(), threading.Event()

    def hold(number: int) -> None:
        """At the sixtieth request, hold every answer until the kill is done."""
        if number >= 60 and not go_on.is_set():
            reached.set()
            go_on.wait(60)

    port = free_ports(1)
    with local_site(*pages(), on_request=hold) as site:  # type: ignore[arg-type]
        service = start_service(tmp_path, port)
        with service.client() as desk:
            client = desk.add_client(ClientBody(name="Killed"))
            made = desk.add_site(
                SiteBody(
                    client_id=client.id, address=site.address, plan={"private_addresses": ["127.0.0.0/8"], "rate_per_s": 500}
                )
            )
            run = desk.start_run(made.id)
        assert reached.wait(60)
        (nursery,) = children(service.process.pid)
        (worker,) = children(nursery)
        if "service" in victims:
            os.kill(service.process.pid, signal.SIGKILL)
            service.process.wait()
        if "worker" in victims:
            os.kill(worker, signal.SIGKILL)
            wait_for_end(worker)
        if "nursery" in victims:
            os.kill(nursery, signal.SIGKILL)
        asked_before = list(site.asked)
        go_on.set()
        if "service" in victims:
            token = service.token
            wait_for_end(worker)
            service = start_service(tmp_path, port)
            service.token = token
        with service.client() as desk:
            done = desk.wait_for_run(run.id, every_s=0.1)
        service.process.terminate()
        service.process.wait(30)
    assert done.state == "done", done.reason
    db = sqlite3.connect(tmp_path / "runs" / f"{run.id}.sqlite")
    fetched = [url for (url,) in db.execute("SELECT url FROM address JOIN answer ON answer.address_id = id WHERE role = 0")]
    assert len(fetched) == len(set(fetched))
    assert {url for url in fetched if "/p/" in url} >= {f"{site.address}p/{n}" for n in range(1, PAGES)}
    assert db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    committed = set(asked_before[: len(asked_before) - 60])
    again = [path for path in site.asked[len(asked_before) :] if path in committed]
    assert len(again) <= 1, "robots.txt may be asked for again, pages of committed batches may not"
    left = [path.name for path in (tmp_path / "runs").iterdir() if not path.name.endswith(".sqlite")]
    assert left == []


def test_a_stop_outlives_the_worker_that_should_have_heard_it(tmp_path: Path) -> None:
    with local_site(*pages()) as site:  # type: ignore[arg-type]
        plan = read_plan({"start": [site.address], "private_addresses": ["127.0.0.0/8"], "rate_per_s": 1000, "parallel": 1})
        channel = KeptChannel(LocalRunStore(tmp_path), plan, stop=True)
        writer = channel.store.begin("r", plan, {})
        end = asyncio.run(crawl_into(writer, plan, lambda: NOW, lambda: "leave" if len(site.asked) > 50 else ""))
        fetched = writer.db.execute("SELECT count(*) FROM answer").fetchone()[0]
        writer.close()
        assert end == "leave" and do_run(channel, "r", lambda: False) == EXIT_DONE
    with RunFile.open(tmp_path / "r.sqlite") as run:
        assert run.meta("end") == "stopped" and channel.told[-1] == "examining"
        assert run.rows("SELECT count(*) FROM answer") == [(fetched,)]
        assert run.meta("summary")["pages_scored"] == fetched


def test_a_stopped_run_keeps_and_examines_what_was_fetched(tmp_path: Path) -> None:
    reached, go_on = threading.Event(), threading.Event()

    def hold(number: int) -> None:
        if number >= 40 and not go_on.is_set():
            reached.set()
            go_on.wait(60)

    with local_site(*pages(), on_request=hold) as site:  # type: ignore[arg-type]
        service = start_service(tmp_path, free_ports(1))
        with service.client() as desk:
            client = desk.add_client(ClientBody(name="Stopped"))
            made = desk.add_site(
                SiteBody(
                    client_id=client.id, address=site.address, plan={"private_addresses": ["127.0.0.0/8"], "rate_per_s": 500}
                )
            )
            run = desk.start_run(made.id)
            assert reached.wait(60)
            desk.stop_run(run.id)
            go_on.set()
            done = desk.wait_for_run(run.id, every_s=0.1)
        service.process.terminate()
        service.process.wait(30)
    assert done.state == "stopped" and done.partial and "stopped by a person" in done.end_words
    assert done.summary is not None and 10 < done.summary.pages_scored < PAGES
    assert any("stopped by a person" in notice for notice in done.summary.notices)


def test_a_worker_leaves_the_comparison_with_the_run_before(tmp_path: Path) -> None:
    """It is there when the run is sealed, so that nobody who looks at the run waits for it."""
    store = LocalRunStore(tmp_path)
    with local_site(page(doc('<a href="/a">a</a>')), page(doc(), "/a")) as site:
        plan = read_plan({"start": [site.address], "private_addresses": ["127.0.0.1"], "rate_per_s": 1000})
        for run_id, base_id in (("first", None), ("second", "first")):
            assert do_run(KeptChannel(store, plan, run_id=run_id, base_id=base_id), run_id, lambda: False) == EXIT_DONE
    assert sorted(path.name for path in tmp_path.glob("*.compared*")) == ["second.first.compared"]
    with store.open("first") as base, store.open("second") as head:
        found = store.open_comparison("first", "second", base, head)
        assert found is not None
        with found:
            assert set(found.figures.counts) == {Change.STILL_THERE} and found.figures.balance.reconciles
