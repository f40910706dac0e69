"""A workspace on a new register, with a clock that tests set and a mailer that keeps what it is given."""

from __future__ import annotations

import shutil
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from pathlib import Path

import pytest

from hodcarrier.core.catalogue import Sample
from hodcarrier.core.plan import read_plan
from hodcarrier.examine.examination import examine
from hodcarrier.register.models import Site
from hodcarrier.runfile.writer import RunWriter
from hodcarrier.service.postman import Enclosed, deliver_due
from hodcarrier.usecases import clients, finishing, runs, sites
from hodcarrier.usecases.workspace import Workspace
from hodcarrier.wire.clients import ClientBody
from hodcarrier.wire.sites import SiteBody, SiteOut
from tests.places import new_place
from tests.sample_site import crawl

START = datetime(2026, 11, 3, 2, 4, tzinfo=UTC)


@dataclass
class KeptMail:
    sent: list[tuple[str, str, str]] = field(default_factory=list)
    html: list[str] = field(default_factory=list)
    enclosed: list[Enclosed] = field(default_factory=list)
    broken: str = ""

    def send(self, to: str, subject: str, text: str, html: str, message_id: str, enclosed: Enclosed | None = None) -> None:
        if self.broken:
            raise OSError(self.broken)
        self.sent.append((to, subject, text))
        self.html.append(html)
        self.enclosed += [enclosed] if enclosed is not None else []


@dataclass
class Office:
    """A workspace with one site, and a way to audit made-up answers as its next run."""

    work: Workspace
    mail: KeptMail
    site: SiteOut

    def at(self, moment: datetime) -> Workspace:
        return replace(self.work, now=lambda: moment)

    def audit(
        self, moment: datetime, answers: Sequence[Sample], plan: Mapping[str, object] | None = None, end: str = "complete"
    ) -> str:
        """Queue, crawl, examine and take in a run, as the service and its worker do; ``end`` is how its crawl ended. Gives its id."""
        work = self.at(moment)
        if plan is not None:
            with work.session() as session:
                session.get_one(Site, self.site.id).plan = read_plan({"start": ["https://shop.example/"], **plan})
        run_id = runs.queue_run(work, self.site.id).id
        self.bring_to_end(moment, run_id, answers, end)
        return run_id

    def bring_to_end(self, moment: datetime, run_id: str, answers: Sequence[Sample], end: str = "complete") -> None:
        """Crawl, examine and take in a run that waits."""
        work = self.at(moment)
        assert runs.claim_run(work, "the test") == run_id
        job = finishing.begin_run(work, run_id)
        writer, _, _ = crawl(tuple(answers), replace(job.plan, rate_per_s=1000))
        base = work.store.open(job.base_id) if job.base_id else None
        writer.put_meta("end", end)
        examine(writer.db, moment, base, job.waivers)
        writer.put_meta("finished_at", moment.isoformat())
        save(writer, work.store.whole_path(run_id))
        writer.close()
        if base is not None:
            base.db.close()
        finishing.finish_run(work, run_id)
        deliver_due(work, self.mail)


def save(writer: RunWriter, path: Path) -> None:
    """Write a run that was made in memory to its file."""
    part = path.with_suffix(".part")
    writer.db.commit()
    writer.db.execute("VACUUM INTO ?", (str(part),))
    whole = RunWriter.resume(part)
    whole.finish()
    whole.close()
    shutil.move(part, path)


@pytest.fixture
def office(tmp_path: Path) -> Office:
    return make_office(tmp_path)


def make_office(folder: Path) -> Office:
    """A workspace in a folder, with one client and one site."""
    mail = KeptMail()
    work = replace(new_place(folder), now=lambda: START)
    client = clients.add_client(work, ClientBody(name="Rope & Sail"), None)
    site = sites.add_site(work, SiteBody(client_id=client.id, address="https://shop.example/"), None)
    return Office(work, mail, site)


Audit = Callable[..., str]
